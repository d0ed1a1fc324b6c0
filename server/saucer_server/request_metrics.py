"""What is counted of requests for Prometheus; only where ``SAUCER_METRICS`` names a token. ``metrics`` shows
it."""

from django.conf import settings
from prometheus_client import Counter, Histogram

REQUESTS = Counter("saucer_requests", "Requests that were answered", ["method", "route", "status"])
SECONDS = Histogram(
    "saucer_request_seconds",
    "Seconds until the answer",
    ["route"],
    buckets=(0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30),
)


def count(method: str, route: str, status: int, seconds: float) -> None:
    """Counts a request. route: the pattern of its address, so that there are few of them."""
    if settings.METRICS:
        REQUESTS.labels(method, route, str(status)).inc()
        SECONDS.labels(route).observe(seconds)
