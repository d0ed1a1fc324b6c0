"""Tables of figures, printed and kept as Markdown."""

import textwrap
from dataclasses import dataclass, field

#: Characters in a line of the docs.
WIDTH = 110


@dataclass
class Table:
    """A titled table of words."""

    title: str
    head: list[str]
    rows: list[list[str]] = field(default_factory=list)
    held: list[str] = field(default_factory=list)
    missed: list[str] = field(default_factory=list)

    def add(self, *cells: str) -> None:
        """One row; also printed at once, so that a long run shows how far it is."""
        self.rows.append(list(cells))
        print("  " + "  ".join(cells), flush=True)

    def want(self, what: str, measured: float, at_most: float, unit: str = "") -> None:
        """A limit that Saucer promises. Where one is missed, the measuring as a whole fails."""
        side = self.held if measured <= at_most else self.missed
        side.append(f"{what} {measured:.4g}{unit} (wanted {at_most:g}{unit})")

    def markdown(self) -> str:
        """The table as Markdown."""
        lines = [f"### {self.title}", "", "| " + " | ".join(self.head) + " |", "|" + "---|" * len(self.head)]
        lines += ["| " + " | ".join(row) + " |" for row in self.rows]
        for word, said in (("Held", self.held), ("Missed", self.missed)):
            if said:
                lines += ["", textwrap.fill(f"{word}: {'; '.join(said)}.", WIDTH)]
        return "\n".join([*lines, ""])
