"""A second factor for passwords: codes of six digits that change every half minute (TOTP, RFC 6238), by
PyOTP.

Ten codes for a day without the phone let in once each; a lead can take the factor off.
"""

import hashlib
import secrets
import time
from dataclasses import dataclass

import pyotp
import segno
from django.db import transaction

from ..errors import RuleError
from .activity import Happening, note
from .models import Factor, Person

__all__ = ["Begun", "Factor", "asked_for", "begin", "confirm", "end", "must_pass", "people"]

SPARE = 10
#: Seconds that one code is good for.
STEP = 30
#: Codes before and after it that are taken: clocks of phones differ.
DRIFT = 1


@dataclass(frozen=True)
class Begun:
    """What an app needs to make the codes: the secret, the same as an address, and that as a picture (the
    address of an SVG)."""

    secret: str
    address: str
    picture: str


def _digest(code: str) -> str:
    return hashlib.sha256(code.replace("-", "").strip().lower().encode()).hexdigest()


def asked_for(person: Person) -> bool:
    """Whether a person signs in with a second factor."""
    return Factor.objects.filter(person=person, confirmed=True).exists()


def people() -> set[int]:
    """Keys of all who sign in with a second factor."""
    return set(Factor.objects.filter(confirmed=True).values_list("person", flat=True))


def begin(person: Person) -> Begun:
    """A new secret, which counts once ``confirm`` has seen a code of it. Raises 409 where there is a factor
    already."""
    with transaction.atomic():
        factor = Factor.objects.select_for_update().filter(person=person).first()
        if factor is not None and factor.confirmed:
            raise RuleError(409, "You have a second factor already. Take it off first.")
        secret = pyotp.random_base32()
        Factor.objects.update_or_create(person=person, defaults={"secret": secret, "spare": [], "last": 0})
    address = pyotp.TOTP(secret, interval=STEP).provisioning_uri(name=person.username, issuer_name="Saucer")
    return Begun(
        secret, address, segno.make(address, error="m").svg_data_uri(scale=4, dark="#000", light="#fff")
    )


def _step(secret: str, code: str) -> int:
    """The half minute, counted from 1970, that a code belongs to; 0 for none near now."""
    totp, now = pyotp.TOTP(secret, interval=STEP), int(time.time()) // STEP
    for step in range(now - DRIFT, now + DRIFT + 1):
        if secrets.compare_digest(totp.generate_otp(step).encode(), code.replace(" ", "").encode()):
            return step
    return 0


def confirm(person: Person, code: str) -> list[str]:
    """Begins to ask for codes; gives the spare ones, which are told once. Raises 422 for a wrong code, 409
    where nothing was begun."""
    with transaction.atomic():
        factor = Factor.objects.select_for_update().filter(person=person, confirmed=False).first()
        if factor is None:
            raise RuleError(409, "Begin again: there is no secret that waits for its first code.")
        step = _step(factor.secret, code)
        if not step:
            raise RuleError(
                422,
                "That is not the code of this moment. Wait for the next one, and see that the phone's "
                "clock is right.",
            )
        spare = ["-".join(secrets.token_hex(2) for _ in range(2)) for _ in range(SPARE)]
        factor.confirmed, factor.last, factor.spare = True, step, [_digest(one) for one in spare]
        factor.save(update_fields=["confirmed", "last", "spare"])
        note(Happening.PEOPLE, person, "signs in with a second factor from now on")
    return spare


def must_pass(person: Person, code: str) -> None:
    """Lets a person with a second factor in by a code, once a code.

    Raises 401: with ``second_factor`` where a code is missing, and where it is wrong.
    """
    with transaction.atomic():
        factor = Factor.objects.select_for_update().filter(person=person, confirmed=True).first()
        if factor is None:
            return
        if not code.strip():
            raise RuleError(401, "Type the code that your app shows now.", second_factor=True)
        step = _step(factor.secret, code)
        if step > factor.last:
            factor.last = step
            factor.save(update_fields=["last"])
            return
        if not step and _digest(code) in factor.spare:
            factor.spare.remove(_digest(code))
            factor.save(update_fields=["spare"])
            note(Happening.PEOPLE, person, "signed in with a spare code", more=f"{len(factor.spare)} left")
            return
    words = (
        "This code was used already. Wait for the next one."
        if step
        else "That is not the code of this moment. Type the next one."
    )
    raise RuleError(401, words, second_factor=True)


def end(person: Person, by: Person) -> None:
    """Takes a person's second factor off, by themselves or by a lead, as when a phone is lost. Nothing
    happens where there is none."""
    with transaction.atomic():
        if not Factor.objects.filter(person=person).delete()[0]:
            return
        if by == person:
            note(Happening.PEOPLE, by, "signs in without a second factor from now on")
        else:
            note(Happening.PEOPLE, by, "took off the second factor of", str(person))
