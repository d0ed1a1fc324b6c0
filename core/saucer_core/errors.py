"""What can go wrong in the core, said so that the person at the screen can act on it."""


class CoreError(Exception):
    """Base of every error the core raises on purpose. ``str()`` is fit to be shown to a person."""


class FileError(CoreError):
    """A file that cannot be taken: names the file, the line where there is one, and the reason."""

    def __init__(self, name: str, reason: str, line: int | None = None) -> None:
        self.name, self.reason, self.line = name, reason, line
        place = f"{name}, line {line}" if line is not None else name
        super().__init__(f"{place}: {reason}")


class LookError(CoreError):
    """A look that cannot be computed as it stands."""


class MissingTable(LookError):
    """A LUT step refers to a table that nobody can supply."""

    def __init__(self, step_id: str, name: str) -> None:
        self.step_id, self.name = step_id, name
        super().__init__(
            f"The LUT “{name or 'unnamed'}” is not in the catalogue any more. "
            "Choose another one, switch the step off, or bring the file in again."
        )


class Abandoned(Exception):
    """Nobody waits for the result any more. No error of the core's: whoever said that it may be given up
    handles it."""
