"""Figures for Prometheus: what is asked, how long it takes, and what waits. Counted only where ``SAUCER_METRICS`` names a token."""

import hmac
import os

from django.conf import settings
from django.db.models import Count
from django.http import HttpRequest, HttpResponse
from prometheus_client import CONTENT_TYPE_LATEST, CollectorRegistry, Counter, Gauge, Histogram, generate_latest
from prometheus_client.multiprocess import MultiProcessCollector

REQUESTS = Counter("saucer_requests", "Requests that were answered", ["method", "route", "status"])
SECONDS = Histogram(
    "saucer_request_seconds", "Seconds until the answer", ["route"], buckets=(0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30)
)


def asked(method: str, route: str, status: int, seconds: float) -> None:
    """Counts a request. route: the pattern of its address, so that there are few of them."""
    if settings.METRICS:
        REQUESTS.labels(method, route, str(status)).inc()
        SECONDS.labels(route).observe(seconds)


def _waiting(registry: CollectorRegistry) -> None:
    from .jobs.rules import Job

    jobs = Gauge("saucer_jobs", "Pieces of long work", ["state"], registry=registry)
    for state, count in Job.objects.values_list("state").annotate(n=Count("pk")):
        jobs.labels(state).set(count)


def page(request: HttpRequest) -> HttpResponse:
    """The figures of all web processes, for who shows the token of the setting; 404 for others."""
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
    return HttpResponse(generate_latest(registry), content_type=CONTENT_TYPE_LATEST)
