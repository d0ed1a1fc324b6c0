"""What is looked for in the catalogue: as the screens ask it, and as it stands in a search that is kept."""

import math
from datetime import date
from typing import Annotated, Any, Literal, get_args
from urllib.parse import parse_qs

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field, ValidationError
from saucer_core.readings.scales import BY_KEY

from ..errors import RuleError
from ..fields import Text
from ..lookup import LARGEST, Id

#: In what order looks can stand beside by a trait.
ORDERS = ("fit", "name", "newest", "used", "recent", "by hand", *BY_KEY)
#: A trait between two values.
Range = tuple[str, float, float]


def _range(word: str) -> Range | None:
    key, *ends = word.split(":")
    if key not in BY_KEY or len(ends) != 2:
        return None
    try:
        low, high = float(ends[0] or -math.inf), float(ends[1] or math.inf)
    except ValueError:
        return None
    return (key, low, high) if low <= high else None


def _is_range(word: str) -> str:
    if _range(word) is None:
        raise ValueError(f"“{word}” is not a range of a trait. Write, say, warmth:-10:40")
    return word


def _is_order(word: str) -> str:
    if word not in ORDERS:
        raise ValueError(f"“{word}” is none of {', '.join(ORDERS)}")
    return word


def _is_plain_number(said: object) -> object:
    """Digits alone: not a small 2 above the line, or digits of another script."""
    if isinstance(said, str) and not (said.isascii() and said.isdecimal()):
        raise ValueError(f"“{said[:40]}” is no number")
    if isinstance(said, str) and (len(said) > len(str(LARGEST)) or int(said) > LARGEST):
        raise ValueError(f"“{said[:40]}” is no number that anything here has")
    return said


def _is_day(said: object) -> object:
    if isinstance(said, str):
        try:
            return date.fromisoformat(said)
        except ValueError:
            raise ValueError(f"“{said[:40]}” is no date. Write, say, 2026-03-31") from None
    return said


#: A query by field, before it is checked.
Said = dict[str, Any]
Short = Annotated[Text, Field(max_length=80)]
Several = Annotated[tuple[Short, ...], Field(max_length=30)]
Number = Annotated[Id, BeforeValidator(_is_plain_number)]


class Search(BaseModel):
    """What is looked for. Several values of one kind: any of them; but a look carries all of the tags. All of
    it combines.

    origin: brought in or made here. project: the number of one that uses the look. since: kept on that day or
    later. expects: keys of encodings. fits: the number of a frame whose colours the look is made for. mine:
    one's favourites, or what one looked at. range: traits between two values, ``warmth:-10:40``; an end left
    out is open. order: how what is found stands; backwards: the other way round.
    """

    model_config = ConfigDict(frozen=True)

    q: Text = Field("", max_length=200)
    tag: Annotated[tuple[Annotated[Text, Field(max_length=40)], ...], Field(max_length=30)] = ()
    status: Several = ()
    collection: Short = ""
    maker: Several = ()
    rights: Annotated[tuple[Annotated[Text, Field(max_length=300)], ...], Field(max_length=30)] = ()
    origin: Literal["", "here", "brought in"] = ""
    project: Number | None = None
    since: Annotated[date, BeforeValidator(_is_day)] | None = None
    expects: Several = ()
    fits: Number | None = None
    mine: Literal["", "favourites", "recent"] = ""
    range: Annotated[tuple[Annotated[Short, AfterValidator(_is_range)], ...], Field(max_length=30)] = ()
    order: Annotated[Short, AfterValidator(_is_order)] = "name"
    backwards: bool = False

    @property
    def ranges(self) -> list[Range]:
        """Its ranges, each as a trait and two values."""
        return [found for word in self.range if (found := _range(word)) is not None]

    def is_set(self) -> bool:
        """Whether fewer than all looks may be found."""
        return self.model_copy(update={"order": "name", "backwards": False}) != Search()

    def without(self, kind: str) -> "Search":
        """The same without one kind of filter."""
        return self.model_copy(update={kind: Search.model_fields[kind].default})

    @classmethod
    def of_address(cls, address: str) -> "Search":
        """What the query of an address says. What makes no sense (any more) is left out, so that an old
        search still opens."""
        said = _said(address)
        while True:
            try:
                return cls.model_validate(said)
            except ValidationError as error:
                _leave_out(said, [problem["loc"] for problem in error.errors()])

    @classmethod
    def strictly(cls, address: str) -> "Search":
        """What the query of an address says; raises 422 where a part of it makes no sense."""
        try:
            return cls.model_validate(_said(address))
        except ValidationError as error:
            problem = error.errors()[0]
            words = problem["msg"].removeprefix("Value error, ")
            raise RuleError(422, f"In “{problem['loc'][0]}”: {words}.") from None


def _said(address: str) -> Said:
    """The query of an address by field: lists where several values may be, else the first."""
    said = parse_qs(address.removeprefix("?"))
    return {
        kind: values if _takes_several(kind) else values[0]
        for kind, values in said.items()
        if kind in Search.model_fields
    }


def _leave_out(said: Said, wrong: list[tuple[int | str, ...]]) -> None:
    """Takes what is wrong out of what is said: values of a list one by one."""
    for kind, *inside in sorted(wrong, key=lambda loc: loc[1:2], reverse=True):
        values = said.get(str(kind))
        if inside and isinstance(values, list) and isinstance(inside[0], int):
            del values[inside[0]]
        else:
            said.pop(str(kind), None)


def _takes_several(kind: str) -> bool:
    return get_args(Search.model_fields[kind].annotation)[-1:] == (Ellipsis,)
