"""What a look begins with: every pair of encodings, with steps that convert and steps that do not."""

import itertools

import pytest
from saucer_core.beginning import begun
from saucer_core.encodings import ENCODINGS, encoding
from saucer_core.look import Group
from saucer_core.steps.contrast import Contrast
from saucer_core.steps.scene_to_display import SceneToDisplay
from saucer_core.treatment import Treatment


@pytest.mark.parametrize(("comes", "goes"), list(itertools.product(ENCODINGS, ENCODINGS)))
def test_any_pair_of_encodings_begins_as_a_look_that_computes(comes, goes):
    made = begun(comes, goes, [Contrast(id="a", amount=1.1)])
    assert made is not None
    assert [step.kind for step in made.steps][-1] == "contrast"
    # A look whose steps end in another encoding than it says would raise here.
    Treatment(made).compile()
    assert made.end().key == encoding(goes).key
    renders = encoding(comes).referred == "scene" and encoding(goes).referred == "display"
    way = [] if comes == goes else ["scene_to_display" if renders else "encode"]
    assert [step.kind for step in made.steps] == [*way, "contrast"]


def test_nothing_is_put_before_steps_that_convert_and_none_render_what_a_display_shows():
    renders = Group(id="g", steps=[SceneToDisplay(id="b")])
    scene = begun("film_log", steps=[renders])
    assert scene is not None
    assert scene.steps == [renders]
    assert begun("bt709_display", steps=[renders]) is None
    empty = begun("srgb", "srgb")
    assert empty is not None
    assert empty.steps == []
