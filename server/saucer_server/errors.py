"""What a rule says no with."""

from typing import Any


class RuleError(Exception):
    """A request that cannot be met: an HTTP status, words for the person, and what else they need to go
    on."""

    def __init__(self, status: int, message: str, **detail: Any) -> None:
        super().__init__(message)
        self.status, self.message, self.detail = status, message, detail


def missing(what: str) -> RuleError:
    """404: not there, or not any more."""
    return RuleError(404, f"This {what} is not here any more. Go back to the list and choose another.")


def forbidden(message: str) -> RuleError:
    """403: there, but not for this person."""
    return RuleError(403, message)
