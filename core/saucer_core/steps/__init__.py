"""The steps of a look: one module a kind."""

from .compose import after, in_order, operations_of
from .kinds import KINDS, AnyStep, Group
from .look_step import LookStep
from .lut_step import LutStep
from .step import Step, Surroundings, Tables, no_tables

__all__ = [
    "KINDS", "AnyStep", "Group", "LookStep", "LutStep", "Step", "Surroundings", "Tables", "after", "in_order", "no_tables", "operations_of",
]  # fmt: skip
