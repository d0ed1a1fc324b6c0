"""Columns of JSON: what is read has its declared type; rows of older shapes are read as the present one."""

import json

import pytest
from django.db import connection
from pydantic_core import PydanticSerializationError
from saucer_server.columns import JsonColumn, UnreadableRow
from saucer_server.delivering.models import Delivery, Piece
from saucer_server.delivering.pieces import OfLook, OfShot
from saucer_server.delivering.plan import Plan

from .test_delivering import QUICK, delivered, project  # noqa: F401

pytestmark = pytest.mark.django_db

#: A shot as deliveries kept it before looks stood in one list.
OLD_SHOT = {
    "id": 4,
    "number": 1,
    "name": "Kiln",
    "scene": "",
    "frame": 2,
    "encoding": "bt709_display",
    "digest": "d" * 64,
    "clip": None,
    "first": 0,
    "last": 0,
    "trim": {"exposure": 0.5},
    "layers": [[7, 0.5], [9, 1.0]],
    "words": "Dusk r1 50% + Glaze r3",
    "looks": [["Dusk", 1, 0.5], ["Glaze", 3, 1.0]],
}


def put(row, column, value):
    """Writes plain JSON past the column's checks, as an older version wrote it."""
    with connection.cursor() as cursor:
        table = row._meta.db_table
        cursor.execute(f"update {table} set {column} = %s where id = %s", [json.dumps(value), row.pk])


def test_shots_of_older_deliveries_are_read(lead, project):  # noqa: F811
    row = delivered(lead, project, QUICK)
    put(row, "shots", [OLD_SHOT])
    (shot,) = Delivery.objects.get(pk=row.pk).shots
    assert [(x.revision, x.look, x.number, x.strength) for x in shot.layers] == [
        (7, "Dusk", 1, 0.5),
        (9, "Glaze", 3, 1.0),
    ]
    assert (shot.trim.exposure, shot.trim.contrast) == (0.5, 1.0)
    said = lead.get(f"/projects/{project}/deliveries").json()[0]
    assert (said["shots"], said["looks"]) == (1, ["Dusk r1", "Glaze r3"])


def test_pieces_that_were_under_way_go_on(lead, project):  # noqa: F811
    piece = delivered(lead, project, QUICK).pieces.first()
    put(piece, "spec", {"shot": OLD_SHOT, "out": "display_p3"})
    source = Piece.objects.get(pk=piece.pk).source
    assert isinstance(source, OfShot)
    assert (source.out, source.shot.label) == ("display_p3", "1 Kiln")
    put(piece, "spec", {"layers": [[7, 1.0]], "looks": [["Dusk", 1, 0.5]], "out": "pq"})
    source = Piece.objects.get(pk=piece.pk).source
    assert isinstance(source, OfLook)
    assert source.revisions == [(7, 1.0)]


def test_an_empty_plan_is_the_usual_one(lead, project):  # noqa: F811
    row = delivered(lead, project, QUICK)
    put(row, "plan", {})
    assert Delivery.objects.get(pk=row.pk).plan == Plan()


def test_a_row_that_is_not_known_says_which_column(lead, project):  # noqa: F811
    row = delivered(lead, project, QUICK)
    put(row, "plan", {"grid": "wide"})
    with pytest.raises(UnreadableRow, match=r"delivering\.Delivery\.plan"):
        Delivery.objects.get(pk=row.pk)


def test_nothing_else_than_the_type_is_written(lead, project):  # noqa: F811
    row = delivered(lead, project, QUICK)
    with pytest.raises(PydanticSerializationError, match="Plan"):
        Delivery.objects.filter(pk=row.pk).update(plan={"grid": "wide"})


def test_migrations_see_a_plain_column():
    column = Delivery._meta.get_field("plan")
    assert isinstance(column, JsonColumn)
    assert column.deconstruct()[1:] == ("django.db.models.JSONField", [], {"default": dict})
