"""Where a request comes from."""

from django.conf import settings
from django.http import HttpRequest


def address_of(request: HttpRequest) -> str:
    """The address of whoever asks: what the front says, where there is one that overwrites what others claim."""
    if settings.BEHIND_FRONT:
        return str(request.headers.get("X-Real-IP", ""))[:60]
    return str(request.META.get("REMOTE_ADDR", ""))
