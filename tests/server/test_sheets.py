"""Contact sheets: blind choices, votes of several people, files that hold a whole sheet."""

import io
import re
import unicodedata

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from fontTools.ttLib import TTFont
from fpdf import FPDF
from PIL import Image, ImageDraw, ImageFont
from saucer_core.look import Look as LookValue
from saucer_server.looks import rules as looks
from saucer_server.looks.models import Revision
from saucer_server.people.models import Person
from saucer_server.sheets import lettering
from saucer_server.sheets.models import Column, Mark, Sheet
from saucer_server.sheets.rules import letter


@pytest.fixture
def chosen(designer):
    person = Person.objects.get(username="ines")
    found = []
    for k, name in enumerate(("Ash", "Ember & Tide", "窯の口", "North window")):
        recipe = LookValue.model_validate({"steps": [{"kind": "contrast", "amount": 0.8 + 0.2 * k}]})
        row = looks.create(person, name, recipe)
        looks.keep_revision(row, person, "")
        found.append(row.pk)
    return found


@pytest.fixture
def sheet(designer, chosen, frame):
    body = {
        "name": "Autumn poster",
        "looks": chosen,
        "frames": [frame.pk],
        "judged_by": [chosen[0]],
        "blind": True,
        "strength": 0.8,
    }
    answer = designer.post("/sheets", body)
    assert answer.status_code == 201, answer.content
    return answer.json()


def vote(who, sheet, row, verdict="for", note=""):
    return who.send(
        "PUT",
        f"/sheets/{sheet['id']}/marks",
        {"row": row, "column": sheet["columns"][0]["id"], "verdict": verdict, "note": note},
    )


def test_a_blind_sheet_tells_no_names(designer, applier, sheet):
    for who in (designer, applier):
        seen = who.get(f"/sheets/{sheet['id']}")
        assert [r["name"] for r in seen.json()["rows"]] == ["Ash r1", "Look A", "Look B", "Look C"]
        assert [r["look"] is None for r in seen.json()["rows"]] == [False, True, True, True]
        assert not re.search(r"Ember|North|窯", seen.content.decode())
    row = sheet["rows"][1]["id"]
    picture = applier.get(
        f"/sheets/{sheet['id']}/still?row={row}&column={sheet['columns'][0]['id']}&width=64"
    )
    assert picture.content.startswith(b"\xff\xd8")
    assert Revision.objects.first().digest not in str(picture.headers)


def test_two_people_choose_blind_and_the_names_are_shown_at_the_end(designer, applier, lead, sheet):
    _, a, b, c = (r["id"] for r in sheet["rows"])
    for row, verdict in ((a, "for"), (b, "against"), (c, "with changes")):
        mine = vote(designer, sheet, row, verdict).json()
    assert vote(applier, sheet, a, "for", "like the first fire").status_code == 200
    halfway = applier.get(f"/sheets/{sheet['id']}").json()
    assert halfway["rows"][2]["sums"] == {"yes": 0, "changes": 0, "no": 0}, (
        "others' votes are not told before one's own are made"
    )
    assert mine["rows"][1]["sums"]["yes"] == 1
    vote(applier, sheet, b, "against")
    done = vote(applier, sheet, c, "for").json()
    assert [r["sums"] for r in done["rows"][1:]] == [
        {"yes": 2, "changes": 0, "no": 0},
        {"yes": 0, "changes": 0, "no": 2},
        {"yes": 1, "changes": 1, "no": 0},
    ]
    assert done["people"] == [{"name": "Ines", "votes": 3}, {"name": "Vera", "votes": 3}]
    assert applier.post(f"/sheets/{sheet['id']}/close").status_code == 403
    shown = designer.post(f"/sheets/{sheet['id']}/close").json()
    assert not shown["hidden"]
    assert {r["name"] for r in shown["rows"]} == {"Ash r1", *(r["name"] for r in shown["rows"][1:])}
    assert all(re.fullmatch(r".+ r1 \(Look [ABC]\)", r["name"]) for r in shown["rows"][1:])
    assert vote(lead, sheet, a).status_code == 409
    assert shown["notes"][0]["note"] == "like the first fire"


def test_a_mark_is_changed_and_taken_back(designer, sheet):
    row = sheet["rows"][1]["id"]
    vote(designer, sheet, row, "for")
    assert [m["verdict"] for m in vote(designer, sheet, row, "against", "too yellow").json()["own"]] == [
        "against"
    ]
    assert vote(designer, sheet, row, "").json()["own"] == []
    assert Mark.objects.count() == 0


def test_marks_that_cannot_be(designer, sheet):
    named, voted = sheet["rows"][0]["id"], sheet["rows"][1]["id"]
    assert "judge by" in vote(designer, sheet, named).json()["message"]
    whole = {"row": voted, "column": None, "verdict": "for"}
    assert designer.send("PUT", f"/sheets/{sheet['id']}/marks", whole).status_code == 422
    assert vote(designer, sheet, 10**12).status_code == 404
    assert vote(designer, sheet, voted, "perhaps").status_code == 422
    note = {"row": voted, "note": "glows"}
    for _ in range(2):
        assert (
            designer.send("PUT", f"/sheets/{sheet['id']}/marks", note).json()["notes"][0]["note"] == "glows"
        )
    assert Mark.objects.count() == 1


def test_who_changes_a_sheet(designer, other, lead, sheet):
    path = f"/sheets/{sheet['id']}"
    assert other.send("PATCH", path, {"name": "Mine"}).status_code == 403
    assert lead.send("PATCH", path, {"strength": 1.0}).json()["strength"] == 1.0
    vote(other, sheet, sheet["rows"][1]["id"])
    assert "voted already" in designer.send("PATCH", path, {"blind": False}).json()["message"]
    assert designer.send("PATCH", path, {"name": "Winter poster"}).json()["name"] == "Winter poster"
    assert other.send("DELETE", path).status_code == 403
    assert designer.send("DELETE", path).status_code == 204
    assert Sheet.objects.count() == 0


def test_votes_of_somebody_who_left_still_count(designer, applier, sheet):
    vote(applier, sheet, sheet["rows"][1]["id"])
    Person.objects.filter(username="vera").update(is_active=False)
    for row in sheet["rows"][1:]:
        seen = vote(designer, sheet, row["id"]).json()
    assert {"name": "Vera (left)", "votes": 1} in seen["people"]
    assert seen["rows"][1]["sums"]["yes"] == 2


def test_a_look_and_a_frame_that_went_leave_the_sheet_whole(designer, sheet):
    """Frames went from under sheets before these held them."""
    Revision.objects.filter(look__name="Ash").delete()
    Column.objects.update(frame=None)
    seen = designer.get(f"/sheets/{sheet['id']}").json()
    assert [r["gone"] for r in seen["rows"]] == [True, False, False, False]
    assert (seen["columns"][0]["frame"], seen["columns"][0]["name"]) == (None, "Ramp")
    assert designer.get(f"/sheets/{sheet['id']}/still?column={seen['columns'][0]['id']}").status_code == 404
    for kind in ("html", "pdf", "png"):
        assert designer.get(f"/sheets/{sheet['id']}/file?kind={kind}").status_code == 200


def test_files_hold_the_whole_sheet(designer, sheet):
    page = designer.get(f"/sheets/{sheet['id']}/file?kind=html")
    text = page.content.decode()
    assert page["Content-Disposition"].startswith('attachment; filename="Autumn poster.html"')
    assert text.count("data:image/jpeg;base64,") == 5, "the original and four looks"
    assert all(address.startswith("data:") for address in re.findall(r'(?:src|href)="([^"]*)"', text)), (
        "nothing is fetched"
    )
    assert "Look A" in text
    assert "Ember" not in text
    designer.post(f"/sheets/{sheet['id']}/close")
    closed = designer.get(f"/sheets/{sheet['id']}/file?kind=html").content.decode()
    assert "Ember &amp; Tide" in closed
    assert "窯の口" in closed
    assert designer.get(f"/sheets/{sheet['id']}/file?kind=pdf").content.startswith(b"%PDF")
    with Image.open(io.BytesIO(designer.get(f"/sheets/{sheet['id']}/file?kind=png").content)) as whole:
        assert (whole.width, whole.height) == (250 + 328, 92 + 5 * 188)
        middle = whole.getpixel((250 + 160, 92 + 90))
        assert middle != (0x16, 0x16, 0x16), "the pictures are in it"


def test_sheets_are_made_of_looks_and_frames_that_are_there(designer, look, frame, chosen):
    assert (
        "revision"
        in designer.post("/sheets", {"name": "x", "looks": [look.pk], "frames": [frame.pk]}).json()["message"]
    )
    assert designer.post("/sheets", {"name": "x", "looks": chosen, "frames": []}).status_code == 422
    assert (
        designer.post("/sheets", {"name": "x", "looks": [999_999], "frames": [frame.pk]}).status_code == 404
    )
    assert Sheet.objects.count() == 0
    assert (
        designer.post("/sheets", {"name": "n" * 120, "looks": chosen * 2, "frames": [frame.pk] * 2}).json()[
            "rows"
        ][0]["name"]
        == "Ash r1"
    )


def test_the_list_asks_the_database_once_for_all(designer, sheet, chosen, frame):
    with CaptureQueriesContext(
        connection,
    ) as few:
        designer.get("/sheets")
    for _ in range(4):
        designer.post("/sheets", {"name": "More", "looks": chosen, "frames": [frame.pk]})
    with CaptureQueriesContext(connection) as many:
        assert len(designer.get("/sheets").json()) == 5
    assert len(many) == len(few)


@pytest.mark.parametrize(
    ("place", "name"), [(0, "A"), (25, "Z"), (26, "AA"), (27, "AB"), (701, "ZZ"), (702, "AAA")]
)
def test_letters_go_on_after_z(place, name):
    assert letter(place) == name


SCRIPTS = "Kiln Печь Φούρνος 窯の口 가마 เตา भट्ठी تنور תנור 🔥"


def test_names_in_any_script_are_written():
    """In a PDF as text that can be searched, and in a picture with no letter drawn as the box of one that is
    missing."""
    page = FPDF()
    lettering.lettered(page, "sheet", [SCRIPTS])
    page.add_page()
    page.set_font("sheet", size=12)
    page.cell(180, 8, SCRIPTS)
    data = bytes(page.output())
    assert all(name in data for name in (b"DejaVuSans", b"DroidSansFallback", b"Unifont", b"UnifontUpper"))
    for font, part in lettering.runs(SCRIPTS):
        missing = ImageFont.truetype(str(font), 20).getmask("\U0010ffff")
        for one in part.strip():
            assert bytes(ImageFont.truetype(str(font), 20).getmask(one)) != bytes(missing), one


def test_every_letter_of_the_basic_plane_has_a_font():
    """Letters, figures and punctuation of Unicode 14, as Python 3.11 knows them."""
    letters = [chr(c) for c in range(0x20, 0x10000) if unicodedata.category(chr(c))[0] in "LNP"]
    held = {font: set(TTFont(font, lazy=True).getBestCmap()) for font in lettering.FONTS}
    assert [c for c in letters if ord(c) not in held[lettering.runs(c)[0][0]]] == []


def test_long_names_are_cut_where_the_room_ends():
    picture = Image.new("L", (400, 60))
    draw = ImageDraw.Draw(picture)
    lettering.write(draw, (10, 10), "窯の口 and " * 20, "white", 14, 200)
    box = picture.getbbox()
    assert box is not None
    assert box[0] >= 9
    assert 150 < box[2] <= 211
