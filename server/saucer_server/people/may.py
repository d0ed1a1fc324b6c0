"""Who may do what: one table, asked by every rule of the server, shown to people, and tested from its
lines."""

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum

from ..errors import forbidden
from .models import Person, Role


class Reach(StrEnum):
    """How far a role may go with an operation."""

    ALL = "all"
    OWN = "own"
    ASKS = "asks"
    NO = "no"


@dataclass(frozen=True)
class Operation:
    """A line of the table. own: what counts as one's own; refusal: what somebody is told who may not, and
    what they can do instead."""

    key: str
    words: str
    applier: Reach
    designer: Reach
    lead: Reach
    own: str
    refusal: str

    def reach(self, role: str) -> Reach:
        """How far a role may go."""
        return {Role.APPLIER: self.applier, Role.DESIGNER: self.designer, Role.LEAD: self.lead}[Role(role)]


_DESIGNERS = "Looks are changed by look designers. You can try this look, assign it, and take its files."
_LEADS = "This is for leads. Ask one of them."
_STARTED = "This is done by who started it, or by a lead."
_ALL = Reach.ALL
_OWN = Reach.OWN
_ASKS = Reach.ASKS
_NO = Reach.NO

#: Every operation that somebody may not do, in the order in which the table is shown.
TABLE = {
    o.key: o
    for o in (
        Operation("look.try", "Try a look, take its files, write a note", _ALL, _ALL, _ALL, "", ""),
        Operation(
            "shot.work",
            "Assign looks, trim shots, change a project",
            _OWN,
            _OWN,
            _ALL,
            "you are in the project, or it names nobody",
            "A project is changed by its members. Ask who made it to add you.",
        ),
        Operation("look.make", "Make looks, variations and presets", _NO, _ALL, _ALL, "", _DESIGNERS),
        Operation(
            "look.change",
            "Change a look, keep a revision",
            _NO,
            _OWN,
            _ALL,
            "you made it, or its maker shares it",
            "This look is changed by who made it. Make a variation of it, or ask its maker to share it.",
        ),
        Operation(
            "bake",
            "Bake",
            _NO,
            _ALL,
            _ALL,
            "",
            "Files are baked by look designers. You can take those that are there.",
        ),
        Operation(
            "bring_in",
            "Bring in looks, tables and encodings",
            _NO,
            _ALL,
            _ALL,
            "",
            "Look designers bring files in. Ask one of them.",
        ),
        Operation(
            "catalogue.order",
            "Give tags, order collections, send packs out",
            _NO,
            _ALL,
            _ALL,
            "",
            "The catalogue is kept in order by look designers. Ask one of them.",
        ),
        Operation(
            "review.ask",
            "Ask for a review",
            _NO,
            _OWN,
            _ALL,
            "you made the look, or its maker shares it",
            "A review is asked for by who made the look. Make a variation of it, or ask its maker to "
            "share it.",
        ),
        Operation(
            "review.decide",
            "Approve, send back, retire, merge twins",
            _NO,
            _NO,
            _ALL,
            "",
            "Leads approve and retire looks. Ask for a review instead.",
        ),
        Operation(
            "started.end",
            "Change or remove what was brought",
            _OWN,
            _OWN,
            _ALL,
            "you brought or began it",
            _STARTED,
        ),
        Operation(
            "held.pass_on",
            "Let go out what must be asked for first",
            _ASKS,
            _ASKS,
            _ALL,
            "",
            "Only a lead lets looks go out that must be asked for first.",
        ),
        Operation("project.make", "Start projects, say who is in them", _NO, _NO, _ALL, "", _LEADS),
        Operation("people.change", "Invite people, change roles, let in no more", _NO, _NO, _ALL, "", _LEADS),
    )
}


def may(person: Person, operation: str, own: bool | Callable[[], bool] = False) -> bool:
    """Whether a person may do something. own: whether it is theirs; asked for only where the table makes a
    difference."""
    reach = TABLE[operation].reach(person.role)
    if reach is Reach.OWN:
        return own() if callable(own) else own
    return reach is Reach.ALL


def must(person: Person, operation: str, own: bool | Callable[[], bool] = False, words: str = "") -> None:
    """Raises 403, with the table's words or better ones, where a person may not do something."""
    if not may(person, operation, own):
        reach = TABLE[operation].reach(person.role)
        general = (
            _DESIGNERS
            if reach is Reach.NO and operation in ("look.change", "review.ask")
            else TABLE[operation].refusal
        )
        raise forbidden(words if words and reach is Reach.OWN else general)
