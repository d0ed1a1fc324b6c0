"""Cut lists that go out: the events of a cut with the looks and trims of their shots."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from pathlib import PurePath

from saucer_core.baking.correction import said_as_cdl
from saucer_core.formats.cutlists import cmx, otio
from saucer_core.formats.cutlists.otio import Treated
from saucer_core.steps.slope_offset_power import Correction
from saucer_core.trim import Trim

from ..errors import RuleError
from ..fields import safe_name
from ..frames import rules as frames
from ..projects.rules import Shot, shots_of
from .rules import Cut

__all__ = ["Dressed", "listed", "with_looks"]

#: Pixels across a picture on which a CDL is found that stands for a trim.
MEASURED = 240
#: Trims that are so found while somebody waits.
FOUND = 40


@dataclass(frozen=True)
class Dressed:
    """What an event is shown with. looks: name, revision and strength of each, the lowest first; encoding: of
    its picture; lut: a file that does all of it, as a path from where the list lies, or empty."""

    looks: tuple[tuple[str, int, float], ...]
    trim: Trim
    encoding: str
    picture: Callable[[], frames.Frame]
    lut: str = ""

    @property
    def correction_alone(self) -> bool:
        """Whether its trim is an ASC CDL by itself."""
        trim = self.trim
        return trim == Trim(red=trim.red, green=trim.green, blue=trim.blue, saturation=trim.saturation)

    def correction(self) -> Correction | None:
        """The ASC CDL that says its trim; nothing where there is none to say, or none comes near."""
        if self.trim == Trim():
            return None
        if self.correction_alone:
            return self.trim.correction().correction()
        said = said_as_cdl(self.trim, self.encoding, frames.original(self.picture(), MEASURED))
        return said.correction if said.enough else None


def _dressed(shot: Shot) -> Dressed:
    looks = tuple((x.revision.look.name, x.revision.number, x.strength) for x in shot.layers.all())
    return Dressed(looks, shot.trim, shot.frame.encoding, lambda: shot.frame)


def with_looks(cut: Cut, suffix: str, places: Mapping[int, Dressed], alive: Callable[[], None]) -> str:
    """The text of a cut's list, ``.otio`` or ``.edl``. places: what events are shown with, by their places
    from 0. alive: called before each."""
    events, treated = [], {}
    for place, event in enumerate(cut.events):
        alive()
        on = places.get(place)
        if on is not None:
            event = replace(event, correction=on.correction())
            treated[place] = Treated(on.looks, on.lut, on.trim.model_dump(mode="json"))
        events.append(event)
    made = replace(cut.as_list, events=tuple(events))
    return otio.write(made, treated) if suffix == otio.SUFFIX else cmx.write(made)


def listed(cut: Cut, suffix: str) -> tuple[str, str]:
    """The name and the text of a cut's list as it goes out at once. Raises 409 where that would take long."""
    shots = {shot.pk: _dressed(shot) for shot in shots_of(cut.project)}
    places = {k: shots[met.shot] for k, met in enumerate(cut.met) if met.shot in shots}
    slow = sum(not on.correction_alone for on in places.values())
    if slow > FOUND:
        raise RuleError(
            409,
            f"{slow} trims are no ASC CDL by themselves: finding those that stand for them takes long. "
            "Deliver the cut list instead; a worker makes it.",
        )
    name = safe_name(f"{PurePath(cut.file_name).stem} with looks") + suffix
    return name, with_looks(cut, suffix, places, lambda: None)
