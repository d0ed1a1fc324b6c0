"""The page for Prometheus: what is asked, how long it takes, what waits, memory and disk."""

import hmac
import os
import shutil
from contextlib import suppress
from pathlib import Path

from django.conf import settings
from django.db.models import Count, Min
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateEvent, ProcrastinateJob
from prometheus_client import CONTENT_TYPE_LATEST, CollectorRegistry, Gauge, generate_latest
from prometheus_client.multiprocess import MultiProcessCollector

from .jobs.rules import counted
from .request_metrics import REQUESTS, SECONDS


def _waiting(registry: CollectorRegistry) -> None:
    """What waits and for how long, by queue."""
    jobs = Gauge("saucer_jobs", "Pieces of long work", ["state"], registry=registry)
    for state, count in counted():
        jobs.labels(state).set(count)
    length = Gauge("saucer_queue_length", "Pieces of work in a queue", ["queue", "state"], registry=registry)
    for queue, state, count in (
        ProcrastinateJob.objects.filter(status__in=("todo", "doing"))
        .values_list("queue_name", "status")
        .annotate(n=Count("pk"))
    ):
        length.labels(queue, "waiting" if state == "todo" else "running").set(count)
    age = Gauge(
        "saucer_queue_oldest_seconds",
        "How long the first in a queue has waited",
        ["queue"],
        registry=registry,
    )
    first = (
        ProcrastinateEvent.objects.filter(type="deferred", job__status="todo")
        .values_list("job__queue_name")
        .annotate(at=Min("at"))
    )
    for queue, at in first:
        age.labels(queue).set(max((timezone.now() - at).total_seconds(), 0))


def _machine(registry: CollectorRegistry) -> None:
    """Memory of Saucer's own processes on this machine, and room on the disk of its data."""
    memory = Gauge("saucer_memory_bytes", "Resident memory of processes", ["part"], registry=registry)
    wanted = f"SAUCER_DATA={settings.DATA}".encode()
    sums: dict[str, int] = {}
    for place in Path("/proc").glob("[0-9]*"):
        with suppress(OSError, IndexError, ValueError):
            if wanted not in (place / "environ").read_bytes().split(b"\0"):
                continue
            words = (place / "cmdline").read_bytes()
            part = "web" if b"gunicorn" in words else "worker" if b"procrastinate" in words else "other"
            sums[part] = sums.get(part, 0) + int((place / "statm").read_text().split()[1]) * os.sysconf(
                "SC_PAGE_SIZE"
            )
    for part, size in sums.items():
        memory.labels(part).set(size)
    disk = Gauge("saucer_disk_bytes", "Bytes of the disk that the data is on", ["what"], registry=registry)
    usage = shutil.disk_usage(settings.DATA)
    for what in ("total", "used", "free"):
        disk.labels(what).set(getattr(usage, what))


def page(request: HttpRequest) -> HttpResponse:
    """The metrics of all web processes, for who shows the token of the setting; 404 for others."""
    shown = request.headers.get("Authorization", "").removeprefix("Bearer ")
    if not settings.METRICS or not hmac.compare_digest(shown.encode(), settings.METRICS.encode()):
        return HttpResponse(status=404)
    registry = CollectorRegistry()
    if os.environ.get("PROMETHEUS_MULTIPROC_DIR"):
        MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
    else:
        registry.register(REQUESTS)
        registry.register(SECONDS)
    _waiting(registry)
    with suppress(OSError):
        _machine(registry)
    return HttpResponse(generate_latest(registry), content_type=CONTENT_TYPE_LATEST)
