"""Deliveries: asked for, followed, stopped, and taken away."""

import io
import json
import zipfile
from collections import Counter
from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from django.core.files.storage import default_storage
from django.db import transaction
from django.db.models import Count, Max, Q, QuerySet

from .. import storage
from ..errors import RuleError, missing
from ..jobs import rules as jobs
from ..jobs.rules import State
from ..people.activity import Happening, note
from ..people.rules import Person, is_own, must
from ..projects import rules as projects
from ..projects.rules import Project, must_work
from ..zips import streamed
from . import parts, room
from . import plan as planning
from .models import Delivery, Feed, Fetch, Piece, PieceState
from .plan import Plan
from .since import since

__all__ = [
    "Delivery",
    "Feed",
    "Fetch",
    "Piece",
    "PieceState",
    "drop",
    "every",
    "file_of",
    "find",
    "has_files",
    "listing",
    "lists",
    "losses",
    "newest",
    "order",
    "outlook",
    "parts_of",
    "place_of",
    "zipped",
]  # fmt: skip

#: Workers that help with one delivery.
HELPERS = 3


def every(project: Project) -> QuerySet[Delivery]:
    """The deliveries of a project, the newest first."""
    return Delivery.objects.filter(project=project).select_related("job", "made_by")


def find(project: Project, number: int) -> Delivery:
    """A delivery of a project; raises 404."""
    row = every(project).filter(number=number).first() if 0 < number < 2**31 else None
    if row is None:
        raise missing("delivery")
    return row


def newest(project: Project) -> Delivery | None:
    """The newest finished delivery that has its files by themselves."""
    return every(project).filter(ready=True).exclude(contents={}).first()


def has_files(delivery: Delivery) -> bool:
    """Whether it can be taken away."""
    return not delivery.gone and (delivery.ready or bool(delivery.file))


#: How long files of a delivery are kept at least.
KEPT_FOR = timedelta(days=90)
#: Newest finished deliveries of each project whose files are kept for good.
KEPT_NEWEST = 2


def let_go_of_old(now: datetime) -> None:
    """Marks deliveries whose files are not needed any more. What was in them stays written down."""
    for project in projects.every():
        newest = every(project).filter(ready=True).values_list("pk", flat=True)[:KEPT_NEWEST]
        old = every(project).filter(made_at__lt=now - KEPT_FOR, gone=False).exclude(pk__in=list(newest))
        old.exclude(job__state__in=[State.WAITING, State.RUNNING]).update(gone=True)


def shas_in_use() -> set[str]:
    """Checksums of the files of deliveries that are kept, and of those that are being made."""
    pieces = Piece.objects.filter(delivery__gone=False).values_list("files", flat=True)
    return {file["sha256"] for files in pieces for file in files}


def _count(number: int, what: str) -> str:
    return f"{number:,} {what}" if number == 1 else f"{number:,} {what}s"


def order(project: Project, person: Person, plan: Plan) -> Delivery:
    """Asks for a delivery; workers make it.

    Raises 403, 409 (nothing has a look, looks that must be asked for, two files of one name), and 422.
    """
    from .tasks import deliver, help_deliver

    must_work(person, project)
    planning.sound(plan)
    if plan.held == "anyway":
        must(person, "held.pass_on")
    with transaction.atomic():
        projects.lock(project)
        room.must_fit(project)
        found = planning.taken(project, plan)
        if found.held and plan.held == "stop":
            names = ", ".join(found.held[:3]) + (
                f" and {len(found.held) - 3} more" if len(found.held) > 3 else ""
            )
            words = (
                f"{names}: who may pass it on must be asked first. Leave these shots out, or let a lead "
                "deliver them."
            )
            raise RuleError(409, words, held=found.held)
        if not found.shots:
            raise RuleError(409, "No shot has a look that can go out. Assign one, then deliver.")
        drafts = list(planning.pieces(project, plan, found.shots))
        clash = planning.clashes(drafts)
        if clash:
            raise RuleError(409, clash)
        if not drafts:
            raise RuleError(409, "There is nothing to make: no shot is cut from a clip. Choose another part.")
        number = (every(project).aggregate(top=Max("number"))["top"] or 0) + 1
        job = jobs.order("delivery", f"{project.name}, delivery {number}", person, len(drafts))
        delivery = Delivery.objects.create(
            project=project,
            number=number,
            job=job,
            grid=plan.grid,
            plan=planning.as_dict(plan),
            shots=found.shots,
            left_out=found.left_out,
            made_by=person,
        )
        Piece.objects.bulk_create(
            Piece(delivery=delivery, place=k, part=d.part, path=d.path, spec=d.spec)
            for k, d in enumerate(drafts)
        )
        jobs.enqueue(job, deliver, (help_deliver, min(HELPERS, len(drafts) - 1)), delivery_id=delivery.pk)
        size = f"{_count(len(found.shots), 'shot')}, {_count(len({d.part for d in drafts}), 'part')}"
        note(
            Happening.DELIVERY,
            person,
            "delivers",
            f"{project.name}, number {number}",
            more=size,
            to=f"/projects/{project.pk}/deliver",
        )
    return delivery


def outlook(project: Project, plan: Plan) -> dict[str, Any]:
    """What a plan would give: shots, pieces of each part, names, what must be asked for, what is otherwise
    than last time."""
    planning.sound(plan)
    found = planning.taken(project, plan)
    drafts = list(planning.pieces(project, plan, found.shots))
    whole = list(planning.pieces(project, replace(plan, parts=tuple(planning.PARTS)), found.shots))
    counts = Counter(d.part for d in whole)
    last = every(project).filter(ready=True).exclude(shots=[]).first()
    held = [
        {
            "look": name,
            "shots": [s["number"] for s in found.shots if name in [look[0] for look in s["looks"]]],
        }
        for name in found.held
    ]
    return {
        "shots": len(found.shots),
        "names": planning.preview(project, plan, found.shots),
        "clash": planning.clashes(drafts),
        "held": held,
        "parts": [
            {"part": p, "label": label, "done": 0, "dropped": 0, "total": counts[p]}
            for p, label in planning.PARTS.items()
        ],
        "left_out": found.left_out,
        "next": (every(project).aggregate(top=Max("number"))["top"] or 0) + 1,
        "changes": since(last.shots, found.shots) if last else [],
    }


def losses(project: Project, target: str) -> dict[str, Any]:
    """What an encoding loses of the shots that go out, on average and on the worst of them; kept by what is
    on them."""
    shots = planning.taken(project, Plan(held="anyway")).shots
    made_of = [target, [[s["layers"], s["digest"], s["encoding"], s["trim"]] for s in shots]]
    rows = json.loads(
        storage.kept(
            storage.result("losses", made_of, ".json"),
            lambda: json.dumps(parts.losses(shots, target)).encode(),
        )
    )
    gamut, lights = (max(rows, key=lambda r: r[k], default=None) for k in (1, 2))
    count = max(len(rows), 1)
    return {
        "encoding": target,
        "gamut": sum(r[1] for r in rows) / count,
        "lights": sum(r[2] for r in rows) / count,
        "worst_gamut": gamut[0] if gamut and gamut[1] else None,
        "worst_gamut_share": gamut[1] if gamut else 0.0,
        "worst_lights": lights[0] if lights and lights[2] else None,
        "worst_lights_share": lights[2] if lights else 0.0,
    }


def drop(delivery: Delivery, person: Person, part: str) -> None:
    """Lets what is not made yet of a part go; the rest goes on."""
    must(
        person,
        "started.end",
        is_own(person, delivery.made_by_id),
        "Only who asked for this delivery, or a lead, can leave a part out.",
    )
    delivery.pieces.filter(part=part, state=PieceState.WAITING).update(state=PieceState.DROPPED)


def parts_of(delivery: Delivery) -> list[tuple[str, int, int, int]]:
    """The parts of a delivery with how many pieces of each are done, how many were left out, and how many
    there are."""
    done, dropped = (Count("pk", filter=Q(state=s)) for s in (PieceState.DONE, PieceState.DROPPED))
    rows = (
        delivery.pieces.order_by().values_list("part").annotate(done=done, dropped=dropped, total=Count("pk"))
    )
    by_part = {part: (part, d, x, t) for part, d, x, t in rows}
    return [by_part[part] for part in planning.PARTS if part in by_part]


def file_of(delivery: Delivery, path: str) -> dict[str, Any]:
    """A file of a delivery that is done: its path, checksum and bytes; raises 404."""
    found = next((f for f in delivery.contents.get("files", []) if f["path"] == path), None)
    if found is None or not delivery.ready:
        raise missing("file")
    return dict(found)


def place_of(sha: str) -> str:
    """Where a file with that checksum is kept."""
    return f"delivered/{sha[:2]}/{sha}"


def lists(delivery: Delivery) -> dict[str, bytes]:
    """The lists that stand in the package: for programs, for people, and checksums as ``sha256sum -c`` reads
    them."""
    contents = delivery.contents
    sums = "".join(f"{f['sha256']}  {f['path']}\n" for f in contents.get("files", []))
    return {
        "contents.json": json.dumps(contents, indent=1, ensure_ascii=False).encode(),
        "contents.txt": listing(delivery).encode(),
        "checksums.sha256": sums.encode(),
    }


def listing(delivery: Delivery) -> str:
    """What is in a delivery, to be read."""
    contents = delivery.contents
    lines = [
        f"{contents['project']}, delivery {contents['delivery']}",
        f"made by {contents['made by']}, {contents['made at']}",
        "",
    ]
    if delivery.changes:
        lines += ["Since the last one", *(f"  {c['text']}" for c in delivery.changes), ""]
    for part, rows in contents["parts"].items():
        lines.append(planning.PARTS[part])
        for row in rows:
            said = ", ".join(f"{k} {v}" for k, v in row["facts"].items() if not isinstance(v, dict | list))
            lines.append(f"  {row['path']}{f': {said}' if said else ''}")
        lines.append("")
    if delivery.left_out:
        lines += ["Not in it", *(f"  {why}" for why in delivery.left_out)]
    return "\n".join(lines) + "\n"


def zipped(delivery: Delivery) -> Iterator[bytes]:
    """The package as a ZIP that is made while it is taken away: no more than a piece of one file is in
    memory."""

    def entries() -> Iterator[tuple[str, Any]]:
        for name, data in lists(delivery).items():
            yield name, io.BytesIO(data)
        for file in delivery.contents["files"]:
            yield file["path"], default_storage.open(place_of(file["sha256"]))

    return streamed(entries(), zipfile.ZIP_STORED)
