"""Checks: measured warnings with a way out. Limits are the house's; what is within them is nobody's business but the designer's."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32
from ..encodings import encoding, meet
from ..encodings.oklab import to_oklab
from ..errors import LookError
from ..look import Look, evaluate, every_step, part_of, surroundings
from ..steps import LutStep, Surroundings, Tables, no_tables
from ..steps.encode import Encode
from ..steps.hue_ranges import HueRanges
from ..steps.roll_off import RollOff
from ..steps.saturation import Saturation
from ..steps.scene_to_display import SceneToDisplay
from ..steps.step import Step, new_id
from .masks import SLACK
from .traits import Traits, traits

Flags = NDArray[np.bool_]
Kind = Literal[
    "clipped tones", "encoding", "ending", "tone turns back", "banding", "folded hues", "grey drift", "skin", "gamut", "clipping", "finish",
]  # fmt: skip
Mend = Literal["move", "convert", "end", "soften", "guard skin", "fit gamut", "ease", ""]

#: Share of a picture that may be flat before a step that works on tones; gain below which a tone counts as flat.
FLAT_SHARE, FLAT_GAIN = 0.02, 0.0012
#: Largest jump between neighbouring 8-bit greys, in 8-bit codes.
JUMP = 7.0
#: Degrees of the hue circle that may run backwards.
BACKWARDS = 25.0
#: OKLab chroma that mid grey may gain.
DRIFT = 0.11
#: Turn of skin in degrees, and how far its colour may be driven up or down.
SKIN_TURN, SKIN_MOST, SKIN_LEAST = 34.0, 2.2, 0.3
#: Shares of a picture: out of gamut by more than 5 % code, and newly clipped.
GAMUT_SHARE, GAMUT_DEPTH, CLIP_SHARE = 0.08, 0.05, 0.06
#: Pixels taken of each picture.
PIXELS = 6000

_TONE = ("exposure", "contrast", "levels", "curves", "balance", "slope_offset_power", "lift_gamma_gain")


@dataclass(frozen=True)
class Check:
    """What, how much, where, and what mends it.

    amount: a share, degrees or codes, as the text says. step: the id of the step at fault. picture: index of the picture where it
    is worst, −1 for none. mask: which mask shows it (see ``masks``), empty for none. target: where ``move`` moves the step to.
    """

    kind: Kind
    text: str
    amount: float
    step: str = ""
    picture: int = -1
    mask: Literal["", "black", "white", "outside"] = ""
    mend: Mend = ""
    action: str = ""
    target: str = ""
    note: bool = False


def _sample(picture: F32) -> F32:
    flat = picture.reshape(-1, 3)
    found: F32 = np.ascontiguousarray(flat[:: max(1, len(flat) // PIXELS)])
    return found


def _name(step: Any) -> str:
    return str(step.label or step.title)


def _numbered(look: Look, step_id: str) -> str:
    rows = [s for s in every_step(look.steps) if s.kind != "group"]  # type: ignore[attr-defined]
    k = next((i for i, s in enumerate(rows, 1) if s.id == step_id), 0)
    step = next(s for s in every_step(look.steps) if s.id == step_id)
    return f"Step {k} ({_name(step)})" if k else _name(step)


def _flat(look: Look, upto: str | None, given: F32, brighter: F32, tables: Tables) -> Flags:
    """Which pixels no longer change when their light does."""
    if upto is None:
        part = look.model_copy(update={"steps": [], "output": look.input})
    else:
        part = part_of(look, upto=upto)
        part = part.model_copy(update={"output": part.end().key})
    a, b = evaluate(part, given, tables=tables), evaluate(part, brighter, tables=tables)
    found: Flags = np.abs(a - b).max(axis=1) < FLAT_GAIN
    return found


def _clipped_tones(look: Look, pictures: Sequence[F32], tables: Tables) -> list[Check]:
    top = [s for s in look.steps if s.on and not s.neutral()]
    wanted = [k for k, s in enumerate(top) if k and (s.kind in _TONE)]
    if not wanted or not pictures:
        return []
    at = encoding(look.input)
    found: list[Check] = []
    given = [_sample(p) for p in pictures]
    brighter = [at.encode(at.decode(g) * np.float32(1.19)) for g in given]
    first = [_flat(look, None, g, b, tables) for g, b in zip(given, brighter, strict=True)]
    # What each step leaves flat, once for all: a step at fault is the first after which a picture is flat.
    flat_after: dict[str, list[float]] = {}
    for step in top[: max(wanted)]:
        after = [_flat(look, step.id, g, b, tables) for g, b in zip(given, brighter, strict=True)]
        flat_after[step.id] = [float((f & ~f0).mean()) for f, f0 in zip(after, first, strict=True)]
    for k in wanted:
        shares = flat_after[top[k - 1].id]
        worst = int(np.argmax(shares))
        if shares[worst] < FLAT_SHARE:
            continue
        culprit = next(s for s in top[:k] if flat_after[s.id][worst] > FLAT_SHARE / 2)
        text = f"{_numbered(look, top[k].id)} works on clipped tones: {shares[worst]:.0%} is already flat before it."
        action = f"Move above {_name(culprit)}"
        found.append(Check("clipped tones", text, shares[worst], top[k].id, worst, "white", "move", action, culprit.id))
        break
    return found


def _encodings(look: Look, tables: Tables) -> list[Check]:
    found: list[Check] = []
    around = surroundings(look, tables)
    for step in every_step(look.steps):
        if not step.on:
            continue
        given = around[step.id].encoding
        if isinstance(step, LutStep) and step.table:
            wanted = encoding(step.expects)
            if wanted.referred != given.referred:
                text = f"{_numbered(look, step.id)} wants {wanted.label} and is given {given.label}: its colours come out wrong."
                found.append(Check("encoding", text, 1.0, step.id, mend="convert", action=f"Bring the picture to {wanted.label} first"))
        if isinstance(step, Encode):
            target = encoding(step.to)
            if given.referred == "scene" and target.referred == "display":
                text = f"{_numbered(look, step.id)} shows scene light on a display without rendering it: lights beyond white are cut."
                found.append(Check("encoding", text, 1.0, step.id, mend="convert", action="Render it with Scene to display"))
    return found


def _ending(look: Look) -> list[Check]:
    end, wanted = look.end(), encoding(look.output)
    if end == wanted:
        return []
    text = f"The steps end in {end.label}, but the look goes out as {wanted.label}."
    return [Check("ending", text, 1.0, mend="end", action=f"Add the conversion to {wanted.label}")]


def _greys(look: Look, tables: Tables) -> F32:
    at = encoding(look.input)
    ramp = np.repeat(np.linspace(0, 1, 256, dtype=np.float32)[:, None], 3, axis=1)
    if at.response == "linear":
        ramp = encoding("film_log").decode(ramp * np.float32(0.8))
    return evaluate(look, ramp, tables=tables)


def _culprit(look: Look, tables: Tables, wrong: Callable[[F32], bool]) -> str:
    """The first step after which a grey ramp is wrong."""
    for step in look.steps:
        part = part_of(look, upto=step.id)
        if step.on and wrong(_greys(part.model_copy(update={"output": part.end().key}), tables)):
            return step.id
    return ""


def _tone(look: Look, tables: Tables) -> list[Check]:
    weights = np.array([0.2126, 0.7152, 0.0722], dtype=np.float32)

    def back(out: F32) -> bool:
        return float(np.diff(np.clip(out, 0, 1) @ weights).min()) < -2e-3

    def jumps(out: F32) -> bool:
        return float(np.diff(np.clip(out, 0, 1), axis=0).max()) * 255 > JUMP

    out = _greys(look, tables)
    found = []
    if back(out):
        fall = -float(np.minimum(np.diff(np.clip(out, 0, 1) @ weights), 0).sum()) * 255
        step = _culprit(look, tables, back)
        text = f"Tones turn back: a lighter grey comes out darker, by {fall:.0f} of 255 in all."
        found.append(Check("tone turns back", text, fall, step, **_easing(look, step)))
    if encoding(look.input).response == "display" and jumps(out):
        worst = float(np.diff(np.clip(out, 0, 1), axis=0).max()) * 255
        step = _culprit(look, tables, jumps)
        text = f"Neighbouring 8-bit greys come out up to {worst:.0f} codes apart: soft shades will band."
        found.append(Check("banding", text, worst, step, **_easing(look, step)))
    return found


def _hues(look: Look, tables: Tables) -> list[Check]:
    from .traits import _lch, _through

    wheel = _lch(tuple((0.66, 0.09, float(h)) for h in range(0, 360, 5)))
    lab = to_oklab(np.clip(_through(look, wheel, tables), 0, 1), encoding("srgb"))
    if float(np.hypot(lab[:, 1], lab[:, 2]).mean()) < 0.02:
        return []
    # A tint over everything is no fold: hues are judged around their own middle.
    lab[:, 1:] -= lab[:, 1:].mean(axis=0)
    turn = np.degrees(np.arctan2(lab[:, 2], lab[:, 1]))
    step = (np.diff(np.concatenate([turn, turn[:1]])) + 180) % 360 - 180
    strong = np.hypot(lab[:, 1], lab[:, 2]) > 0.02
    backwards = float(-step[(step < 0) & strong].sum())
    if backwards < BACKWARDS:
        return []
    at_fault = next((s.id for s in look.steps if s.on and isinstance(s, HueRanges)), "")
    text = f"Hues are folded: {backwards:.0f}° of the circle run backwards, different colours become the same."
    return [Check("folded hues", text, backwards, at_fault, **_easing(look, at_fault))]


def _halved(look: Look, step_id: str) -> Look:
    """With one step, inside groups too, at half its strength."""
    steps = _replaced(look.steps, step_id, lambda s: [s.model_copy(update={"strength": round(s.strength / 2, 3)})])
    return look.model_copy(update={"steps": steps})


def _heaviest(look: Look, tables: Tables, badness: Callable[[Traits], float]) -> str:
    """The step whose easing helps most; empty where there is none to ease."""
    eased = [s for s in look.steps if s.on and s.strength > 0 and not s.neutral() and s.purpose != "convert"]
    if not eased:
        return ""
    left = [badness(traits(_halved(look, s.id), tables=tables)) for s in eased]
    return str(eased[int(np.argmin(left))].id)


def _skin(look: Look, seen: Traits, tables: Tables) -> list[Check]:
    if seen.monochrome:
        return []
    turned = abs(seen.skin_hue) > SKIN_TURN
    driven = not SKIN_LEAST <= seen.skin_saturation <= SKIN_MOST
    if not turned and not driven:
        return []
    guard = next((s.id for s in look.steps if s.on and isinstance(s, Saturation) and s.skin_guard < 0.7), "")
    what = f"turned by {seen.skin_hue:+.0f}°" if turned else f"at {seen.skin_saturation:.0%} of its colour"
    text = f"Skin is {what}: faces will not look like faces."
    if guard:
        return [Check("skin", text, abs(seen.skin_hue), guard, mend="guard skin", action="Guard skin")]
    at_fault = _heaviest(look, tables, lambda t: abs(t.skin_hue) / SKIN_TURN + abs(float(np.log(max(t.skin_saturation, 1e-3)))))
    return [Check("skin", text, abs(seen.skin_hue), at_fault, **_easing(look, at_fault))]


def _easing(look: Look, step: str) -> dict[str, Any]:
    """The action that eases a step; none where there is no step."""
    return {"mend": "ease", "action": f"Ease {_numbered(look, step)} to half"} if step else {}


def _drift(look: Look, seen: Traits, tables: Tables) -> list[Check]:
    chroma = float(np.hypot(seen.warmth, seen.tint)) / 1000
    if chroma < DRIFT:
        return []
    text = f"Mid grey drifts: it gains a chroma of {chroma:.2f}, as much as a strong colour has."
    at_fault = _heaviest(look, tables, lambda t: float(np.hypot(t.warmth, t.tint)))
    return [Check("grey drift", text, chroma, at_fault, **_easing(look, at_fault))]


def _pictures(look: Look, pictures: Sequence[F32], tables: Tables) -> list[Check]:
    found: list[Check] = []
    outside, clipped = [], []
    for p in pictures:
        given = _sample(p)
        out = evaluate(look, given, tables=tables)
        outside.append(float((out < -GAMUT_DEPTH).any(axis=1).mean()))
        before = (meet(given, encoding(look.input), encoding(look.output)) >= 0.985).all(axis=1)
        clipped.append(float(((out >= 1 - SLACK).all(axis=1) & ~before).mean()))
    if encoding(look.output).response != "display":
        return []
    if outside and max(outside) > GAMUT_SHARE:
        worst = int(np.argmax(outside))
        text = f"{outside[worst]:.0%} of a frame lies outside what the display can show and is cut."
        found.append(
            Check("gamut", text, outside[worst], picture=worst, mask="outside", mend="fit gamut", action="Fit the gamut at the end")
        )
    if clipped and max(clipped) > CLIP_SHARE:
        worst = int(np.argmax(clipped))
        text = f"{clipped[worst]:.0%} of a frame becomes plain white."
        found.append(Check("clipping", text, clipped[worst], picture=worst, mask="white", mend="soften", action="Soften the lights"))
    return found


def _finish(look: Look) -> list[Check]:
    active = [name.replace("_", " ") for name, _ in look.finish.active()]
    if not active:
        return []
    text = f"Shown, never baked: {', '.join(active)}."
    return [Check("finish", text, float(len(active)), note=True)]


def checks(look: Look, pictures: Sequence[F32] = (), *, tables: Tables = no_tables) -> list[Check]:
    """All that is worth a designer's attention, the gravest first. pictures: float32 ``(..., 3)`` in ``look.input``, trimmed."""
    ending = _ending(look)
    if ending:
        return [*ending, *_encodings(look, tables), *_finish(look)]
    try:
        seen = traits(look, tables=tables)
    except LookError as error:
        return [Check("ending", str(error), 1.0)]
    found = [
        *_encodings(look, tables), *_clipped_tones(look, pictures, tables), *_tone(look, tables), *_hues(look, tables),
        *_skin(look, seen, tables), *_drift(look, seen, tables), *_pictures(look, pictures, tables), *_finish(look),
    ]  # fmt: skip
    return found


def _moved(steps: list[Any], step_id: str, target: str) -> list[Any]:
    moving = next(s for s in steps if s.id == step_id)
    rest = [s for s in steps if s.id != step_id]
    k = next(i for i, s in enumerate(rest) if s.id == target)
    return [*rest[:k], moving, *rest[k:]]


def _replaced(steps: list[Any], step_id: str, change: Callable[[Any], list[Any]]) -> list[Any]:
    found: list[Any] = []
    for step in steps:
        if step.id == step_id:
            found += change(step)
        elif step.kind == "group":
            found.append(step.model_copy(update={"steps": _replaced(step.steps, step_id, change)}))
        else:
            found.append(step)
    return found


def _converted(look: Look, check: Check, tables: Tables) -> list[Any]:
    at: dict[str, Surroundings] = surroundings(look, tables)

    def change(step: Any) -> list[Any]:
        if isinstance(step, Encode):
            return [SceneToDisplay(id=step.id, to=step.to)]
        given, wanted = at[step.id].encoding, encoding(step.expects)
        if wanted.referred == "display":
            return [SceneToDisplay(id=new_id(), to=wanted.key), step]
        # A display picture for a table of scene light: it is taken back to the scene by a look that does nothing else.
        from ..steps import LookStep

        inner = Look(input=wanted.key, output=step.gives, steps=[step])
        return [LookStep(id=new_id(), label=f"{step.name or 'LUT'} on {given.label}"[:80], name=step.name[:160], look=inner)]

    return _replaced(look.steps, check.step, change)


def mend(look: Look, check: Check, *, tables: Tables = no_tables) -> Look:
    """The look with the check's one action done. Raises ``LookError`` where the check has none."""
    steps: list[Any] = list(look.steps)
    if check.mend == "move":
        steps = _moved(steps, check.step, check.target)
    elif check.mend == "convert":
        steps = _converted(look, check, tables)
    elif check.mend == "end":
        end, wanted = look.end(), encoding(look.output)
        rendered = end.referred == "scene" and wanted.referred == "display"
        last: Step = SceneToDisplay(to=wanted.key) if rendered else Encode(to=wanted.key)
        steps.append(last)
    elif check.mend == "soften":
        steps.append(RollOff(lights=0.6))
    elif check.mend == "fit gamut":
        steps.append(Encode(to=look.output, fit=True))
    elif check.mend == "guard skin":
        steps = _replaced(steps, check.step, lambda s: [s.model_copy(update={"skin_guard": 0.9})])
    elif check.mend == "ease":
        steps = list(_halved(look, check.step).steps)
    else:
        raise LookError("There is nothing to mend here.")
    return Look.model_validate(look.model_copy(update={"steps": steps}).model_dump())
