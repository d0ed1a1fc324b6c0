"""Cut lists: what OpenTimelineIO and its CMX adapter write, timecode by the standard, and recuts by random
edits."""

import json
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
import opentimelineio as library
import pytest
from saucer_core.cli import main
from saucer_core.errors import FileError
from saucer_core.formats import timecode
from saucer_core.formats.cutlists import cmx, matching, otio, reading
from saucer_core.formats.cutlists.model import CutList, Event
from saucer_core.formats.cutlists.recut import recut
from saucer_core.steps.slope_offset_power import Correction

NTSC = Fraction(30000, 1001)
DAY = 24 * 3600
LIST = """TITLE: kiln two, cut 4
FCM: NON-DROP FRAME

001  K014     V     C        14:22:07:03 14:22:15:02 01:00:00:00 01:00:07:23
* FROM CLIP NAME: wheel_window_01.mov
* ASC_SOP (1.0800 1.0200 0.9500)(0.0100 0.0000 -0.0200)(1.0000 1.1000 1.0000)
* ASC_SAT 0.9000
002  K014     A     C        14:22:07:03 14:22:15:02 01:00:00:00 01:00:07:23
003  K015     V     C        01:00:00:00 01:00:08:00 01:00:07:23 01:00:11:23
M2   K015             048.0                01:00:00:00
* FROM CLIP NAME: shelf.mov
004  K015     V     C        01:00:08:00 01:00:08:00 01:00:11:23 01:00:11:23
004  K016     V     D    012 02:00:00:00 02:00:05:00 01:00:11:23 01:00:16:23
* FROM CLIP NAME: shelf.mov
* TO CLIP NAME: yard.mov
005  BL       V     C        00:00:00:00 00:00:01:00 01:00:16:23 01:00:17:23
"""


def frames(code, rate=24):
    return timecode.frames_of(code, Fraction(rate))


def test_drop_frame_is_that_of_the_standard():
    """SMPTE ST 12-1:2014, 5.2.2: 00 and 01 of each minute but every tenth are left out (values worked by
    hand); one hour is 107,892 frames."""
    assert timecode.frames_of("00:01:00;02", NTSC) == 1800
    assert timecode.frames_of("00:10:00;00", NTSC) == 17982
    assert timecode.frames_of("01:00:00;00", NTSC) == 107_892
    assert timecode.text_of(1799, NTSC, True) == "00:00:59;29"
    assert timecode.text_of(1800, NTSC, True) == "00:01:00;02"
    for wrong in ("00:01:00;00", "24:00:00:00", "00:00:00:30", "1:2:3", "00:61:00:00"):
        with pytest.raises(ValueError, match=wrong.replace("(", r"\(")):
            timecode.frames_of(wrong, NTSC)


@pytest.mark.parametrize("rate", ["24", "25", "30000/1001", "60000/1001", "24000/1001"])
def test_timecodes_are_those_of_opentimelineio(rate):
    """OpenTimelineIO 0.18.1, RationalTime.to_timecode and from_timecode, on random frames of a day."""
    exact = Fraction(rate)
    drop = bool(timecode.dropped(exact)) and exact.denominator == 1001
    rng = np.random.default_rng(4)
    for frame in rng.integers(0, DAY * timecode.unit_of(exact) - 200_000, 300).tolist():
        time = library.opentime.RationalTime(frame, float(exact))
        told = library.opentime.to_timecode(time, float(exact), drop_frame=drop)
        assert timecode.text_of(frame, exact, drop) == told
        assert timecode.frames_of(told, exact) == frame


def test_a_cmx_list_is_read():
    cut = cmx.read(LIST, "cut.edl", Fraction(24))
    assert (cut.title, cut.frames, len(cut.events)) == ("kiln two, cut 4", 16 * 24 + 23, 3)
    wheel, shelf, yard = cut.events
    assert (wheel.name, wheel.reel, wheel.start) == ("wheel_window_01.mov", "K014", frames("14:22:07:03"))
    assert (wheel.length, wheel.at, wheel.lasts) == (191, frames("01:00:00:00"), 191)
    assert wheel.correction == Correction((1.08, 1.02, 0.95), (0.01, 0, -0.02), (1, 1.1, 1), 0.9)
    assert (shelf.speed, shelf.length, shelf.lasts) == (2.0, 192, 96)
    assert (yard.name, yard.comes_in, yard.lasts) == ("yard.mov", 12, 120)
    assert cut.doubts == (
        "1 event of sound is left out",
        "1 event changes speed",
        "1 dissolve is read as a cut",
    )


def random_cut(rng, rate=Fraction(24), count=30, cdl=True):
    at, events = timecode.frames_of("01:00:00:00", rate), []
    for _ in range(count):
        clip = int(rng.integers(12))
        lasts = int(rng.integers(8, 400))
        values = rng.uniform(0.5, 1.5, 10).round(6)
        correction = Correction(
            tuple(values[:3].tolist()),
            tuple((values[3:6] - 1).round(6).tolist()),
            tuple(values[6:9].tolist()),
            float(values[9]),
        )
        events.append(
            Event(
                f"clip_{clip:02d}.mov",
                f"K{clip:03d}",
                timecode.frames_of(f"{clip + 1:02d}:00:00:00", rate) + int(rng.integers(5000)),
                lasts,
                at,
                lasts,
                correction=correction if cdl and rng.random() < 0.3 else None,
            )
        )
        at += lasts
    return CutList("kiln", rate, False, tuple(events))


@pytest.mark.parametrize("rate", ["24", "25", "30"])
def test_lists_go_out_and_come_in_again_without_a_difference(rate, tmp_path):
    rng = np.random.default_rng(11)
    for _ in range(40):
        cut = random_cut(rng, Fraction(rate))
        assert cmx.read(cmx.write(cut), "a.edl", Fraction(rate)) == cut
    path = tmp_path / "a.otio"
    for _ in range(4):
        cut = random_cut(rng, Fraction(rate))
        path.write_text(otio.write(cut))
        assert otio.read(path, "a.otio") == cut


def test_opentimelineio_reads_what_is_written_and_saucer_what_it_writes(tmp_path):
    """OpenTimelineIO 0.18.1 and its adapter for CMX 3600 1.0.0, on random timelines."""
    adapters = library.adapters
    rng = np.random.default_rng(12)
    for k in range(12):
        cut = random_cut(rng, count=12)
        theirs = adapters.read_from_string(otio.write(cut), "otio_json")
        clips = list(theirs.find_clips())
        assert [(c.name, c.metadata["cmx_3600"]["reel"]) for c in clips] == [
            (e.name, e.reel) for e in cut.events
        ]
        ranges = [(round(c.source_range.start_time.value), round(c.duration().value)) for c in clips]
        assert ranges == [(e.start, e.length) for e in cut.events]
        # Their list of ours, and ours of theirs.
        text = adapters.write_to_string(theirs, "cmx_3600", rate=24)
        ours = cmx.read(text, "theirs.edl", Fraction(24))
        # Their lists begin with midnight.
        begin = cut.events[0].at
        plain = [(e.name, e.reel, e.start, e.length, e.at - begin) for e in cut.events]
        assert [(e.name, e.reel, e.start, e.length, e.at) for e in ours.events] == plain
        for mine, other in zip(cut.events, ours.events, strict=True):
            assert (mine.correction is None) == (other.correction is None)
            if mine.correction is not None:
                assert other.correction.slope == pytest.approx(mine.correction.slope, abs=1e-4)
        again = adapters.read_from_string(cmx.write(cut), "cmx_3600", rate=24)
        assert [c.name for c in again.find_clips()] == [e.name for e in cut.events]
        if k < 2:
            path = tmp_path / f"{k}.otio"
            adapters.write_to_file(theirs, str(path))
            assert otio.read(path, path.name).events == cut.events


def test_tracks_that_lie_over_each_other_are_one_cut(tmp_path):
    """What OpenTimelineIO's own flattening gives: an upper clip hides what lies under it."""
    schema, time = library.schema, library.opentime
    timeline = schema.Timeline("two")
    below, above = schema.Track("V1", kind="Video"), schema.Track("V2", kind="Video")
    timeline.tracks.extend([below, above, schema.Track("A1", kind="Audio")])

    def rate_range(start, length):
        return time.TimeRange(time.RationalTime(start, 24), time.RationalTime(length, 24))

    below.append(schema.Clip("under", source_range=rate_range(0, 100)))
    above.append(schema.Gap(source_range=rate_range(0, 40)))
    above.append(schema.Clip("over", source_range=rate_range(500, 20)))
    timeline.tracks[2].append(schema.Clip("sound", source_range=rate_range(0, 100)))
    path = tmp_path / "two.otio"
    path.write_text(timeline.to_json_string())
    cut = otio.read(path, path.name)
    told = [(e.name, e.start, e.length, e.at) for e in cut.events]
    assert told == [("under", 0, 40, 0), ("over", 500, 20, 40), ("under", 60, 40, 60)]
    assert cut.doubts[0] == "1 track of sound is left out"
    assert "2 tracks of pictures are read as one" in cut.doubts[1]


BAD = {
    "empty.edl": ("", "holds no event"),
    "words.edl": ("TITLE: nothing\nfor the day\n", "holds no event"),
    "backwards.edl": (
        LIST.replace("14:22:15:02 01:00:00:00", "14:22:01:02 01:00:00:00"),
        "ends before it begins",
    ),
    "day.edl": (LIST.replace("14:22:07:03", "25:22:07:03"), "beyond a day of 24 hours"),
    "frame.edl": (LIST.replace("14:22:07:03", "14:22:07:29"), "a second has 24 here"),
    "form.edl": (LIST.replace("14:22:07:03", "14h22"), "not written as CMX 3600"),
    "cdl.edl": (LIST.replace("(1.0800 1.0200 0.9500)", "(1.0 x 0.9)"), "ASC CDL that is not written"),
    "power.edl": (LIST.replace("1.1000", "0.0000"), "must lie above 0"),
    "still.edl": (LIST.replace("048.0", "000.0"), "stands still"),
    "no.otio": ("{}", "cannot be read|holds no timeline"),
    "cut.otio": ('{"OTIO_SCHEMA": "Timeline.1", "tracks": ', "cannot be read"),
    "clip.otio": (library.schema.Clip("alone").to_json_string(), "holds no timeline"),
    "none.otio": (library.schema.Timeline("none").to_json_string(), "holds no clip"),
    "deep.otio": ("[" * 5000 + "]" * 5000, "nested deeper"),
    "list.xml": ("<a/>", "is no cut list"),
}


@pytest.mark.parametrize("name", BAD)
def test_a_bad_list_is_told_in_words(name, tmp_path):
    text, reason = BAD[name]
    path = tmp_path / name
    path.write_text(text)
    with pytest.raises(FileError, match=reason) as told:
        reading.read(path, name, Fraction(24))
    assert str(tmp_path) not in str(told.value)


def test_a_list_of_too_many_events_is_told_at_once():
    line = "001  K014     V     C        00:00:00:00 00:00:00:01 00:00:00:00 00:00:00:01\n"
    with pytest.raises(FileError, match="more than 20,000 events"):
        cmx.read(line * 100_000, "many.edl", Fraction(24))


def test_overlapping_events_are_told():
    text = LIST.replace("01:00:07:23 01:00:11:23\nM2", "01:00:06:23 01:00:10:23\nM2")
    cut = cmx.read(text, "cut.edl", Fraction(24))
    assert "24 frames of event 2 lie under event 1" in cut.doubts


# Recuts


def laid(events):
    """Events one after the other, as a cut has them."""
    at, placed = 86_400, []
    for e in events:
        placed.append(replace(e, at=at, lasts=e.length))
        at += e.length
    return CutList("kiln", Fraction(24), False, tuple(placed))


def told(before, after):
    """What happened to each event, by the marks that the edits left."""
    return recut(laid(before), laid(after))


def cut_of(count, rng):
    """Stretches of clips that do not touch each other."""
    return [Event(f"clip_{k % 7}", "", 2000 * k, int(rng.integers(40, 200)), 0, 0) for k in range(count)]


def longer(e, at_start, at_end):
    return replace(e, start=e.start - at_start, length=e.length + at_start + at_end)


@pytest.mark.parametrize("seed", range(60))
def test_recuts_are_told_apart_as_they_were_made(seed):
    """One edit of each kind on random events of a random cut."""
    rng = np.random.default_rng(seed)
    before = cut_of(24, rng)
    order = rng.permutation(24).tolist()
    trimmed, slipped, split, gone, moved = order[:5]
    after = list(before)
    by = [int(v) for v in rng.integers(-15, 16, 2)]
    after[trimmed] = longer(after[trimmed], *by)
    after[slipped] = replace(after[slipped], start=after[slipped].start + 9)
    whole = after[split]
    half = whole.length // 3
    after[split] = replace(whole, length=half)
    rest = replace(whole, start=whole.start + half, length=whole.length - half)
    fresh = Event("fresh", "", 500, 77, 0, 0)
    mover = after[moved]
    row = [e for k, e in enumerate(after) if k not in (gone, moved)]
    where = row.index(after[split])
    row.insert(where + 1, rest)
    # Far enough away not to be the nearer way to say that another one moved.
    place = 0 if moved > 12 else len(row)
    row.insert(place, mover)
    row.insert(5, fresh)
    found = told(before, row)
    by_old = {r.old: r for r in found if r.new is None or r.kinds != ("split",)}
    grown = sum(by)
    kind = "longer" if grown > 0 else "shorter" if grown < 0 else "slipped" if by[0] else "same"
    assert kind in by_old[trimmed].kinds
    assert (by_old[trimmed].starts, by_old[trimmed].ends) == tuple(by)
    assert by_old[slipped].kinds == ("slipped",)
    assert by_old[gone].kinds == ("gone",)
    assert by_old[moved].kinds == ("moved",)
    assert sorted(r.kinds for r in found if r.new is not None and row[r.new] in (fresh, rest)) in (
        [("new",), ("split",)],
        # Where the second part is the longer one it is the event, and the first one was split off.
        [("new",), ("shorter",)],
    )
    untouched = {*range(24)} - {trimmed, slipped, split, gone, moved}
    assert all(by_old[k].kinds == ("same",) for k in untouched)


def test_what_is_used_twice_stays_two_and_joins_are_told():
    rng = np.random.default_rng(1)
    first, second, other = cut_of(3, rng)
    twice = [first, other, first]
    assert [r.kinds for r in told(twice, twice)] == [("same",)] * 3
    assert [r.kinds for r in told(twice, [other, first])] == [("same",), ("same",), ("gone",)]
    assert [r.kinds for r in told([other, first], twice)] == [("new",), ("same",), ("same",)]
    halves = [replace(second, length=20), replace(second, start=second.start + 20, length=20)]
    joined = told(halves, [replace(second, length=40)])
    assert sorted(r.kinds for r in joined) == [("joined",), ("longer",)]


def test_the_command_line_says_what_changed(tmp_path, capsys):
    old, new, out = tmp_path / "old.edl", tmp_path / "new.edl", tmp_path / "new.otio"
    cut = random_cut(np.random.default_rng(3), count=6, cdl=False)
    old.write_text(cmx.write(cut))
    new.write_text(cmx.write(laid([cut.events[1], cut.events[0], *cut.events[3:]])))
    assert main(["cuts", str(new), str(old), "--write", str(out), "--json"]) == 0
    said = json.loads(capsys.readouterr().out)
    assert sorted(change["what"] for change in said["changed"]) == [["gone"], ["moved"]]
    assert len(said["events"]) == 5
    assert otio.read(Path(out), "new.otio").events[0].name == cut.events[1].name


def shelf(*clips, rate=24):
    """A shelf of clips: name, reel, timecode, frames."""
    made = [
        matching.source(k, name, f"{name}.mov", reel, code, frames, Fraction(rate))
        for k, (name, reel, code, frames) in enumerate(clips, 1)
    ]
    return matching.Shelf(made, Fraction(rate))


def wanted(name, reel, code, length=24):
    return Event(name, reel, frames(code), length, 0, length)


CLIPS = (
    ("wheel_01", "K014", "14:22:00:00", 480),
    ("wheel_01", "K015", "14:22:00:00", 480),
    ("shelf", "", "10:00:00:00", 120),
    ("gate_evening_take_two", "", "18:00:00:00", 96),
    ("spy_hole", "K027", "", 96),
)


@pytest.mark.parametrize(
    ("event", "key", "by", "asked"),
    [
        # One name, two takes: the reel tells them apart; without one, somebody is asked.
        (wanted("WHEEL_01.MOV", "k015", "14:22:03:00"), 2, "name", ()),
        (wanted("wheel_01", "", "14:22:03:00"), None, "", (1, 2)),
        # By its reel alone; and by a reel that was cut off at eight characters (common practice).
        (wanted("", "K027", "00:00:01:00"), 5, "reel", ()),
        (wanted("", "GATE_EVE", "18:00:01:00"), 4, "reel", ()),
        # A name that no clip has, but a reel.
        (wanted("renamed.mov", "K014", "14:22:03:00"), 1, "reel", ()),
        # Only the timecode fits: sure where the list says nothing else, asked where it does.
        (wanted("", "", "10:00:01:00"), 3, "timecode", ()),
        (wanted("other", "", "10:00:01:00"), None, "", (3,)),
        # The right name, and frames that it does not have.
        (wanted("shelf", "", "10:00:04:12"), None, "", ()),
        (wanted("hands", "K099", "23:00:00:00"), None, "", ()),
    ],
)
def test_clips_of_events_are_told_by_name_reel_and_timecode(event, key, by, asked):
    found = shelf(*CLIPS).match(event)
    assert (found.key, found.by, found.asked) == (key, by, asked)
    assert bool(found.why) == (key is None)


def test_why_no_clip_is_sure_is_said():
    assert shelf(*CLIPS).match(wanted("shelf", "", "10:00:04:12")).why == (
        "its clip has 10:00:00:00 – 10:00:04:23 alone"
    )
    other = shelf(("shelf", "", "10:00:00:00", 120), rate=24)
    slow = matching.Shelf([other.of_key(1)], Fraction(25))
    assert slow.match(wanted("shelf", "", "10:00:00:00")).why == (
        "its clip has 24 frames a second, the cut 25"
    )
    # A timecode that is none, and a drop-frame one.
    assert not matching.source(1, "a", "a.mov", "", "sometime", 9, Fraction(24)).timed
    drop = matching.source(1, "a", "a.mov", "", "00:01:00;02", 30, NTSC)
    assert (drop.start, drop.range_said()) == (1800, "00:01:00;02 – 00:01:01;01")


def test_random_events_of_random_clips_find_theirs():
    rng = np.random.default_rng(8)
    clips = [(f"take_{k:03d}", f"K{k:03d}", f"{k // 4:02d}:{k % 60:02d}:00:00", 240) for k in range(80)]
    known = shelf(*clips)
    for _ in range(400):
        k, first = int(rng.integers(80)), int(rng.integers(200))
        name, reel, code, _ = clips[k]
        said = (name, reel) if rng.random() < 0.4 else (name, "") if rng.random() < 0.5 else ("", reel)
        event = Event(*said, frames(code) + first, 40, 0, 40)
        found = known.match(event)
        assert found.key == k + 1
        assert known.of_key(found.key).first(event) == first
