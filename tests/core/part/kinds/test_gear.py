"""The teeth of a gear: their number and pitch, and what blank they want."""

import pytest

from nomisma.core.errors import InputError
from tests.core.part.kinds.reading import again, read


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("gear 24T 12DP", "24 teeth, 12 DP: pitch diameter 2 in, outside 2.1667 in"),
        ("gear 30 teeth, module 1.5", "30 teeth, module 1.5: pitch diameter 45 mm, outside 48 mm"),
    ],
)
def test_its_pitch_diameter_and_its_blank_follow_from_its_teeth(line: str, says: str) -> None:
    """By hand: 24/12 = 2 in and 26/12 = 2.1667 in; 30·1.5 = 45 mm and 32·1.5 = 48 mm."""
    (gear,) = read(line)
    assert says in gear.sentence
    assert again(line) == [line]


def test_its_size_over_pins_is_a_feature_and_the_pins_stand_with_the_gear() -> None:
    line = "gear 24T module 2, over pins 52.50/52.54 on 3.5"
    gear, over = read(line)
    assert "read over pins of 3.5 mm" in gear.sentence
    assert (over.kind, str(over.lower), str(over.upper)) == ("over_pins", "52.5 mm", "52.54 mm")
    assert again("gear 24T module 2, over pins 52.50/52.54 on 3.5") == [
        "gear 24T module 2, over pins 52.50/52.54 on 3.5"
    ]


@pytest.mark.parametrize("line", ["gear 24T", "gear 3T 12DP", "gear 24T 0DP", "gear 2 in"])
def test_what_is_no_gear_is_refused(line: str) -> None:
    with pytest.raises(InputError):
        read(line)
