"""Differences, scopes, probe, traits, checks, finish."""

from pathlib import Path

import colour
import numpy as np
import pytest
from numpy.testing import assert_allclose
from saucer_core.baking.bake import bake
from saucer_core.baking.deviation import choices, costliest_step
from saucer_core.checks import checks, mend
from saucer_core.difference import ciede2000, cielab, delta_e_itp, difference, itp, metric_of
from saucer_core.effects import Finish
from saucer_core.encodings import encoding, meet
from saucer_core.errors import LookError
from saucer_core.finish import finish
from saucer_core.formats import pictures
from saucer_core.look import Look, check
from saucer_core.readings.masks import BLACK, OUTSIDE, WHITE, difference_picture, masks, shares
from saucer_core.readings.probe import area, spot
from saucer_core.readings.scopes import skin_line, targets, vectorscope, waveform
from saucer_core.readings.traits import hue_name, traits
from saucer_core.treatment import Treatment, evaluate

from demo.frames import FRAMES, make
from demo.looks import LOOKS

from .random_looks import colours

BT709 = encoding("bt709_display")

#: Sharma, Wu and Dalal 2005, table 1: L*, a*, b* of both colours, ΔE2000.
SHARMA = np.loadtxt(Path(__file__).with_name("ciede2000_pairs.txt"))


def test_ciede2000_on_the_34_pairs():
    assert_allclose(ciede2000(SHARMA[:, :3], SHARMA[:, 3:6]), SHARMA[:, 6], atol=5.1e-5)
    assert_allclose(ciede2000(SHARMA[:, 3:6], SHARMA[:, :3]), SHARMA[:, 6], atol=5.1e-5)


def test_lab_and_itp_against_colour_science():
    """colour-science 0.4.7: CIELAB under D65, ITP and ΔE ITP of BT.2124."""
    rgb = colours(300, 0, 1)
    space = colour.RGB_COLOURSPACES["ITU-R BT.709"]
    light = BT709.decode(rgb).astype(float)
    xyz = light @ colour.normalised_primary_matrix(space.primaries, space.whitepoint).T
    assert_allclose(cielab(rgb, BT709), colour.XYZ_to_Lab(xyz, space.whitepoint), atol=3e-3)
    pq = encoding("pq")
    theirs = colour.RGB_to_ICtCp(pq.decode(rgb).astype(float) * 100, L_p=10000)
    ours = itp(rgb, pq)
    assert_allclose(ours, theirs * [1, 0.5, 1], atol=3e-5)
    assert_allclose(
        delta_e_itp(ours[:-1], ours[1:]), colour.difference.delta_E_ITP(theirs[:-1], theirs[1:]), atol=0.05
    )
    assert (metric_of(pq), metric_of(encoding("hlg")), metric_of(BT709)) == ("ΔE ITP", "ΔE ITP", "ΔE2000")
    assert difference(rgb, rgb, BT709).max() < 1e-6


def test_itp_of_hlg_is_that_of_the_light_of_its_display():
    """colour-science 0.4.7: the EOTF of BT.2100 HLG for a display of 1,000 cd/m² and a black of 0, then ICtCp
    by PQ."""
    codes = np.concatenate(
        [np.repeat(np.linspace(0.05, 1, 20)[:, None], 3, axis=1), colours(60, 0.02, 1)]
    ).astype(np.float32)
    shown = colour.models.eotf_BT2100_HLG(codes.astype(float), L_B=0, L_W=1000, gamma=1.2)
    theirs = colour.RGB_to_ICtCp(shown, L_p=10000)
    assert_allclose(itp(codes, encoding("hlg")), theirs * [1, 0.5, 1], atol=5e-5)


def test_scopes_count_every_pixel():
    rgb = np.random.default_rng(2).uniform(-0.2, 1.2, (90, 160, 3)).astype(np.float32)
    waves = waveform(rgb, columns=80)
    assert (waves.sum(axis=(1, 2)) == 90 * 160).all()
    column = np.clip(rgb[:, 2:4, 0], 0, 1)
    assert_allclose(waves[0, 1], np.histogram(np.round(column * 255), bins=np.arange(257) - 0.5)[0])
    for plane in ("bt709", "oklab"):
        assert vectorscope(rgb, BT709, plane).sum() == 90 * 160
    grey = np.full((4, 4, 3), 0.4, np.float32)
    assert vectorscope(grey, BT709, size=193)[96, 96] == 16


def test_scope_marks_lie_where_their_colours_do():
    for plane in ("bt709", "oklab"):
        for name, x, y in targets(BT709, plane):
            bar = {
                "red": (1, 0, 0),
                "yellow": (1, 1, 0),
                "green": (0, 1, 0),
                "cyan": (0, 1, 1),
                "blue": (0, 0, 1),
                "magenta": (1, 0, 1),
            }[name]
            counts = vectorscope(
                np.full((2, 2, 3), 0.75, np.float32) * np.float32(bar), BT709, plane, size=401
            )
            row, column = np.argwhere(counts)[0]
            assert (column / 200 - 1, 1 - row / 200) == pytest.approx((x, y), abs=0.008)
    x, y = skin_line(BT709)
    # Between red and yellow on the scope: to the left, and up (common practice).
    assert x < 0 < y


def test_the_probe_reads_a_colour():
    s = spot(np.float32([0.5, 0.25, 1.0]), BT709)
    assert (s.eight, s.ten, s.percent) == ((128, 64, 255), (512, 256, 1023), (50, 25, 100))
    assert s.linear == pytest.approx((0.5**2.4, 0.25**2.4, 1), abs=1e-5)
    assert s.css.startswith("#")
    picture = np.zeros((10, 20, 3), np.float32)
    picture[4:7, 9:12] = 0.9
    assert_allclose(area(picture, 0.51, 0.55), [0.9] * 3)


def test_masks_and_difference():
    rgb = np.float32([[[0, 0.5, 0.5], [1, 1, 1], [0.5, 0.5, 0.5], [-0.2, 0.4, 0.4]]])
    mask = masks(rgb, BT709)
    assert mask.tolist() == [[BLACK, WHITE, 0, BLACK | OUTSIDE]]
    assert shares(mask) == {"black": 0.5, "white": 0.25, "outside": 0.25}
    shown = difference_picture(rgb, rgb + np.float32([0, 0, 0.1]), BT709)
    assert 0 < shown[0, 2, 0] <= 1
    assert difference_picture(rgb, rgb, BT709).max() == 0


@pytest.fixture(scope="module")
def frames(tmp_path_factory):
    folder = tmp_path_factory.mktemp("frames")
    found = []
    for f in FRAMES:
        rgb, _ = pictures.read(make(f, folder))
        found.append((f.encoding, Treatment(None, f.encoding, f.trim).compile()(pictures.fit(rgb, 160, 999))))
    return found


def arriving(frames, look):
    return [meet(rgb, encoding(e), encoding(look.input)) for e, rgb in frames]


#: What an eye sees on the frames: judged by us, look by look.
SEEN = {
    "Plain print": {"neutral"},
    "Ember & Tide": {"warm", "amber highlights"},
    "North window": {"cool", "muted"},
    "Faded card": {"lifted blacks", "plum shadows", "muted"},
    "Cross bath": {"hard", "yellow highlights", "blue shadows"},
    "Night slip": {"dark", "cool"},
    "Ash": {"near monochrome", "hard"},
    "Oxide": {"warm", "hard"},
    "Late straw": {"warm", "amber highlights"},
    "Celadon wash": {"sea green shadows", "muted"},
}


@pytest.mark.parametrize("demo", LOOKS, ids=lambda d: d.name)
def test_traits_say_what_is_seen_and_sound_looks_raise_no_checks(demo, frames):
    look = demo.look()
    assert SEEN[demo.name] <= set(traits(look).words())
    assert [c.text for c in checks(look, arriving(frames, look))] == []


def test_traits_of_nothing_and_of_single_steps():
    assert traits(Look()).words() == ["neutral"]
    warm = traits(Look.model_validate({"steps": [{"kind": "balance", "temperature": 40}]}))
    assert warm.warmth > 10
    drained = traits(Look.model_validate({"steps": [{"kind": "monochrome", "amount": 1}]}))
    assert drained.monochrome
    assert "monochrome" in drained.words()
    lifted = traits(Look.model_validate({"steps": [{"kind": "levels", "all": {"out_black": 0.1}}]}))
    # Code 0.1 of BT.709 is 0.0505 in sRGB, where traits are read.
    assert lifted.black == pytest.approx(0.0505, abs=1e-3)
    assert [hue_name(h) for h in (30, 60, 140, 250, 355)] == ["red", "orange", "green", "blue", "rose"]


def planted(kind):
    """A look with one fault."""
    late = [
        {"kind": "scene_to_display", "id": "d"},
        {"kind": "curves", "id": "cut", "all": [[0, 0], [0.55, 1], [1, 1]]},
        {"kind": "exposure", "id": "e", "stops": -0.5},
    ]
    steps, ends = {
        "clipped tones": (late, ("film_log", "bt709_display")),
        "encoding": ([{"kind": "encode", "id": "x", "to": "bt709_display"}], ("film_log", "bt709_display")),
        "ending": ([{"kind": "exposure", "id": "e", "stops": 0.1}], ("film_log", "bt709_display")),
        "tone turns back": (
            [{"kind": "curves", "id": "c", "all": [[0, 0], [0.5, 0.8], [0.7, 0.5], [1, 1]]}],
            None,
        ),
        "banding": ([{"kind": "levels", "id": "l", "all": {"in_black": 0.45, "in_white": 0.55}}], None),
        "folded hues": (
            [
                {
                    "kind": "hue_ranges",
                    "id": "h",
                    "ranges": [{"hue": 140, "width": 20, "feather": 20, "shift": 120}],
                }
            ],
            None,
        ),
        "grey drift": (
            [
                {
                    "kind": "zone_tint",
                    "id": "z",
                    "midtones": {"hue": 140, "amount": 1},
                    "overall": {"hue": 140, "amount": 0.4},
                }
            ],
            None,
        ),
        "skin": ([{"kind": "hue_ranges", "id": "h", "rest": {"shift": 70}}], None),
        "gamut": ([{"kind": "saturation", "id": "s", "amount": 2.6}], None),
        "clipping": ([{"kind": "exposure", "id": "e", "stops": 2.5}], None),
        "finish": ([], None),
    }[kind]
    source, target = ends or ("bt709_display", "bt709_display")
    effects = {"grain": {"amount": 0.3}} if kind == "finish" else {}
    return Look.model_validate({"input": source, "output": target, "steps": steps, "finish": effects})


@pytest.mark.parametrize(
    "kind",
    [
        "clipped tones",
        "encoding",
        "ending",
        "tone turns back",
        "banding",
        "folded hues",
        "grey drift",
        "skin",
        "gamut",
        "clipping",
        "finish",
    ],
)
def test_checks_find_planted_faults_and_mend_them(kind, frames):
    look = planted(kind)
    found = [c for c in checks(look, arriving(frames, look)) if c.kind == kind]
    assert len(found) == 1
    one = found[0]
    assert one.text.endswith(".")
    assert one.amount > 0
    if kind == "finish":
        assert one.note
        with pytest.raises(LookError, match="No single action"):
            mend(look, one.kind, one.step, arriving(frames, look))
        return
    assert one.action
    better = mend(look, one.kind, one.step, arriving(frames, look))
    check(better)
    left = [c for c in checks(better, arriving(frames, better)) if c.kind == kind]
    # Half the strength may not be enough at once; everything else is gone.
    assert not left or (one.action.startswith("Ease") and left[0].amount < one.amount)


def test_a_lut_for_log_on_a_display_picture_is_found_and_converted():
    wants_log = bake(Treatment(LOOKS[0].look()).compile(), 17)
    step = {
        "kind": "lut",
        "id": "l",
        "table": wants_log.digest(),
        "name": "Print",
        "expects": "film_log",
        "gives": "bt709_display",
    }
    look = Look.model_validate({"steps": [step]})
    tables = {wants_log.digest(): wants_log}.get
    one = checks(look, tables=tables)[0]
    assert (one.kind, one.step) == ("encoding", "l")
    better = mend(look, one.kind, one.step, tables=tables)
    assert not [c for c in checks(better, tables=tables) if c.kind == "encoding"]
    grey = np.full((1, 3), 0.42, np.float32)
    off = [abs(float(evaluate(x, grey, tables=tables)[0, 0]) - 0.42) for x in (look, better)]
    assert off[1] < off[0]


def test_the_recommended_grid_is_the_smallest_that_is_enough():
    look = LOOKS[2].look()
    offered = choices(Treatment(look).compile(), sizes=(9, 17, 33))
    best = [c for c in offered if c.recommended]
    assert len(best) == 1
    enough = [c.grid for c in offered if c.interpolation == "tetrahedral" and c.deviation.enough]
    assert best[0].grid == min(enough)
    assert choices(Treatment(Look()).compile(), sizes=(2, 17))[0].recommended


def test_the_costliest_step_is_named():
    bent = [[0, 0], [0.2, 0.6], [0.3, 0.3], [0.6, 0.9], [1, 1]]
    look = Look.model_validate(
        {"steps": [{"id": "a", "kind": "exposure", "stops": 0.2}, {"id": "b", "kind": "curves", "all": bent}]}
    )
    assert costliest_step(Treatment(look).compile(), 9) == "b"
    assert costliest_step(Treatment(Look()).compile()) is None


PICTURE = np.random.default_rng(6).uniform(0.1, 0.7, (72, 128, 3)).astype(np.float32)


def with_effect(**effects):
    return Finish.model_validate(effects)


def test_no_finish_changes_nothing_and_every_effect_something():
    np.testing.assert_array_equal(finish(PICTURE, Finish(), "bt709_display"), PICTURE)
    for name in Finish.model_fields:
        radius = {"radius": 0.01} if name in ("softening", "sharpening") else {}
        out = finish(PICTURE, with_effect(**{name: {"amount": 0.5, **radius}}), "bt709_display", "a")
        assert out.shape == PICTURE.shape
        assert np.isfinite(out).all()
        if name != "glow":
            assert np.abs(out - PICTURE).max() > 1e-3, name
        off = finish(PICTURE, with_effect(**{name: {"amount": 0.5, "on": False}}), "bt709_display", "a")
        np.testing.assert_array_equal(off, PICTURE)


def test_effects_do_what_they_say():
    flat = np.full((90, 160, 3), 0.5, np.float32)
    dark = finish(flat, with_effect(vignette={"amount": 0.5}), "bt709_display")
    assert dark[45, 80, 0] == pytest.approx(0.5, abs=1e-3)
    light = BT709.decode(dark)
    assert light[0, 0, 0] == pytest.approx(BT709.decode(flat)[0, 0, 0] * 2**-1.5, rel=0.03)
    soft = finish(PICTURE, with_effect(softening={"amount": 1, "radius": 0.02}), "bt709_display")
    assert soft.std() < PICTURE.std() / 2
    assert (
        finish(PICTURE, with_effect(sharpening={"amount": 1, "radius": 0.01}), "bt709_display").std()
        > PICTURE.std()
    )
    lamp = np.full((90, 160, 3), 0.1, np.float32)
    lamp[40:50, 75:85] = 1.0
    glowing = finish(lamp, with_effect(glow={"amount": 1, "radius": 0.05}), "bt709_display")
    assert glowing[45, 70, 0] > 0.12
    assert glowing[45, 70, 0] > glowing[45, 70, 2]
    assert glowing[0, 0, 0] == pytest.approx(0.1, abs=1e-4)
    washed = finish(flat, with_effect(light_wash={"amount": 0.8, "angle": 90}), "bt709_display")
    assert washed[0].mean() > washed[-1].mean() + 0.02


def test_grain_is_the_same_for_the_same_frame_and_agrees_between_sizes():
    flat = np.full((180, 320, 3), 0.5, np.float32)
    grain = with_effect(grain={"amount": 0.5, "size": 0.01, "colour": 0})
    once, again = (finish(flat, grain, "bt709_display", "frame 1") for _ in range(2))
    np.testing.assert_array_equal(once, again)
    assert np.abs(finish(flat, grain, "bt709_display", "frame 2") - once).max() > 0.01
    large = finish(np.full((360, 640, 3), 0.5, np.float32), grain, "bt709_display", "frame 1")
    small = large.reshape(180, 2, 320, 2, 3).mean(axis=(1, 3))
    assert np.corrcoef(small[..., 0].reshape(-1), once[..., 0].reshape(-1))[0, 1] > 0.9
    assert once.mean() == pytest.approx(0.5, abs=0.01)
