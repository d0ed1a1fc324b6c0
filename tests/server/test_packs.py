"""Packs: what they bring is judged before anything is kept, and kept whole or not at all."""

import io
import zipfile

import pytest
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_core.baking.bake import bake
from saucer_core.formats import cube, recipe
from saucer_core.look import Look as LookValue
from saucer_core.steps import no_tables
from saucer_core.treatment import Treatment
from saucer_server.catalogue.models import Collection
from saucer_server.jobs.models import Job
from saucer_server.jobs.rules import Cancelled
from saucer_server.looks.models import Look, Revision
from saucer_server.luts.models import BorrowedLut
from saucer_server.packs import keeping, reading
from saucer_server.packs.models import Pack, PackItem, Stage
from saucer_server.presets.models import Preset


def table(**parameters):
    look = LookValue.model_validate({"steps": [{"id": "c", "kind": "contrast", **parameters}]})
    return cube.write_text(bake(Treatment(look).compile(), 9)).encode()


HARD, SOFT = table(amount=1.3), table(amount=0.8)
RECIPE = recipe.dumps(
    LookValue.model_validate({"steps": [{"id": "s", "kind": "saturation", "amount": 0.6}]}),
    name="Rain",
    note="thin",
    tables=no_tables,
).encode()
PRESET = recipe.dumps(
    LookValue.model_validate({"steps": [{"id": "s", "kind": "exposure", "stops": 1}]}),
    name="Up",
    tables=no_tables,
    preset=True,
)
FILES = {
    "LICENCE.txt": b"Inside the studio, please.",
    "fired/hard_print.cube": HARD,
    "fired/hard_copy.cube": HARD,
    "yard/soft.cube": SOFT,
    "yard/broken.cube": SOFT[: len(SOFT) // 2].rpartition(b" ")[0],
    "yard/rain.saucer.json": RECIPE,
    "yard/up.saucer.json": PRESET.encode(),
    "yard/page.pdf": b"%PDF",
    "../../climbs.cube": HARD,
    "__MACOSX/._hard.cube": b"rubbish",
}


def zipped(files=FILES):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as z:
        for name, data in files.items():
            z.writestr(name, data)
    return out.getvalue()


def begun(who, files, paths=()):
    pack = who.post("/packs", {"name": "Yard pack"}).json()
    answer = who.upload(f"/packs/{pack['id']}/files", {"files": files, "paths": paths or "[]"})
    assert answer.status_code == 204, answer.content
    return pack["id"]


def read(who, pack_id, frame=None):
    answer = who.post(f"/packs/{pack_id}/read", {"frame": frame.pk if frame else None})
    assert answer.status_code == 200, answer.content
    reading.read(pack_id)
    return who.get(f"/packs/{pack_id}").json()


@pytest.fixture
def pack(designer, frame):
    return read(designer, begun(designer, [SimpleUploadedFile("yard.zip", zipped())]), frame)


def by_file(pack):
    return {i["file_name"]: i for i in pack["items"]}


def said(who, pack, **fields):
    answer = who.send("PATCH", f"/packs/{pack['id']}", fields)
    assert answer.status_code == 200, answer.content


def kept(who, pack):
    said(who, pack, origin="Ines, autumn", rights="inside the studio", tags=["Kiln", "autumn"])
    assert who.post(f"/packs/{pack['id']}/keep").status_code == 200
    keeping.keep(pack["id"])


def test_a_pack_is_judged_before_anything_is_kept(pack):
    items = by_file(pack)
    assert pack["stage"] == "ready"
    assert pack["job"]["state"] == "done"
    assert pack["licence"] == "Inside the studio, please."
    assert pack["licence_file"] == "LICENCE.txt"
    assert set(items) == {
        "hard_print.cube",
        "hard_copy.cube",
        "soft.cube",
        "broken.cube",
        "rain.saucer.json",
        "up.saucer.json",
        "page.pdf",
        "../../climbs.cube",
    }
    hard = items["hard_print.cube"]
    assert hard["name"] == "hard print"
    assert hard["form"] == ".cube, 9 × 9 × 9"
    assert "hard" in hard["words"]
    assert hard["chosen"]
    assert hard["guess"]["sure"] > 0.5
    assert (hard["expects"], hard["gives"]) == ("bt709_display", "bt709_display")
    assert items["hard_copy.cube"]["twin"] == {
        "name": "hard print",
        "apart": 0.0,
        "same": True,
        "look": None,
        "lut": None,
        "item": hard["id"],
    }
    assert not items["hard_copy.cube"]["chosen"]
    assert "rows" in items["broken.cube"]["reason"] or "numbers" in items["broken.cube"]["reason"]
    assert "out of the pack" in items["../../climbs.cube"]["reason"]
    assert "not a kind" in items["page.pdf"]["reason"]
    assert pack["collections"] == {"fired": "Fired", "yard": "Yard"}
    assert not Look.objects.filter(name="hard print").exists()
    assert not BorrowedLut.objects.exists()


def test_what_is_kept_is_whole_and_says_where_it_comes_from(designer, pack):
    kept(designer, pack)
    look = Look.objects.get(name="hard print")
    assert look.origin == "Ines, autumn, in Yard pack"
    assert look.rights == "inside the studio"
    assert "fired/hard_print.cube" in look.revisions.get().note
    assert look.note == "Licence: Inside the studio, please."
    assert Look.objects.get(name="Rain").note == "thin\n\nLicence: Inside the studio, please."
    assert [t.name for t in look.tags.all()] == ["autumn", "kiln"]
    assert {c.name for c in look.collections.all()} == {"Fired"}
    assert {c.name for c in Look.objects.get(name="Rain").collections.all()} == {"Yard"}
    assert Preset.objects.get().name == "Up"
    assert not Look.objects.filter(name="hard copy").exists(), "the twin was left out"
    lut = BorrowedLut.objects.get(name="hard print")
    assert (lut.rights, lut.origin) == ("inside the studio", "Ines, autumn, in Yard pack")
    assert default_storage.exists(lut.file)
    assert Pack.objects.get(pk=pack["id"]).stage == Stage.KEPT
    cards = designer.get("/catalogue?collection=Fired").json()
    assert [c["name"] for c in cards["cards"]] == ["hard print"]
    assert {"name": "Yard", "count": 2, "kept": False} in designer.get("/catalogue/filters").json()[
        "collections"
    ]
    assert designer.get("/packs").json() == []
    assert not default_storage.exists(PackItem.objects.get(file_name="soft.cube").file)


def test_the_same_pack_twice_is_all_twins(designer, frame, pack):
    kept(designer, pack)
    again = read(designer, begun(designer, [SimpleUploadedFile("yard.zip", zipped())]), frame)
    items = by_file(again)
    for name in ("hard_print.cube", "hard_copy.cube", "soft.cube", "rain.saucer.json"):
        assert items[name]["twin"]["look"], name
        assert not items[name]["chosen"], name


def test_pictures_of_what_is_not_kept_yet(designer, pack, frame):
    item = by_file(pack)["hard_print.cube"]["id"]
    assert designer.get(f"/packs/items/{item}/still?frame={frame.pk}").content[:2] == b"\xff\xd8"
    assert designer.get(f"/packs/items/{item}/saucer").content[:4] == b"\x89PNG"
    broken = by_file(pack)["broken.cube"]["id"]
    assert designer.get(f"/packs/items/{broken}/saucer").status_code == 404


def test_encodings_are_corrected_for_one_or_all_and_measured_again(designer, pack):
    items = by_file(pack)
    ids = [items["hard_print.cube"]["id"], items["soft.cube"]["id"]]
    answer = designer.send("PATCH", f"/packs/{pack['id']}/items", {"ids": ids, "expects": "film_log"})
    changed = {i["file_name"]: i for i in answer.json()}
    hard = changed["hard_print.cube"]
    assert (hard["expects"], hard["gives"]) == ("film_log", "bt709_display")
    assert hard["guess"]["sure"] == 1
    assert hard["guess"]["unsure"] is False
    assert hard["guess"]["source"] == "chosen"
    assert hard["far"] > items["hard_print.cube"]["far"]
    assert hard["words"] != items["hard_print.cube"]["words"]
    kept(designer, pack)
    assert Revision.objects.get(look__name="hard print").recipe["input"] == "film_log"
    wrongs: list[dict[str, object]] = [
        {"ids": ids, "expects": "no such"},
        {"ids": ids, "name": "two at once"},
        {"ids": []},
    ]
    for wrong in wrongs:
        assert designer.send("PATCH", f"/packs/{pack['id']}/items", wrong).status_code == 422


def test_a_cancelled_reading_leaves_nothing(designer, frame, monkeypatch):
    pack_id = begun(designer, [SimpleUploadedFile("yard.zip", zipped())])
    designer.post(f"/packs/{pack_id}/read", {"frame": frame.pk})
    monkeypatch.setattr(reading, "AHEAD", 1)
    job = Pack.objects.get(pk=pack_id).job
    first = reading._keep_read

    def ask_to_stop(*given):
        first(*given)
        Job.objects.filter(pk=job.pk).update(cancel_asked=True)

    monkeypatch.setattr(reading, "_keep_read", ask_to_stop)
    with pytest.raises(Cancelled):
        reading.read(pack_id)
    assert not PackItem.objects.exists()
    assert Pack.objects.get().stage == Stage.GATHERING
    monkeypatch.setattr(reading, "_keep_read", first)
    assert len(read(designer, pack_id)["items"]) == 8


def test_a_worker_that_dies_while_keeping_leaves_whole_looks_and_goes_on(designer, pack, monkeypatch):
    said(designer, pack, origin="Ines")
    designer.post(f"/packs/{pack['id']}/keep")
    whole = keeping._look
    count = 0

    def die(*given):
        nonlocal count
        count += 1
        found = whole(*given)
        if count == 2:
            raise RuntimeError("the machine went away")
        return found

    monkeypatch.setattr(keeping, "_look", die)
    with pytest.raises(RuntimeError):
        keeping.keep(pack["id"])
    names = set(Look.objects.filter(origin__startswith="Ines,").values_list("name", flat=True))
    assert len(names) == 1
    assert all(look.revisions.exists() for look in Look.objects.filter(name__in=names))
    assert Pack.objects.get(pk=pack["id"]).stage == Stage.READY
    monkeypatch.setattr(keeping, "_look", whole)
    kept(designer, pack)
    assert sorted(Look.objects.filter(origin__startswith="Ines").values_list("name", flat=True)) == [
        "Rain",
        "hard print",
        "soft",
    ]


def test_a_pack_is_its_own_persons(designer, other, lead, applier, stranger, pack):
    item = by_file(pack)["soft.cube"]["id"]
    for who, status in ((other, 403), (applier, 403), (stranger, 401), (lead, 200)):
        assert who.get(f"/packs/{pack['id']}").status_code == status
        assert who.get(f"/packs/items/{item}/saucer").status_code == status
    assert applier.post("/packs", {"name": "x"}).status_code == 403
    assert other.post(f"/packs/{pack['id']}/keep").status_code == 403


def test_a_pack_is_dropped_with_its_files(designer, pack):
    files = {i.file for i in PackItem.objects.exclude(file="")}
    assert files
    assert designer.send("DELETE", f"/packs/{pack['id']}").status_code == 204
    assert not Pack.objects.exists()
    assert not any(default_storage.exists(f) for f in files)


def test_what_cannot_be_decided_says_what_to_do(designer, pack):
    answer = designer.post(f"/packs/{pack['id']}/keep")
    assert answer.status_code == 422
    assert "where the pack comes from" in answer.json()["message"]
    assert designer.post(f"/packs/{pack['id']}/read", {}).status_code == 409
    ids = [i["id"] for i in pack["items"]]
    designer.send("PATCH", f"/packs/{pack['id']}/items", {"ids": ids, "chosen": False})
    said(designer, pack, origin="x")
    assert "Nothing of it is chosen" in designer.post(f"/packs/{pack['id']}/keep").json()["message"]


def test_more_files_and_folders_come_in(designer, pack):
    paths = '["shed/late/soft_again.cube", "shed/.hidden.cube"]'
    files = [
        SimpleUploadedFile("soft_again.cube", table(amount=0.7)),
        SimpleUploadedFile(".hidden.cube", SOFT),
    ]
    assert designer.upload(f"/packs/{pack['id']}/files", {"files": files, "paths": paths}).status_code == 204
    more = read(designer, pack["id"])
    assert len(more["items"]) == len(pack["items"]) + 1
    assert by_file(more)["soft_again.cube"]["folder"] == "shed/late"
    assert more["collections"]["shed/late"] == "Late"
    climbing = {"files": [SimpleUploadedFile("x.cube", SOFT)], "paths": '["../x.cube"]'}
    answer = designer.upload(f"/packs/{pack['id']}/files", climbing)
    assert answer.status_code == 422
    assert "out of the pack" in answer.json()["message"]
    assert (
        designer.upload(
            f"/packs/{pack['id']}/files", {**climbing, "files": [SimpleUploadedFile("x", b"")], "paths": "{"}
        ).status_code
        == 422
    )


def test_a_zip_that_is_none_is_said_in_a_row(designer):
    pack = read(
        designer,
        begun(
            designer, [SimpleUploadedFile("cut.zip", zipped()[:-200]), SimpleUploadedFile("soft.cube", SOFT)]
        ),
    )
    items = by_file(pack)
    assert "damaged or cut short" in items["cut.zip"]["reason"]
    assert items["soft.cube"]["chosen"]


def test_twenty_packs_wait_at_most(designer):
    for _ in range(20):
        assert designer.post("/packs", {"name": "x"}).status_code == 201
    assert "Keep or drop some" in designer.post("/packs", {"name": "x"}).json()["message"]


def test_looks_go_into_a_collection_that_is_there(designer, pack):
    said(designer, pack, collections={"fired": "Kiln series", "yard": ""})
    kept(designer, pack)
    assert [c.name for c in Collection.objects.all()] == ["Kiln series"]
    assert not Look.objects.get(name="soft").collections.exists()
