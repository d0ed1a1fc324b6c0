"""Making the proxies of clips: small files that play. Done by workers; several may help with one.

Parts are kept by themselves until all are there, so that work that stopped goes on where it was.
"""

import json
import tempfile
import time
from dataclasses import asdict
from pathlib import Path

from django.core.files.storage import default_storage
from django.db import transaction
from django.http import FileResponse, HttpRequest, HttpResponse
from pydantic import TypeAdapter
from saucer_core.formats import clips, proxies
from saucer_core.formats.clips import Found
from saucer_core.formats.proxies import ProxyIndex
from saucer_core.readings import overtime
from saucer_core.readings.overtime import Samples

from .. import storage
from ..errors import RuleError, missing
from ..jobs import rules as jobs
from ..jobs.locks import taken
from ..jobs.rules import Progress, State, running
from ..openapi import MP4
from ..people.rules import Person
from ..ranges import by_front, ranged
from .models import Clip
from .rules import find, found, on_disk, whole

__all__ = ["file_of", "help_with", "index_of", "make", "order", "samples_of", "wanted"]

#: The first half of the locks that parts are taken by.
LOCKS = 0x5A14
#: Seconds that the leading worker waits for its helpers before it looks again.
PAUSE = 0.3
#: Workers that help with one proxy.
HELPERS = 1
#: Parts of one clip are told apart by their number, up to this many.
PARTS = 2**16
_INDEX = TypeAdapter(ProxyIndex)


def order(clip: Clip, person: Person) -> Clip:
    """Asks for the proxy of a clip that was looked through; nothing happens where it is there or being made.

    Raises 409 before the clip was looked through, and 429 where the person has too much under way.
    """
    from .tasks import help_with_proxy, make_proxy

    whole(clip.pk)
    with transaction.atomic():
        row = Clip.objects.select_for_update(of=("self",)).select_related("proxy_job").get(pk=clip.pk)
        job = row.proxy_job
        if row.proxy or (job is not None and job.state in (State.WAITING, State.RUNNING)):
            return row
        parts = proxies.parts_of(found(row))
        row.proxy_job = jobs.order("proxy", f"Proxy of {row.name}", person, parts)
        row.save(update_fields=["proxy_job"])
        helpers = min(HELPERS, parts - 1)
        jobs.enqueue(row.proxy_job, make_proxy, (help_with_proxy, helpers), clip_id=row.pk)
    return row


def _folder(clip: Clip) -> str:
    # Each clip has its own, those of one file too: what is made for one is not taken from under another.
    kind = "deinterlaced" if clip.deinterlaced else "proxy"
    return f"clips/{clip.digest[:2]}/{clip.digest}.{clip.pk}.{kind}"


def _part(clip: Clip, number: int) -> str:
    return f"{_folder(clip)}/{number:05d}.nut"


def make(clip_id: int) -> None:
    """Leads the making of a proxy to its end. May run again after a worker died: parts that are there are not
    made again."""
    clip = Clip.objects.select_related("proxy_job").filter(pk=clip_id).first()
    if clip is None or clip.proxy or clip.proxy_job is None:
        return
    with running(clip.proxy_job.pk, lambda: None) as progress:
        seen = found(clip)
        count = proxies.parts_of(seen)
        progress.total(count)
        while not _all_made(clip, seen, progress):
            progress.at(_there(clip, count), "waiting for helping workers")
            time.sleep(PAUSE)
        _keep(clip, seen, count)
        progress.at(count, "taking samples of its frames")
        _sample(clip, seen)


def help_with(clip_id: int) -> None:
    """Makes parts of a proxy as long as there are any; its leading worker makes an end of it."""
    clip = Clip.objects.select_related("proxy_job").filter(pk=clip_id).first()
    job = clip.proxy_job if clip is not None else None
    if clip is not None and job is not None and job.state in (State.WAITING, State.RUNNING):
        _all_made(clip, found(clip), Progress(job))


def _there(clip: Clip, count: int) -> int:
    return sum(default_storage.exists(_part(clip, k)) for k in range(count))


def _all_made(clip: Clip, seen: Found, progress: Progress) -> bool:
    """Makes the parts that nobody else has; gives whether all are there."""
    count = proxies.parts_of(seen)
    for number in range(count):
        if default_storage.exists(_part(clip, number)):
            continue
        with taken(LOCKS, clip.pk * PARTS + number) as got:
            if got and not default_storage.exists(_part(clip, number)):
                _encode(clip, seen, number, progress)
    return _there(clip, count) == count


def _encode(clip: Clip, seen: Found, number: int, progress: Progress) -> None:
    done = _there(clip, proxies.parts_of(seen))

    def tell(frames: int) -> None:
        progress.at(done, f"frame {number * proxies.PART + frames}")

    with tempfile.TemporaryDirectory() as folder, on_disk(clip) as source:
        path = Path(folder) / "part.nut"
        proxies.encode(source, seen, number, path, tell)
        with path.open("rb") as f:
            storage.put_file(_part(clip, number), f)


def _keep(clip: Clip, seen: Found, count: int) -> None:
    """Joins the parts, and says of the clip that its proxy is there; a clip that went meanwhile keeps
    nothing."""
    name = f"{_folder(clip)}.mp4"
    with tempfile.TemporaryDirectory() as folder, on_disk(clip) as source:
        parts = []
        for number in range(count):
            path = Path(folder) / f"{number:05d}.nut"
            path.write_bytes(storage.get(_part(clip, number)))
            parts.append(path)
        target = Path(folder) / "proxy.mp4"
        index = proxies.join(source, seen, parts, target)
        for old in (name, f"{name}.json"):
            if default_storage.exists(old):
                default_storage.delete(old)
        with target.open("rb") as f:
            storage.put_file(name, f)
    storage.put(f"{name}.json", json.dumps(asdict(index)).encode())
    # One that was said to be deinterlaced meanwhile, or not to be, gets another one.
    Clip.objects.filter(pk=clip.pk, deinterlaced=clip.deinterlaced).update(
        proxy=name, proxy_index=f"{name}.json"
    )
    for number in range(count):
        default_storage.delete(_part(clip, number))


def _sample(clip: Clip, seen: Found) -> None:
    """Takes the samples by which looks are measured over the length of the clip."""
    numbers = overtime.chosen(len(seen.stamps))
    with on_disk(clip) as path:
        taken = overtime.sample(
            clips.frames_in_order(
                path, numbers, seen.stamps, clip.file_name, deinterlaced=seen.facts.deinterlaced
            )
        )
    name = storage.put(f"{_folder(clip)}.samples", taken.to_bytes())
    Clip.objects.filter(pk=clip.pk, deinterlaced=clip.deinterlaced).update(samples=name)


def samples_of(clip_id: int) -> Samples:
    """Samples of a clip's frames. Raises 404, and 409 until they are taken."""
    clip = find(clip_id)
    if not clip.samples:
        raise RuleError(
            409, f"{clip.name} is being made to play. What a look does to it can be measured then."
        )
    return Samples.from_bytes(storage.get(clip.samples))


def index_of(clip_id: int) -> ProxyIndex:
    """Where the frames of a clip's proxy lie; raises 404 where it has none yet."""
    clip = find(clip_id)
    if not clip.proxy:
        raise missing("proxy of this clip")
    return _INDEX.validate_json(storage.get(clip.proxy_index))


def file_of(request: HttpRequest, clip_id: int) -> HttpResponse | FileResponse:
    """The file of a clip's proxy, or the range of it that is asked for; raises 404 where it has none yet."""
    clip = find(clip_id)
    if not clip.proxy:
        raise missing("proxy of this clip")
    size = default_storage.size(clip.proxy)
    handed = by_front(clip.proxy, MP4)
    answer = handed or ranged(request, clip.proxy, size, f'"{clip.digest[:32]}-{size}"', MP4)
    # Kept by the browser alone, and asked about again: it is made anew where the core makes others.
    answer["Cache-Control"] = "private, no-cache"
    return answer


def wanted(clip_id: int) -> None:
    """Asks for a proxy for whoever brought the clip; somebody with too much under way gets it later, when it
    is asked for."""
    clip = Clip.objects.select_related("added_by").filter(pk=clip_id).first()
    if clip is not None and clip.facts is not None:
        try:
            order(clip, clip.added_by)
        except RuleError as error:
            if error.status != 429:
                raise
