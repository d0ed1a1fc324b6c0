"""Files of every kind that hold looks, and packs of them taken apart without trusting a byte."""

import io
import stat
import zipfile
from pathlib import Path

import numpy as np
import pytest
from saucer_core.baking.bake import bake
from saucer_core.encodings import CameraEncoding, definition, registry
from saucer_core.encodings.registry import forget, known
from saucer_core.errors import FileError
from saucer_core.formats import carrier, cdl, clf, cube, incoming, pack, pictures, recipe, zips
from saucer_core.look import Look
from saucer_core.steps import no_tables
from saucer_core.steps.slope_offset_power import Correction
from saucer_core.tables.carrier import hald
from saucer_core.treatment import Treatment

LOOK = Look.model_validate(
    {
        "steps": [
            {"id": "c", "kind": "contrast", "amount": 1.2},
            {"id": "s", "kind": "saturation", "amount": 0.8},
        ]
    }
)
TABLE = bake(Treatment(LOOK).compile(), 17)


@pytest.fixture(autouse=True)
def _nobody_keeps_encodings(monkeypatch):
    monkeypatch.setattr(registry, "_supply", [])
    # Other tests of the same process may have left theirs.
    monkeypatch.setattr(registry, "_brought", {})


def brought(tmp_path: Path, name: str, data: bytes | str) -> list[incoming.Incoming]:
    path = tmp_path / "sent"
    path.write_bytes(data.encode() if isinstance(data, str) else data)
    return incoming.read(path, name)


def same_colours(one: incoming.Incoming) -> bool:
    rgb = np.random.default_rng(3).uniform(0, 1, (200, 3)).astype(np.float32)
    off = Treatment(one.look).compile(one.tables)(rgb) - Treatment(LOOK).compile()(rgb)
    return bool(np.abs(off).max() < 0.02)


@pytest.mark.parametrize("name", ["late_sun.cube", "late_sun.clf"])
def test_a_table_becomes_a_look_that_wears_it(tmp_path, name):
    text = cube.write_text(TABLE) if name.endswith("cube") else clf.write_text(TABLE)
    (one,) = brought(tmp_path, name, text)
    assert (one.kind, one.name, one.form) == ("table", "late sun", f"{Path(name).suffix}, 17 × 17 × 17")
    assert same_colours(one)
    assert one.table is not None
    again = one.renamed("Another").read_as("film_log", "srgb")
    assert (again.look.input, again.look.output, again.look.steps[0].name) == ("film_log", "srgb", "Another")


def test_descriptors_of_a_common_lut_format_file_are_read(tmp_path):
    # S-2014-006 v1.0: InputDescriptor and OutputDescriptor of a ProcessList say what its values are.
    text = clf.write_text(TABLE).replace(
        "<LUT3D",
        "<InputDescriptor>film log</InputDescriptor><OutputDescriptor>sRGB</OutputDescriptor><LUT3D",
        1,
    )
    (one,) = brought(tmp_path, "a.clf", text)
    assert one.guess is not None
    assert (one.guess.expects, one.guess.gives, one.guess.source) == ("film_log", "srgb", "written in it")


def test_a_list_of_corrections_becomes_a_look_each(tmp_path):
    corrections = [
        cdl.NamedCorrection(Correction((1.1, 1, 0.9), saturation=0.8), "gate", "warm"),
        cdl.NamedCorrection(Correction(), ""),
    ]
    one, other = brought(tmp_path, "yard.ccc", cdl.write_text(corrections, ".ccc"))
    assert (one.name, one.note, one.form, one.kind) == ("gate", "warm", ".ccc, 1 of 2", "correction")
    assert other.name == "yard 2"
    assert one.look.steps[0].correction() == corrections[0].correction
    # A correction stays in the encoding that it is given.
    assert one.read_as("film_log", "srgb").look.output == "film_log"


def test_a_correction_beyond_what_a_step_takes_is_refused_by_name(tmp_path):
    text = cdl.write_text([cdl.NamedCorrection(Correction((20.0, 1, 1)), "far")], ".cc")
    with pytest.raises(FileError, match="far: slope lies outside"):
        brought(tmp_path, "far.cc", text)


def test_recipes_and_presets_stay_editable(tmp_path):
    (one,) = brought(
        tmp_path, "dusk.saucer.json", recipe.dumps(LOOK, name="Dusk", note="soft", tables=no_tables)
    )
    assert (one.kind, one.name, one.note, one.form, one.guess) == (
        "look",
        "Dusk",
        "soft",
        "recipe, 2 steps",
        None,
    )
    assert one.look == LOOK
    assert one.read_as("film_log", "srgb") is one
    single = LOOK.model_copy(update={"steps": LOOK.steps[:1]})
    (preset,) = brought(
        tmp_path, "up.saucer.json", recipe.dumps(single, name="Up", tables=no_tables, preset=True)
    )
    assert (preset.kind, preset.form) == ("preset", "preset")


def test_encodings_of_a_recipe_do_not_stay_behind(tmp_path):
    camera = CameraEncoding(
        name="Shed log",
        red=(0.7, 0.3),
        green=(0.2, 0.8),
        blue=(0.13, 0.04),
        white=(0.3127, 0.329),
        base=10,
        log_side_slope=0.25,
        log_side_offset=0.4,
        lin_side_slope=5.5,
        lin_side_offset=0.05,
        lin_side_break=0.011,
    )
    with known([camera]):
        text = recipe.dumps(
            Look.model_validate({"input": camera.key(), "steps": [{"kind": "scene_to_display"}]}),
            tables=no_tables,
        )
        with known([camera]):
            pass
        assert definition(camera.key()) is not None, "an inner block takes back only its own"
    assert definition(camera.key()) is None
    (one,) = brought(tmp_path, "shed.saucer.json", text)
    assert one.encodings == (camera,)
    assert definition(camera.key()) is None
    with pytest.raises(FileError):
        recipe.loads(text.replace('"scene_to_display"', '"no such kind"'), "broken")
    assert definition(camera.key()) is None, "nor those of a recipe that is refused"
    forget(camera)


def test_a_carrier_brings_its_table_and_any_other_picture_is_refused(tmp_path):
    place = hald(6)
    path = tmp_path / "c.png"
    carrier.write(path, place, "uint16", bake(Treatment(LOOK).compile(), place.grid).grid)
    (one,) = brought(tmp_path, "slip_blue.png", path.read_bytes())
    assert (one.kind, one.form, one.name) == ("carrier", "carrier, 36 × 36 × 36", "slip blue")
    assert same_colours(one)
    pictures.write(path, np.zeros((90, 160, 3), np.float32))
    with pytest.raises(FileError, match="size"):
        brought(tmp_path, "photo.png", path.read_bytes())


@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("a.cube", "LUT_3D_SIZE 2\n0 0 0\n", "rows"),
        ("a.cube", b"\x00\xff" * 400, "a.cube"),
        ("inner.zip", b"PK", "pack inside a pack"),
        ("a.pdf", b"%PDF", "not a LUT file"),
        ("a.saucer.json", b"\xff\xfe{", "UTF-8"),
        ("a.saucer.json", "{}", "not a look recipe"),
        ("a.clf", "<ProcessList/>", "no node"),
        ("a.cube", "", "a.cube"),
    ],
)
def test_what_cannot_be_read_says_why(tmp_path, name, data, said):
    with pytest.raises(FileError, match=said):
        brought(tmp_path, name, data)


def test_a_reading_that_is_not_to_be_judged_is_plain(tmp_path):
    path = tmp_path / "a.cube"
    path.write_text(cube.write_text(TABLE))
    (one,) = incoming.read(path, "a.cube", judged=False)
    assert one.guess is None
    assert one.findings == ()
    assert (
        one.read_as("film_log", "srgb").look
        == incoming.read(path, "a.cube")[0].read_as("film_log", "srgb").look
    )


def test_a_table_that_turns_back_is_serious(tmp_path):
    turned = bake(
        Treatment(
            Look.model_validate(
                {"steps": [{"kind": "curves", "all": [[0, 0], [0.4, 0.7], [0.7, 0.3], [1, 1]]}]}
            )
        ).compile(),
        17,
    )
    (one,) = brought(tmp_path, "a.cube", cube.write_text(turned))
    assert one.serious
    assert any("turn back" in words for words in one.findings)


# Packs


def zipped(files: dict[str, bytes], **how) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as z:
        for name, data in files.items():
            z.writestr(name, data, **how)
    return out.getvalue()


def unpacked(tmp_path: Path, data: bytes) -> dict[str, pack.PackFile]:
    path, into = tmp_path / "p.zip", tmp_path / "into"
    path.write_bytes(data)
    into.mkdir(exist_ok=True)
    return {f"{f.folder}/{f.name}": f for f in pack.unpack(path, "p.zip", into)}


def test_a_pack_is_unpacked_into_numbers_whatever_its_names_say(tmp_path):
    names = {
        "a/b/ein Gefäß.cube": b"1",
        "窯/青.cube": b"2",
        "../../../etc/climbs": b"3",
        "/rooted": b"4",
        "C:\\x": b"5",
        ".DS_Store": b"6",
    }
    found = unpacked(tmp_path, zipped(names))
    assert found["a/b/ein Gefäß.cube"].path.read_bytes() == b"1"
    assert found["窯/青.cube"].path.read_bytes() == b"2"
    refused = [f for f in found.values() if f.path is None]
    assert len(refused) == 3
    assert all("out of the pack" in f.reason for f in refused)
    assert sorted(p.name for p in (tmp_path / "into").iterdir()) == ["0", "1"]


def test_names_that_old_packers_wrote_are_read():
    entry = zipfile.ZipInfo("Gefäß.cube".encode().decode("cp437"))
    entry.flag_bits = 0
    assert zips.name_of(entry) == "Gefäß.cube"


def test_a_bomb_is_left_out_and_the_rest_comes_in(tmp_path, monkeypatch):
    monkeypatch.setattr(pack, "FILE_LIMIT", 1_000_000)
    found = unpacked(tmp_path, zipped({"bomb.cube": b"0" * 3_000_000, "ok.cube": b"1 2 3"}))
    assert "unpacks to more" in found["/bomb.cube"].reason
    assert found["/ok.cube"].path is not None
    assert not (tmp_path / "into" / "0").exists(), "nothing of it stays on the disk"
    monkeypatch.setattr(zips, "RATIO_LIMIT", 10)
    assert (
        "unpacks to more" in unpacked(tmp_path, zipped({"dense.cube": b"0" * 900_000}))["/dense.cube"].reason
    )


def test_links_locked_and_damaged_entries_are_said(tmp_path):
    link = zipfile.ZipInfo("link.cube")
    link.external_attr = (stat.S_IFLNK | 0o777) << 16
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as z:
        z.writestr(link, "/etc/passwd")
        z.writestr("sound.cube", b"1 2 3 4 5 6 7 8 9" * 50)
        z.writestr("locked.cube", b"secret")
    data = bytearray(out.getvalue())
    at = data.rindex(b"locked.cube") - 46
    data[at + 8] |= 1
    data[data.index(b"sound.cube") + 40] ^= 0xFF
    found = unpacked(tmp_path, bytes(data))
    assert "link" in found["/link.cube"].reason
    assert "password" in found["/locked.cube"].reason
    assert "damaged" in found["/sound.cube"].reason


def test_packs_that_are_none_or_too_much_are_refused_whole(tmp_path, monkeypatch):
    with pytest.raises(FileError, match="damaged or cut short"):
        unpacked(tmp_path, zipped({"a.cube": b"1"})[:-30])
    monkeypatch.setattr(pack, "COUNT_LIMIT", 3)
    with pytest.raises(FileError, match="4 files; a pack may hold 3"):
        unpacked(tmp_path, zipped({f"{k}.cube": b"1" for k in range(4)}))
    monkeypatch.setattr(pack, "ZIP_LIMIT", 10)
    with pytest.raises(FileError, match="larger than"):
        unpacked(tmp_path, zipped({"a.cube": b"1"}))


def test_a_folder_is_walked_without_following_links(tmp_path, monkeypatch):
    (tmp_path / "in" / "fired").mkdir(parents=True)
    (tmp_path / "in" / "fired" / "a.cube").write_text("1")
    (tmp_path / "in" / ".hidden").write_text("2")
    (tmp_path / "in" / "out.cube").symlink_to("/etc/hostname")
    found = {f.name: f for f in pack.walk(tmp_path / "in")}
    assert (found["a.cube"].folder, found["a.cube"].reason) == ("fired", "")
    assert "link" in found["out.cube"].reason
    assert ".hidden" not in found
    monkeypatch.setattr(pack, "COUNT_LIMIT", 1)
    with pytest.raises(FileError, match="more than 1 files"):
        list(pack.walk(tmp_path / "in"))


def test_the_text_of_a_licence_is_found(tmp_path):
    path = tmp_path / "x"
    path.write_bytes("Inside the studio, “please”.\0".encode())
    assert pack.licence(pack.PackFile("", "LICENSE.txt", path)) == "Inside the studio, “please”."
    assert pack.licence(pack.PackFile("", "looks.cube", path)) is None
    assert pack.licence(pack.PackFile("", "licence.cube", path)) is None
