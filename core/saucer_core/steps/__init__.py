"""The steps of a look: one module a kind."""

from .kinds import KINDS, AnyStep, Group, run, run_step
from .step import Step, Surroundings, Tables, no_tables

__all__ = ["KINDS", "AnyStep", "Group", "Step", "Surroundings", "Tables", "no_tables", "run", "run_step"]
