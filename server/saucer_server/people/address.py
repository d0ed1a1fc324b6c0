"""Where a request comes from."""

from ipaddress import ip_address

from django.conf import settings
from django.http import HttpRequest


def address_of(request: HttpRequest) -> str:
    """The address of whoever asks: what the front says, where there is one that overwrites what others
    claim."""
    if settings.BEHIND_FRONT:
        return str(request.headers.get("X-Real-IP", ""))[:60]
    address = str(request.META.get("REMOTE_ADDR", ""))
    # From the nearest on: the first that is no proxy of ours is who asks; what stands before it may be made
    # up.
    for before in reversed(request.headers.get("X-Forwarded-For", "").split(",")):
        if not _is_proxy(address) or not before.strip():
            break
        address = before.strip()
    return address[:60]


def _is_proxy(address: str) -> bool:
    try:
        return any(ip_address(address) in network for network in settings.PROXIES)
    except ValueError:
        return False
