"""Deliveries: the package of files that a project takes away."""

import hashlib
import json
import tempfile
import zipfile
from pathlib import Path
from typing import Any

from django.core.files import File
from django.core.files.storage import default_storage
from django.db import transaction
from django.db.models import Max
from saucer_core.baking.bake import bake
from saucer_core.baking.deviation import Measuring
from saucer_core.encodings import encoding
from saucer_core.formats import recipe
from saucer_core.formats.registry import format_for
from saucer_core.tables.lut import Lut
from saucer_core.treatment import Treatment

from ..bakes.rules import describe
from ..bench.pictures import full_picture
from ..errors import RuleError, missing
from ..fields import safe_name
from ..jobs.rules import Job, Progress, running
from ..looks import rules as looks
from ..luts.rules import table
from ..people.rules import Person
from .models import Delivery, Project, Shot
from .rules import trim_of


def order(project: Project, person: Person, grid: int) -> Delivery:
    """Asks for a delivery; a worker makes it."""
    from .tasks import deliver

    if not project.shots.filter(revision__isnull=False).exists():
        raise RuleError(409, "No shot has a look yet. Assign one, then deliver.")
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        number = (project.deliveries.aggregate(top=Max("number"))["top"] or 0) + 1
        job = Job.objects.create(kind="delivery", title=f"{project.name}, delivery {number}", asked_by=person)
        delivery = Delivery.objects.create(project=project, number=number, job=job, grid=grid, made_by=person)
        job.queue_id = deliver.defer(delivery_id=delivery.pk)
        job.save(update_fields=["queue_id"])
    return delivery


def ready(project: Project, number: int) -> Delivery:
    """A delivery that has its file; raises 404."""
    row = project.deliveries.filter(number=number).first() if number < 2**31 else None
    if row is None or not row.file:
        raise missing("delivery")
    return row


def _undo(delivery: Delivery) -> None:
    if delivery.file:
        default_storage.delete(delivery.file)
    Delivery.objects.filter(pk=delivery.pk).update(file="", bytes=0)


def make(delivery_id: int) -> None:
    """Makes the package. Run by a worker; may run again after a worker died."""
    delivery = Delivery.objects.select_related("project", "job").get(pk=delivery_id)
    with running(delivery.job_id, lambda: _undo(delivery)) as progress, tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "delivery.zip"
        _fill(delivery, path, progress)
        digest = hashlib.sha256(path.read_bytes()).hexdigest()
        name = f"deliveries/{delivery.project_id}/{delivery.number}-{digest[:16]}.zip"
        if not default_storage.exists(name):
            with path.open("rb") as f:
                name = default_storage.save(name, File(f))
        delivery.file, delivery.bytes = name, path.stat().st_size
        delivery.save(update_fields=["file", "bytes"])


def _fill(delivery: Delivery, path: Path, progress: Progress) -> None:
    shots = list(delivery.project.shots.filter(revision__isnull=False).select_related("frame", "revision__look", "revision__made_by"))
    revisions = list({s.revision_id: s.revision for s in shots if s.revision}.values())
    progress.total(len(revisions) + len(shots))
    contents: dict[str, Any] = {
        "project": delivery.project.name, "delivery": delivery.number, "grid": delivery.grid, "looks": [], "shots": [],
    }  # fmt: skip
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED, compresslevel=4) as package:
        for k, revision in enumerate(revisions):
            progress.at(k, f"LUT of {revision}")
            contents["looks"].append(_look(package, revision, delivery.grid))
        for k, shot in enumerate(shots, len(revisions)):
            progress.at(k, f"still of shot {shot.number}")
            contents["shots"].append(_shot(package, shot, delivery.grid))
        package.writestr("contents.json", json.dumps(contents, indent=1, ensure_ascii=False))
        package.writestr("contents.txt", _listing(contents))


def _put_table(package: zipfile.ZipFile, base: str, lut: Lut) -> str:
    """Writes a table in the format that everybody can read it in; gives its name in the package."""
    known = format_for(lut)
    package.writestr(f"{base}{known.suffix}", known.text(lut))
    return f"{base}{known.suffix}"


def _look(package: zipfile.ZipFile, revision: Any, grid: int) -> dict[str, Any]:
    look = looks.recipe_of(revision)
    program = Treatment(look).compile(table)
    lut = bake(program, grid, title=str(revision), comments=describe(look, revision, "", revision.note))
    base = f"{safe_name(revision.look.name)}_r{revision.number}"
    name = _put_table(package, f"luts/{base}", lut)
    package.writestr(f"looks/{base}{recipe.SUFFIX}", recipe.dumps(look, name=revision.look.name, note=revision.note, tables=table))
    return {
        "look": revision.look.name, "revision": revision.number, "comes in as": encoding(look.input).label,
        "goes out as": encoding(look.output).label, "lut": name, "recipe": f"looks/{base}{recipe.SUFFIX}",
        "largest error": round(Measuring(program).compare(lut).largest, 2),
    }  # fmt: skip


def _shot(package: zipfile.ZipFile, shot: Shot, grid: int) -> dict[str, Any]:
    revision = shot.revision
    assert revision is not None
    look, trim = looks.recipe_of(revision), trim_of(shot)
    base = f"{shot.number:03d}_{safe_name(shot.name)}"
    listed: dict[str, Any] = {
        "shot": shot.number, "name": shot.name, "frame": shot.frame.file_name, "frame encoding": encoding(shot.frame.encoding).label,
        "look": str(revision), "strength": shot.strength, "trim": trim.model_dump(), "still": f"stills/{base}.png",
    }  # fmt: skip
    package.writestr(f"stills/{base}.png", full_picture(look, shot.frame, trim, shot.strength))
    source = shot.frame.encoding
    if trim != type(trim)() or shot.strength < 1 or source != look.input:
        about = (*describe(look, revision, "", "", source), f"With the trim and strength of shot {shot.number}, {shot.name}")
        program = Treatment(look, source, trim, shot.strength).compile(table)
        lut = bake(program, grid, title=f"{shot.name}, {revision}", comments=about)
        listed["lut"] = _put_table(package, f"luts/shots/{base}", lut)
        listed["largest error"] = round(Measuring(program).compare(lut).largest, 2)
    return listed


def _listing(contents: dict[str, Any]) -> str:
    lines = [f"{contents['project']}, delivery {contents['delivery']}", "", "Looks"]
    for x in contents["looks"]:
        lines.append(
            f"  {x['lut']}: {x['look']} r{x['revision']}, {x['comes in as']} to {x['goes out as']}, "
            f"largest error {x['largest error']} of 1023"
        )
    lines += ["", "Shots"]
    for x in contents["shots"]:
        own = f", own LUT {x['lut']}" if "lut" in x else ""
        lines.append(f"  {x['shot']} {x['name']} ({x['frame encoding']}): {x['look']} at {x['strength']:.0%}, {x['still']}{own}")
    return "\n".join(lines) + "\n"
