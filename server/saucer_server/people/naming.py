"""Names of people: what somebody signs in as, and what others call them. No two are told apart by what cannot
be seen."""

import re
import unicodedata

from django.db import connection

from ..errors import RuleError
from .models import Person

__all__ = ["LONGEST", "by_name", "called", "free", "sign_in_name"]

LONGEST = 120
_SIGN_IN = re.compile(r"[A-Za-z0-9@.+_-]{1,150}")
#: Scripts whose letters look like those of Latin (Unicode Technical Standard 39, section 5.1: mixed scripts).
_ALIKE = ("LATIN", "CYRILLIC", "GREEK", "ARMENIAN", "CHEROKEE", "COPTIC", "LISU")
_LOCK = 0x5A0CE4


def _plain(text: str) -> str:
    return " ".join(unicodedata.normalize("NFKC", text).split())


def sign_in_name(text: str) -> str:
    """A name to sign in with, as it is kept. Raises 422 for anything but ASCII letters, digits and
    ``@ . + - _``."""
    name = _plain(text)
    if not _SIGN_IN.fullmatch(name):
        raise RuleError(
            422, "A name to sign in with has letters a to z, digits, and @ . + - _ only, 150 at most."
        )
    return name


def called(text: str) -> str:
    """What others call a person, as it is kept. Raises 422 for letters that cannot be seen, or that only look
    like others."""
    name = _plain(text)
    if not name:
        raise RuleError(422, "Say what you are called.")
    if len(name) > LONGEST:
        raise RuleError(422, f"A name has {LONGEST} letters at most.")
    if any(unicodedata.category(letter) in ("Cc", "Cf", "Co", "Cn", "Cs") for letter in name):
        raise RuleError(422, "This name has letters that cannot be seen. Type it again.")
    for word in re.split(r"[\s'’.-]+", name):
        scripts = {unicodedata.name(letter, "").split(" ")[0] for letter in word if letter.isalpha()}
        if len(scripts & set(_ALIKE)) > 1:
            raise RuleError(
                422, f"“{word}” mixes letters of several scripts that look alike. Type it with one keyboard."
            )
    return name


def free(name: str) -> None:
    """Raises 409 where somebody signs in by that name, in capitals or small letters. Within a transaction:
    holds names until its end."""
    with connection.cursor() as cursor:
        cursor.execute("select pg_advisory_xact_lock(%s)", [_LOCK])
    if Person.objects.filter(username__iexact=name).exists():
        raise RuleError(409, f"Somebody signs in as {name} already. Choose another name.")


def by_name(text: str) -> Person | None:
    """Who signs in by that name: as it is written, else the only one who has it in other capitals."""
    name = _plain(text)
    rows = list(Person.objects.filter(username__iexact=name)[:2])
    return next((p for p in rows if p.username == name), rows[0] if len(rows) == 1 else None)
