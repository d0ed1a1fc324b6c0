"""The steps of a look that work on colours: one module a kind. Kinds that hold other steps stand in
``look``."""

from .lut_step import LutStep
from .step import Step, Surroundings, Tables, no_tables

__all__ = ["LutStep", "Step", "Surroundings", "Tables", "no_tables"]
