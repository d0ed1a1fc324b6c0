"""Steps and small stacks ready to start from. Numbers and names are Saucer's own, set by eye on the demo
frames."""

from dataclasses import dataclass
from functools import cache
from typing import Any

from pydantic import TypeAdapter

from .look import AnyStep
from .steps import Step

#: A step as plain data, without its id; ``step_of`` checks it.
StepContent = dict[str, Any]
_STEP: TypeAdapter[Any] = TypeAdapter(AnyStep)


def step_of(content: StepContent) -> Step:
    """A step, group included, from plain data; raises ``pydantic.ValidationError``."""
    found: Step = _STEP.validate_python(content)
    return found


@dataclass(frozen=True)
class Preset:
    """A named step. content: the step without its id."""

    name: str
    note: str
    content: StepContent

    @property
    def kind(self) -> str:
        """The kind of step it is."""
        return str(self.content["kind"])


def _curve(*points: tuple[float, float]) -> list[list[float]]:
    return [list(p) for p in points]


_SOFT_S = _curve((0, 0), (0.25, 0.21), (0.75, 0.8), (1, 1))
_GIVEN: list[tuple[str, str, StepContent]] = [
    ("Soft S", "a little more contrast, ends held", {"kind": "curves", "all": _SOFT_S}),
    (
        "Firm S",
        "plain contrast",
        {"kind": "curves", "all": _curve((0, 0), (0.22, 0.14), (0.5, 0.5), (0.78, 0.87), (1, 1))},
    ),
    (
        "Chalk",
        "black lifted, white held back",
        {"kind": "curves", "all": _curve((0, 0.07), (0.3, 0.31), (0.75, 0.77), (1, 0.95))},
    ),
    (
        "Crossed glaze",
        "S in red and green, the reverse in blue",
        {
            "kind": "curves",
            "red": _SOFT_S,
            "green": _curve((0, 0), (0.25, 0.23), (0.75, 0.78), (1, 1)),
            "blue": _curve((0, 0.08), (0.25, 0.29), (0.75, 0.71), (1, 0.93)),
        },
    ),
    (
        "Blue cellar",
        "blue in the darks only",
        {"kind": "curves", "blue": _curve((0, 0.1), (0.35, 0.37), (1, 1))},
    ),
    (
        "Straw lights",
        "blue taken out of the lights",
        {"kind": "curves", "blue": _curve((0, 0), (0.6, 0.58), (1, 0.86))},
    ),
    ("Half a stop up", "", {"kind": "exposure", "stops": 0.5}),
    ("Half a stop down", "", {"kind": "exposure", "stops": -0.5}),
    ("Firm", "around mid grey", {"kind": "contrast", "amount": 1.18}),
    ("Gentle", "around mid grey", {"kind": "contrast", "amount": 0.88}),
    ("Held colour", "less colour, skin kept", {"kind": "saturation", "amount": 0.78, "skin_guard": 0.8}),
    (
        "Even colour",
        "weak colours gain most",
        {"kind": "saturation", "amount": 1.2, "even": 0.8, "skin_guard": 0.5},
    ),
    ("Late sun", "", {"kind": "balance", "temperature": 22, "tint": 3}),
    ("Cold shed", "", {"kind": "balance", "temperature": -20, "tint": -2}),
    (
        "Slate and straw",
        "two opposing tints",
        {
            "kind": "zone_tint",
            "shadows": {"hue": 235, "amount": 0.22},
            "highlights": {"hue": 85, "amount": 0.2},
        },
    ),
    (
        "Moss and rose",
        "two opposing tints",
        {
            "kind": "zone_tint",
            "shadows": {"hue": 150, "amount": 0.16},
            "highlights": {"hue": 20, "amount": 0.14},
        },
    ),
    ("Ink in the darks", "", {"kind": "zone_tint", "shadows": {"hue": 265, "amount": 0.3}}),
    (
        "Two kilns",
        "reds to fire, blues to glaze",
        {
            "kind": "hue_ranges",
            "ranges": [
                {"hue": 30, "shift": 10, "saturation": 0.12},
                {"hue": 110, "shift": -20, "saturation": -0.25},
                {"hue": 240, "shift": -18, "saturation": 0.05},
            ],
        },
    ),
    (
        "Deep water",
        "blues fuller and darker",
        {
            "kind": "hue_curves",
            "hue_saturation": [[180, 1.0], [245, 1.25], [310, 1.0]],
            "hue_lightness": [[180, 0.0], [245, -0.12], [310, 0.0]],
        },
    ),
    (
        "Thin leaves",
        "greens drained and turned to straw",
        {
            "kind": "hue_curves",
            "hue_saturation": [[90, 1.0], [138, 0.6], [190, 1.0]],
            "hue_hue": [[90, 0.0], [138, -14.0], [190, 0.0]],
        },
    ),
    ("Quiet greens", "", {"kind": "hue_ranges", "ranges": [{"hue": 135, "shift": -8, "saturation": -0.4}]}),
    (
        "Red through two",
        "red takes from green",
        {"kind": "channel_mix", "red": {"red": 0.82, "green": 0.18}, "blue": {"blue": 0.9, "green": 0.1}},
    ),
    (
        "Two glazes",
        "green and blue drawn together",
        {"kind": "channel_mix", "green": {"green": 0.7, "blue": 0.3}, "blue": {"green": 0.3, "blue": 0.7}},
    ),
    (
        "Parted colours",
        "each channel takes a little from the others",
        {
            "kind": "channel_mix",
            "red": {"red": 1.16, "green": -0.1, "blue": -0.06},
            "green": {"red": -0.06, "green": 1.14, "blue": -0.08},
            "blue": {"red": -0.04, "green": -0.12, "blue": 1.16},
        },
    ),
    ("Faded print", "", {"kind": "levels", "all": {"out_black": 0.06, "out_white": 0.96}}),
    (
        "Full range",
        "the ends drawn in a little",
        {"kind": "levels", "all": {"in_black": 0.02, "in_white": 0.97}},
    ),
    (
        "Yellowed card",
        "white gives up blue, black keeps it",
        {
            "kind": "levels",
            "red": {"out_white": 0.98},
            "green": {"out_white": 0.96},
            "blue": {"out_black": 0.05, "out_white": 0.88},
        },
    ),
    (
        "Bisque",
        "a pale warm wash",
        {
            "kind": "colour_wash",
            "colour": {"lightness": 0.93, "chroma": 0.045, "hue": 75},
            "blend": "multiply",
            "strength": 0.8,
        },
    ),
    (
        "Smoke over",
        "a cool grey veil on the darks",
        {
            "kind": "colour_wash",
            "colour": {"lightness": 0.3, "chroma": 0.03, "hue": 250},
            "blend": "screen",
            "strength": 0.35,
        },
    ),
    (
        "Ochre light",
        "soft warmth in the middle",
        {
            "kind": "colour_wash",
            "colour": {"lightness": 0.62, "chroma": 0.06, "hue": 70},
            "blend": "soft_light",
            "strength": 0.6,
        },
    ),
    ("Warm grey", "", {"kind": "monochrome", "amount": 1.0, "toning": 0.25}),
    (
        "Red sees",
        "clay light, glaze dark",
        {"kind": "monochrome", "amount": 1.0, "red": 0.75, "green": 0.25, "blue": 0.0},
    ),
    (
        "Blue sees",
        "clay dark, glaze light",
        {"kind": "monochrome", "amount": 1.0, "red": 0.1, "green": 0.3, "blue": 0.6},
    ),
    ("Held ends", "lights and darks rolled off", {"kind": "roll_off", "lights": 0.7, "darks": 0.08}),
    (
        "Soft window",
        "the lights alone, held below white",
        {"kind": "roll_off", "lights": 0.8, "ceiling": 0.96},
    ),
    (
        "Fired clay",
        "dark to light through clay",
        {
            "kind": "tone_ramp",
            "amount": 0.6,
            "stops": [
                {"at": 0, "colour": {"lightness": 0.12, "chroma": 0.02, "hue": 260}},
                {"at": 0.5, "colour": {"lightness": 0.58, "chroma": 0.07, "hue": 45}},
                {"at": 1, "colour": {"lightness": 0.96, "chroma": 0.03, "hue": 85}},
            ],
        },
    ),
    (
        "Night firing",
        "from blue dark through ember to straw",
        {
            "kind": "tone_ramp",
            "amount": 0.4,
            "stops": [
                {"at": 0, "colour": {"lightness": 0.1, "chroma": 0.04, "hue": 265}},
                {"at": 0.45, "colour": {"lightness": 0.5, "chroma": 0.1, "hue": 35}},
                {"at": 1, "colour": {"lightness": 0.95, "chroma": 0.05, "hue": 90}},
            ],
        },
    ),
    (
        "Sea slip",
        "one cool colour, light to dark",
        {
            "kind": "tone_ramp",
            "amount": 0.5,
            "stops": [
                {"at": 0, "colour": {"lightness": 0.14, "chroma": 0.03, "hue": 235}},
                {"at": 1, "colour": {"lightness": 0.97, "chroma": 0.02, "hue": 200}},
            ],
        },
    ),
    (
        "Lift and ease",
        "darks up, lights in",
        {"kind": "lift_gamma_gain", "master": {"lift": 0.02, "gain": 0.98}},
    ),
    (
        "Warm over cool",
        "lights to fire, darks to slate",
        {
            "kind": "lift_gamma_gain",
            "red": {"lift": -0.012, "gain": 1.05},
            "blue": {"lift": 0.016, "gain": 0.94},
        },
    ),
    ("Brighter middle", "", {"kind": "lift_gamma_gain", "master": {"gamma": 1.12}}),
    ("Warm slope", "", {"kind": "slope_offset_power", "red": {"slope": 1.05}, "blue": {"slope": 0.95}}),
    ("Cool slope", "", {"kind": "slope_offset_power", "red": {"slope": 0.95}, "blue": {"slope": 1.05}}),
    (
        "Denser middle",
        "",
        {
            "kind": "slope_offset_power",
            "red": {"power": 1.12},
            "green": {"power": 1.12},
            "blue": {"power": 1.12},
        },
    ),
    (
        "Log to display",
        "a first print from film log",
        {
            "kind": "group",
            "label": "Log to display",
            "steps": [
                {"id": "light", "kind": "exposure", "stops": 0.15},
                {"id": "print", "kind": "scene_to_display"},
                {"id": "firm", "kind": "contrast", "amount": 1.08},
            ],
        },
    ),
    (
        "Soft print",
        "ends held, colour even",
        {
            "kind": "group",
            "label": "Soft print",
            "steps": [
                {"id": "soft", "kind": "curves", "all": _SOFT_S},
                {"id": "held", "kind": "roll_off", "lights": 0.7, "darks": 0.08},
                {"id": "even", "kind": "saturation", "amount": 1.1, "even": 0.7, "skin_guard": 0.5},
            ],
        },
    ),
    (
        "Two hues",
        "teal shade, straw light, skin kept",
        {
            "kind": "group",
            "label": "Two hues",
            "steps": [
                {
                    "id": "drawn",
                    "kind": "hue_ranges",
                    "ranges": [
                        {"hue": 55, "width": 50, "saturation": 0.15},
                        {"hue": 140, "width": 60, "shift": 25, "saturation": -0.15},
                        {"hue": 250, "width": 70, "shift": -14, "saturation": -0.22},
                    ],
                },
                {
                    "id": "tints",
                    "kind": "zone_tint",
                    "shadows": {"hue": 205, "amount": 0.16},
                    "highlights": {"hue": 82, "amount": 0.18},
                    "overlap": 0.4,
                },
            ],
        },
    ),
    (
        "Crossed print",
        "blue reversed, the rest firm",
        {
            "kind": "group",
            "label": "Crossed print",
            "steps": [
                {
                    "id": "cross",
                    "kind": "curves",
                    "red": _SOFT_S,
                    "green": _curve((0, 0), (0.25, 0.23), (0.75, 0.78), (1, 1)),
                    "blue": _curve((0, 0.08), (0.25, 0.29), (0.75, 0.71), (1, 0.93)),
                },
                {"id": "full", "kind": "saturation", "amount": 1.15, "even": 0.5},
            ],
        },
    ),
    (
        "Grey with clay",
        "one colour, warm in the middle",
        {
            "kind": "group",
            "label": "Grey with clay",
            "steps": [
                {"id": "grey", "kind": "monochrome", "amount": 1.0, "red": 0.5, "green": 0.4, "blue": 0.1},
                {
                    "id": "clay",
                    "kind": "tone_ramp",
                    "amount": 0.45,
                    "stops": [
                        {"at": 0, "colour": {"lightness": 0.12, "chroma": 0.02, "hue": 260}},
                        {"at": 0.5, "colour": {"lightness": 0.58, "chroma": 0.07, "hue": 45}},
                        {"at": 1, "colour": {"lightness": 0.96, "chroma": 0.03, "hue": 85}},
                    ],
                },
            ],
        },
    ),
    (
        "Cold yard",
        "early, damp, a little less colour",
        {
            "kind": "group",
            "label": "Cold yard",
            "steps": [
                {"id": "cold", "kind": "balance", "temperature": -18, "tint": -2},
                {"id": "lift", "kind": "levels", "all": {"out_black": 0.04}},
                {"id": "less", "kind": "saturation", "amount": 0.82, "skin_guard": 0.6},
            ],
        },
    ),
    (
        "Faded summer",
        "chalk over straw, one group at 70 %",
        {
            "kind": "group",
            "label": "Faded summer",
            "strength": 0.7,
            "steps": [
                {
                    "id": "chalk",
                    "kind": "curves",
                    "all": _curve((0, 0.07), (0.3, 0.31), (0.75, 0.77), (1, 0.95)),
                },
                {"id": "straw", "kind": "curves", "blue": _curve((0, 0), (0.6, 0.58), (1, 0.86))},
                {"id": "held", "kind": "saturation", "amount": 0.8, "skin_guard": 0.6},
            ],
        },
    ),
]


@cache
def shipped() -> tuple[Preset, ...]:
    """The presets that come with Saucer."""
    return tuple(Preset(*given) for given in _GIVEN)
