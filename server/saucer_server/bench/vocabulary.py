"""What looks are made of, over HTTP: the kinds of step with their parameters as the core declares them."""

from functools import cache

from django.http import HttpRequest
from ninja import Router, Schema
from saucer_core.look import KINDS
from saucer_core.steps.step import Values

router = Router(tags=["looks"])


class KindOut(Schema):
    """A kind of step: what it is for, and its parameters as JSON Schema with label, unit and step sizes."""

    kind: str
    title: str
    purpose: str
    summary: str
    defaults: Values
    parameters: Values


@cache
def _kinds() -> list[KindOut]:
    return [
        KindOut(
            kind=k.model_fields["kind"].default,
            title=k.title,
            purpose=k.purpose,
            summary=k.summary,
            defaults=k(id="new", **k.begins).model_dump(mode="json", exclude={"id"}),
            parameters=k.declared(),
        )
        for k in KINDS
    ]


@router.get("/steps", response=list[KindOut])
def steps(request: HttpRequest) -> list[KindOut]:
    """The kinds of step, for the menu and the editors."""
    return _kinds()
