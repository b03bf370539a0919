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


@pytest.mark.parametrize("line", ["gear 24T", "gear 3T 12DP", "gear 24T 0DP", "gear 2 in"])
def test_what_is_no_gear_is_refused(line: str) -> None:
    with pytest.raises(InputError):
        read(line)
