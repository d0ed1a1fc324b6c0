"""Material that comes in: a recut of 2,000 events as it is shown, and a camera raw beside the library that
opens it."""

import statistics
import time
from collections.abc import Callable
from pathlib import Path
from tempfile import TemporaryDirectory

import rawpy
from saucer_core.formats.developing import develop

from demo import kinds

from .amount import much
from .bench_delivery import inside
from .instance import instance
from .report import Table
from .visitor import Visitor, session_of

EVENTS = much(2000, 20)
CLIPS = much(150, 5)
#: Pixels of the raw: 24 million.
RAW = much((6000, 4000), (96, 64))
#: Makes a project with a cut of that many events, and proposes the next one: a tenth of the events goes,
#: others are moved, slipped and made longer. Prints both numbers.
RECUT = f"""
import tempfile
from dataclasses import replace
from fractions import Fraction
from pathlib import Path
import django
django.setup()
import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_core.formats.cutlists import otio
from saucer_core.formats.cutlists.model import CutList, Event
from saucer_core.formats.timecode import frames_of
from saucer_server.clips.models import Clip
from saucer_server.cuts import rules as cuts
from saucer_server.cuts.models import Cut
from saucer_server.cuts.values import Met
from saucer_server.frames.models import Frame
from saucer_server.looks.models import Revision
from saucer_server.people.rules import Person
from saucer_server.projects import assigning, rules
from saucer_server.projects.models import Project, Shot
from saucer_server.projects.payloads import Wanted, Wish
rng = np.random.default_rng(5)
lead = Person.objects.get(username="odile")
made = rules.create(lead, "A long film", "")
of = Clip.objects.exclude(facts=None).first()
facts = replace(of.facts, frames=4800, timecode="10:00:00:00")
clips = []
for k in range({CLIPS}):
    of.pk, of.name, of.file_name, of.facts = None, f"take {{k:03d}}", f"take_{{k:03d}}.mov", facts
    of.save(force_insert=True)
    clips.append(Clip.objects.get(pk=of.pk))
frame = Frame.objects.filter(clip=None).first()
ten, at, events, met = frames_of("10:00:00:00", Fraction(24)), 86400, [], []
for k in range({EVENTS}):
    clip = clips[int(rng.integers({CLIPS}))]
    first, length = int(rng.integers(4000)), int(rng.integers(12, 200))
    events.append(Event(clip.file_name, "", ten + first, length, at, length))
    at += length
    shot = Shot(project=made, number=k + 1, name=clip.name, frame=frame, clip=clip, first=first,
        last=first + length - 1)
    met.append((shot, clip))
Shot.objects.bulk_create([shot for shot, _ in met])
revision = Revision.objects.first()
assigning.assign(made, lead, Wish(whole=True, layers=(Wanted(revision=revision.pk),)))
Cut.objects.create(project=made, number=1, file_name="one.otio", rate="24/1", events=events, made_by=lead,
    met=[Met(clip=clip.pk, by="name", shot=shot.pk) for shot, clip in met], taken_by=lead)
Project.objects.filter(pk=made.pk).update(cut_number=1, cut_events={EVENTS})
late = [replace(e, start=e.start + 5) if k % 17 == 0 else replace(e, length=e.length + 9, lasts=e.lasts + 9)
    if k % 13 == 0 else e for k, e in enumerate(events) if k % 10]
middle = len(late) // 2
late[middle:middle + 40] = [*late[middle + 20:middle + 40], *late[middle:middle + 20]]
at = 86400
for k, e in enumerate(late):
    late[k] = replace(e, at=at)
    at += e.lasts
text = otio.write(CutList("two", Fraction(24), False, tuple(late)))
file = SimpleUploadedFile("two.otio", text.encode())
print(made.pk, cuts.propose(rules.find(made.pk), lead, file, "24/1").pk)
"""


def _median(work: Callable[[], object], times: int = much(5, 1)) -> float:
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        taken.append(time.perf_counter() - start)
    return statistics.median(taken)


def _recut() -> Table:
    with instance() as (application, address):
        project, cut = inside(application, RECUT).split()[-2:]
        visitor = Visitor(address, session_of(application, "odile"))
        path = f"/api/projects/{project}/cuts/{cut}"
        size = len(visitor.ask("GET", path))
        taken = _median(lambda: visitor.ask("GET", path))
    table = Table(f"A recut of {EVENTS} events of {CLIPS} clips", ["what", "time"])
    table.add("all that its screen shows, over HTTP", f"{taken:.2f} s, {size / 2**20:.1f} MiB")
    table.want("the recut:", taken, 1, " s")
    return table


def _raw() -> Table:
    width, height = RAW
    with TemporaryDirectory() as name:
        folder = Path(name)
        path = folder / "raw.dng"
        kinds.raw(path, width, height)

        def ours() -> None:
            with TemporaryDirectory() as place:
                develop.develop(path, path.name, Path(place))

        def theirs() -> None:
            with rawpy.imread(str(path)) as raw:
                raw.postprocess(output_bps=16, gamma=(1, 1), no_auto_bright=True, use_camera_wb=True)

        both = Table(f"A camera raw of {width * height / 1e6:.0f} million pixels", ["who", "time"])
        mine, other = _median(ours, much(3, 1)), _median(theirs, much(3, 1))
    both.add("Saucer: developed into linear light, kept as EXR of half float", f"{mine:.2f} s")
    both.add("rawpy: developed into 16 bit, kept nowhere", f"{other:.2f} s")
    both.add("times rawpy", f"{mine / other:.2f} ×")
    return both


def run() -> list[Table]:
    """Everything that is measured."""
    return [_recut(), _raw()]
