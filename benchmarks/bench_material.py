"""Material that comes in: a recut of 2,000 events as it is shown, a camera raw beside the library that opens
it, and a folder of photographs beside a script that makes small pictures of them."""

import json
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
import rawpy
from PIL import Image
from saucer_core.formats.developing import develop

from demo import kinds

from .amount import much
from .bench_delivery import inside, largest
from .instance import instance
from .report import Table
from .visitor import Visitor, session_of, visitor

EVENTS = much(2000, 20)
CLIPS = much(150, 5)
#: Pixels of the raw: 24 million.
RAW = much((6000, 4000), (96, 64))
#: Photographs of a card, and how many lie in one request.
PHOTOGRAPHS, TOGETHER = much(200, 2), 10
#: Width of their small pictures.
SMALL = 240
#: Makes small pictures of a folder's photographs with OpenImageIO as it documents it (ImageBuf,
#: ImageBufAlgo.resize), a photograph a thread, as many at once as there are cores.
SCRIPT = """
import os, sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
import OpenImageIO as oiio
oiio.attribute("threads", 1)
folder, out, width = Path(sys.argv[1]), Path(sys.argv[2]), int(sys.argv[3])
def small(path):
    read = oiio.ImageBuf(str(path))
    read.read(0, 0, True, oiio.UINT8)
    spec = read.spec()
    high = round(spec.height * width / spec.width)
    made = oiio.ImageBufAlgo.resize(read, filtername="box", roi=oiio.ROI(0, width, 0, high, 0, 1, 0, 3))
    assert made.write(str(out / path.name)), made.geterror()
with ThreadPoolExecutor(os.cpu_count()) as pool:
    list(pool.map(small, sorted(folder.iterdir())))
"""
#: Prints how many jobs the demo's own clips and packs still have under way.
UNDER_WAY = """
import django
django.setup()
from saucer_server.jobs.models import Job
print(Job.objects.filter(state__in=("waiting", "running")).count())
"""
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
            place = folder / str(time.perf_counter_ns())
            place.mkdir()
            develop.develop(path, path.name, place)

        def theirs() -> None:
            with rawpy.imread(str(path)) as raw:
                raw.postprocess(output_bps=16, gamma=(1, 1), no_auto_bright=True, use_camera_wb=True)

        both = Table(f"A camera raw of {width * height / 1e6:.0f} million pixels", ["who", "time"])
        mine, other = _median(ours, much(3, 1)), _median(theirs, much(3, 1))
    both.add("Saucer: developed into linear light, kept as EXR of half float", f"{mine:.2f} s")
    both.add("rawpy: developed into 16 bit, kept nowhere", f"{other:.2f} s")
    both.want("times rawpy:", mine / other, 1.3, " ×")
    return both


def _photographs(folder: Path) -> None:
    """A folder of JPEG files of the size of the raw, each with bytes of its own."""
    width, height = RAW
    rgb = np.repeat(
        np.repeat(kinds.shown(kinds.scene("yard_noon", width // 4, height // 4), "srgb"), 4, 0), 4, 1
    )
    rng = np.random.default_rng(3)
    for first in range(0, height, 500):
        band = rgb[first : first + 500]
        band += rng.normal(0, 0.012, band.shape).astype(np.float32)
    Image.fromarray((np.clip(rgb, 0, 1) * 255).astype(np.uint8)).save(folder / "0.jpg", quality=92)
    data = (folder / "0.jpg").read_bytes()
    for k in range(PHOTOGRAPHS):
        # A comment (ITU-T T.81, B.2.4.5) makes each a file of its own.
        said = f"number {k}".encode()
        comment = b"\xff\xfe" + (len(said) + 2).to_bytes(2, "big") + said
        (folder / f"{k}.jpg").write_bytes(data[:2] + comment + data[2:])


def _sent(one: Visitor, intake: int, paths: list[Path]) -> None:
    mark = b"between-two-photographs"
    parts = [
        b'Content-Disposition: form-data; name="paths"\r\n\r\n' + json.dumps([p.name for p in paths]).encode()
    ]
    for path in paths:
        head = f'Content-Disposition: form-data; name="files"; filename="{path.name}"\r\n'
        parts.append(head.encode() + b"Content-Type: image/jpeg\r\n\r\n" + path.read_bytes())
    body = b"".join(b"--" + mark + b"\r\n" + part + b"\r\n" for part in parts) + b"--" + mark + b"--\r\n"
    kind = f"multipart/form-data; boundary={mark.decode()}"
    one.ask("POST", f"/api/intakes/{intake}/files", body, kind)


def _brought_in(folder: Path) -> tuple[float, float]:
    """Seconds until all photographs are sent, read and shown; and the most that a worker held, in MiB."""
    with instance() as (application, address):
        one = visitor(application, address, "odile")
        while inside(application, UNDER_WAY) != "0":
            time.sleep(1)
        start = time.perf_counter()
        intake = json.loads(one.ask("POST", "/api/intakes", b""))["id"]
        paths = sorted(folder.iterdir())
        for first in range(0, len(paths), TOGETHER):
            _sent(one, intake, paths[first : first + TOGETHER])
        path = f"/api/intakes/{intake}"
        found = json.loads(one.get(path))
        while any(f["stage"] == "waiting" for f in found["files"]):
            time.sleep(0.5)
            found = json.loads(one.get(path))
        at = [f"{path}/files/{f['id']}/picture?width={SMALL}&v={f['picture']}" for f in found["files"]]
        assert all(f["stage"] == "read" for f in found["files"])
        one.all(at)
        taken = time.perf_counter() - start
        held = max(largest(application.supervisor.pid(name)) for name in ("worker", "worker-soon"))
        one.ask("DELETE", path, b"")
    return taken, held / 2**20


def _folder() -> Table:
    with TemporaryDirectory() as name:
        folder, out = Path(name) / "card", Path(name) / "small"
        folder.mkdir()
        out.mkdir()
        _photographs(folder)
        mine, held = _brought_in(folder)
        start = time.perf_counter()
        subprocess.run([sys.executable, "-c", SCRIPT, str(folder), str(out), str(SMALL)], check=True)
        other = time.perf_counter() - start
    title = f"{PHOTOGRAPHS} JPEG files of {RAW[0] * RAW[1] / 1e6:.0f} million pixels"
    both = Table(title, ["who", "time"])
    both.add("Saucer: sent, kept, looked through, guessed, and shown small", f"{mine:.0f} s")
    both.add("OpenImageIO: small pictures written, on both cores", f"{other:.0f} s")
    both.add("memory of a worker at most", f"{held:.0f} MiB")
    both.want("times the script:", mine / other, 1.3, " ×")
    both.want("memory of a worker:", held, 1024, " MiB")
    return both


def run() -> list[Table]:
    """Everything that is measured."""
    return [_recut(), _raw(), _folder()]
