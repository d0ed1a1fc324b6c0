"""What goes out: the parts, in which encodings, under which names; and the pieces that make it."""

from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass
from typing import Any, Literal

from pydantic import TypeAdapter
from saucer_core.encodings import SDR_WHITE, SdrWhite, encoding
from saucer_core.formats.clip_writing import CLIP_KINDS
from saucer_core.formats.recipe import SUFFIX

from ..bakes.finished import PICTURE_KINDS
from ..bakes.names import named
from ..errors import RuleError
from ..fields import safe_name
from ..looks import rules as looks
from ..projects.rules import Project, Shot, shots_of, trim_of

#: The parts of a delivery, in the order they are made in, and what each is called.
PARTS = {
    "looks": "Look LUTs",
    "shots": "Shot LUTs",
    "cdl": "CDL list",
    "ocio": "OpenColorIO configuration",
    "recipes": "Recipes",
    "stills": "Stills",
    "clips": "Clips",
    "sheet": "Contact sheet",
}
#: Encodings that a delivery offers at once; others can be added.
OFFERED = ("bt709_display", "display_p3", "pq")
USUAL_PARTS = ("looks", "shots", "cdl", "ocio", "recipes", "stills", "clips")
#: What a shot's file can be named by.
NAMES = ("project", "scene", "number", "shot", "look", "revision", "out")
USUAL_NAMES = ("number", "shot", "out")
#: Rights with which a look leaves the studio only if a lead says so.
HELD = ("ask first", "inside the project")
Held = Literal["stop", "leave", "anyway"]


@dataclass(frozen=True)
class Plan:
    """What is to go out.

    encodings: keys; empty for what each look gives. picture, clip: kinds of file. held: what is done with
    looks that may not be passed on without asking: stop, leave their shots out, or (leads alone) deliver them
    all the same. drop_folder: also to the drop folder.
    white: cd/m² at which PQ and HLG show the white of a standard display.
    """

    parts: tuple[str, ...] = USUAL_PARTS
    encodings: tuple[str, ...] = ()
    grid: int = 33
    picture: str = "png16"
    clip: str = "h264_10"
    finish: bool = True
    names: tuple[str, ...] = USUAL_NAMES
    held: Held = "stop"
    drop_folder: bool = False
    white: SdrWhite = SDR_WHITE


_PLAN = TypeAdapter(Plan)


def sound(plan: Plan) -> None:
    """Raises 422 for a part, an encoding, a kind or a piece of a name there is not."""
    for given, known, what in (
        (plan.parts, PARTS, "Parts of a delivery"),
        (plan.names, NAMES, "Parts of a name"),
        ((plan.picture,), PICTURE_KINDS, "Kinds of picture"),
        ((plan.clip,), CLIP_KINDS, "Kinds of clip"),
    ):
        unknown = [one for one in given if one not in known]
        if unknown:
            raise RuleError(422, f"{what} are {', '.join(known)}, not “{unknown[0][:40]}”.")
    if not plan.parts or not plan.names:
        raise RuleError(422, "Choose at least one part, and one part of the names.")
    for key in plan.encodings:
        encoding(key)


def snapshot(shot: Shot) -> dict[str, Any]:
    """All that the files of a shot are made from, as it is now."""
    return {
        "id": shot.pk,
        "number": shot.number,
        "name": shot.name,
        "scene": shot.scene.name if shot.scene else "",
        "frame": shot.frame_id,
        "encoding": shot.frame.encoding,
        "digest": shot.frame.digest,
        "clip": shot.clip_id,
        "first": shot.first,
        "last": shot.last,
        "trim": trim_of(shot).model_dump(),
        "layers": [[x.revision_id, x.strength] for x in shot.layers.all()],
        "words": " + ".join(
            f"{x.revision}{f' {x.strength:.0%}' if x.strength < 1 else ''}" for x in shot.layers.all()
        ),
        "looks": [[x.revision.look.name, x.revision.number, x.strength] for x in shot.layers.all()],
    }


@dataclass(frozen=True)
class Taken:
    """The shots that go out, and in words those that do not. held: names of looks that must be asked for."""

    shots: list[dict[str, Any]]
    left_out: list[str]
    held: list[str]


def taken(project: Project, plan: Plan) -> Taken:
    """Which shots go out by a plan."""
    going, left, held = [], [], []
    for shot in shots_of(project):
        layers = list(shot.layers.all())
        if not layers:
            left.append(f"{shot.number} {shot.name}: no look is on it")
            continue
        asked = sorted({x.revision.look.name for x in layers if x.revision.look.rights in HELD})
        held += [name for name in asked if name not in held]
        if asked and plan.held == "leave":
            left.append(f"{shot.number} {shot.name}: {', '.join(asked)} must be asked for first")
        else:
            going.append(snapshot(shot))
    return Taken(going, left, held)


def outs(plan: Plan, own: str) -> tuple[str, ...]:
    """The encodings that something which gives ``own`` goes out in."""
    return plan.encodings or (own,)


def _values(project: Project, shot: dict[str, Any], out: str) -> dict[str, str]:
    look = shot["looks"][0] if shot["looks"] else ("", 0, 1)
    return {
        "project": project.name,
        "scene": shot["scene"],
        "number": f"{shot['number']:03d}",
        "shot": shot["name"],
        "look": look[0],
        "revision": f"r{look[1]}" if look[0] else "",
        "out": encoding(out).label,
    }


def shot_name(project: Project, plan: Plan, shot: dict[str, Any], out: str, suffix: str = "") -> str:
    """What a file of a shot is called."""
    return named(plan.names, _values(project, shot, out), "", suffix)


@dataclass(frozen=True)
class Draft:
    """A piece before it is kept."""

    part: str
    path: str
    spec: dict[str, Any]


def _stacks(shots: Sequence[dict[str, Any]]) -> list[dict[str, Any]]:
    """The looks as they are on shots, each combination of revisions once, at full strength where it is one
    look alone."""
    found: dict[str, dict[str, Any]] = {}
    for shot in shots:
        layers = shot["layers"] if len(shot["layers"]) > 1 else [[shot["layers"][0][0], 1.0]]
        found.setdefault(str(layers), {"layers": layers, "looks": shot["looks"]})
    return list(found.values())


def _stack_name(stack: dict[str, Any]) -> str:
    several = len(stack["looks"]) > 1
    eased = [f"_{strength:.0%}" if several and strength < 1 else "" for _, _, strength in stack["looks"]]
    return " + ".join(
        f"{name}_r{number}{part}" for (name, number, _), part in zip(stack["looks"], eased, strict=True)
    )


def pieces(project: Project, plan: Plan, shots: Sequence[dict[str, Any]]) -> Iterator[Draft]:
    """Everything that is to be made, in order. What is the same for several encodings is made once."""
    gives = {pk: _output(pk) for pk in {layers[0][0] for layers in (s["layers"] for s in shots)}}
    several = len(plan.encodings) > 1
    if "looks" in plan.parts:
        for stack in _stacks(shots):
            for out in outs(plan, gives[stack["layers"][0][0]]):
                base = safe_name(f"{_stack_name(stack)}{f'_{encoding(out).label}' if plan.encodings else ''}")
                yield Draft("looks", f"luts/{base}", {**stack, "out": out})
    for part, folder in (("shots", "luts/shots"), ("stills", "stills"), ("clips", "clips")):
        for shot in shots if part in plan.parts else ():
            if part == "clips" and shot["clip"] is None:
                continue
            for out in outs(plan, gives[shot["layers"][0][0]]):
                yield Draft(
                    part, f"{folder}/{shot_name(project, plan, shot, out)}", {"shot": shot, "out": out}
                )
    if "cdl" in plan.parts:
        yield Draft("cdl", "cdl/trims.ccc", {"shots": list(shots)})
    if "ocio" in plan.parts:
        for out in plan.encodings or ("",):
            folder = f"opencolorio/{safe_name(encoding(out).label)}" if several else "opencolorio"
            yield Draft("ocio", folder, {"shots": list(shots), "stacks": _stacks(shots), "out": out})
    if "recipes" in plan.parts:
        revisions = {
            r: (name, number)
            for s in shots
            for (r, _), (name, number, _) in zip(s["layers"], s["looks"], strict=True)
        }
        for pk, (name, number) in revisions.items():
            yield Draft("recipes", f"looks/{safe_name(name)}_r{number}{SUFFIX}", {"revision": pk})
    if "sheet" in plan.parts:
        yield Draft("sheet", "contact sheet.html", {"shots": list(shots)})


def _output(revision_id: int) -> str:
    return looks.recipe_of(looks.find_revision(revision_id)).output


@dataclass(frozen=True)
class Named:
    """A shot and the name its files would have; ``same``: numbers of other shots that would have the same
    one."""

    number: int
    shot: str
    name: str
    same: list[int]


def preview(project: Project, plan: Plan, shots: Sequence[dict[str, Any]]) -> list[Named]:
    """What the shots' files would be called, in the first of the encodings."""
    by_name: dict[str, list[int]] = {}
    rows = []
    for shot in shots:
        out = (plan.encodings or (shot["encoding"],))[0] if not plan.encodings else plan.encodings[0]
        name = shot_name(project, plan, shot, out if plan.encodings else _output(shot["layers"][0][0]))
        by_name.setdefault(name.lower(), []).append(shot["number"])
        rows.append((shot, name))
    return [
        Named(s["number"], s["name"], name, [n for n in by_name[name.lower()] if n != s["number"]])
        for s, name in rows
    ]


def clashes(drafts: Sequence[Draft]) -> str:
    """Two files that would have one name, in words; empty where there are none."""
    seen: dict[str, Draft] = {}
    for draft in drafts:
        key = f"{draft.part} {draft.path.lower()}"
        other = seen.setdefault(key, draft)
        if other is not draft:
            names = [
                f"{d.spec['shot']['number']} {d.spec['shot']['name']}" if "shot" in d.spec else d.path
                for d in (other, draft)
            ]
            outs_differ = other.spec.get("out") != draft.spec.get("out")
            way = "Put the encoding into the names" if outs_differ else "Put the number into the names"
            return f"{names[0]} and {names[1]} would be one file, {draft.path.rpartition('/')[2]}. {way}."
    return ""


def as_dict(plan: Plan) -> dict[str, Any]:
    """The plan as it is kept."""
    return asdict(plan)


def of_dict(kept: dict[str, Any]) -> Plan:
    """A plan that was kept."""
    return _PLAN.validate_python(kept)
