"""Tables of figures, printed and kept as Markdown."""

from dataclasses import dataclass, field


@dataclass
class Table:
    """A titled table of words."""

    title: str
    head: list[str]
    rows: list[list[str]] = field(default_factory=list)

    def add(self, *cells: str) -> None:
        """One row; also printed at once, so that a long run shows how far it is."""
        self.rows.append(list(cells))
        print("  " + "  ".join(cells), flush=True)

    def markdown(self) -> str:
        """The table as Markdown."""
        lines = [f"### {self.title}", "", "| " + " | ".join(self.head) + " |", "|" + "---|" * len(self.head)]
        return "\n".join([*lines, *("| " + " | ".join(row) + " |" for row in self.rows), ""])
