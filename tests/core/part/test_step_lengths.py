"""A step's length from its free end to a shoulder grows as it is cut; what is faced, or has a smaller step behind it,
does not.
"""

import pytest

from nomisma.core.part.step_lengths import step_lengths
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered


@pytest.mark.parametrize(
    ("lines", "grow"),
    [
        ("od 20 x 30", set()),
        ("od 20 x 30\nod 40 x 10", {"B"}),
        ("od 20 x 30\nod 40 x 10\nod 25 x 15", {"B", "F"}),
        # 30 beside 32 and 25: the shoulder of 25 is cut last, and makes it shorter.
        ("od 25 x 28\nod 32 x 92\nod 30 x 30\nod 25 x 32", {"B", "H"}),
        # A neck between two larger ones only gets wider.
        ("od 40 x 10\nod 30 x 5\nod 40 x 10", {"D"}),
        ("od 40 x 10\nlength 30", set()), ("bore 20 x 10", set()),
    ],
)  # fmt: skip
def test_which_lengths_are_cut_deeper(lines: str, grow: set[str]) -> None:
    found = feature_lines(FeatureLinesInput(text=lines, unit="mm")).features
    assert {one.letter for one in found if one.kind == "step_length"} == grow
    as_length = [
        lettered(one.model_copy(update={"kind": "length"}) if one.kind == "step_length" else one) for one in found
    ]
    assert step_lengths(as_length) == grow


def test_short_of_it_there_is_metal_to_go_and_its_sentence_names_it() -> None:
    found = feature_lines(FeatureLinesInput(text="od 20 x 30 ±0.1\nod 40 x 10", unit="mm"))
    assert found.features[1].material_side == "internal"
    assert found.features[1].sentence.startswith("B: step length from 29.9 mm to 30.1 mm")
    assert found.working[1].name == "B, step length"
