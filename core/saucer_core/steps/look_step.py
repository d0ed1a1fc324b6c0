"""Look."""

from typing import TYPE_CHECKING, Any, ClassVar, Literal, Optional

from pydantic import Field

from ..encodings import encoding, meeting
from ..operations import Operation, apply, fuse
from .blend import Eased
from .compose import in_order
from .step import PLAIN, Purpose, Step, Surroundings
from .traced import line, ramp

if TYPE_CHECKING:
    from ..look import Look


class LookStep(Step):
    """A pinned revision of another look, whole inside the step: it cannot change or get lost.

    What comes in is brought to what the look expects as a frame would be (``encodings.meeting``), and what it gives is
    brought back the same way, so that looks of any kind can be stacked.
    """

    title: ClassVar[str] = "Look"
    purpose: ClassVar[Purpose] = "borrow"
    summary: ClassVar[str] = "A revision of another look, eased and blended"

    kind: Literal["look"] = "look"
    look: Optional["Look"] = Field(None, title="Look")
    revision: int = Field(0, ge=0, title="Revision", description="which revision it was taken from; 0: none")
    name: str = Field("", max_length=160, pattern=PLAIN, title="Name")

    def neutral(self) -> bool:
        return self.look is None

    def operations(self, at: Surroundings) -> list[Operation]:
        assert self.look is not None
        source, target = encoding(self.look.input), encoding(self.look.output)
        inside = in_order(self.look.steps, Surroundings(source, at.tables))
        if self.look.strength < 1:
            inside = [Eased(fuse(inside), fuse(meeting(source, target)), "normal", self.look.strength)]
        return [*meeting(at.encoding, source), *inside, *meeting(target, at.encoding)]

    def trace(self, at: Surroundings) -> dict[str, Any]:
        if self.look is None:
            return {}
        out = apply(self.operations(at), ramp())
        return {"x": line(ramp()[:, 0]), "red": line(out[:, 0]), "green": line(out[:, 1]), "blue": line(out[:, 2])}
