"""The drawing of a part in section: to scale where it can be, and every letter on it."""

import re

import pytest

from nomisma.core.part.feature import State
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from nomisma.web.drawings.section import LetterMark, section_picture

PLAIN = (
    "od 24 ±0.1 x 18 ±0.1\nhole 12 ±0.1 thru\nboss 20 ±0.1 x 4.5 ±0.1 high\n"
    "groove 2 ±0.1 wide to 22 ±0.1 at 2 ±0.1 from the left\ncham 0.5 x 45"
)


def drawn(lines: str) -> str:
    read = feature_lines(FeatureLinesInput(text=lines, unit="mm"))
    found = section_of(lettered(one) for one in read.features)
    assert found is not None
    marks = [LetterMark(one.letter, State.IN_LIMITS, one.title, f"/{one.letter}") for one in read.features]
    return str(section_picture(found, marks))


def test_every_letter_stands_on_it_and_leads_somewhere() -> None:
    picture = drawn(PLAIN)
    assert [f'href="/{letter}"' in picture for letter in "ABCDEFGHI"] == [True] * 9


@pytest.mark.parametrize(
    ("lines", "to_scale"), [(PLAIN, True), ("od 10 ±0.1 x 60 ±0.1", True), ("od 10 ±0.1 x 2000 ±1", False)]
)
def test_it_says_when_it_is_not_to_scale(lines: str, to_scale: bool) -> None:
    assert ("not to scale" in drawn(lines)) != to_scale


def test_the_words_beside_it_name_the_sizes() -> None:
    assert "Outside A of 24 mm, D of 20 mm; bores C of 12 mm" in drawn(PLAIN)


def test_a_part_as_thin_as_a_washer_is_drawn_too() -> None:
    assert "figure section" in drawn("od 200 ±0.1 x 0.5 ±0.1")


@pytest.mark.parametrize("grooves", range(1, 9))
def test_letters_stand_side_by_side_and_inside_the_picture(grooves: int) -> None:
    lines = "od 24 ±0.1 x 60 ±0.1\n" + "\n".join(
        f"groove 2 ±0.1 wide to 22 ±0.1 at {40 + 2 * n} ±0.1 from the left" for n in range(grooves)
    )
    places = re.findall(r'<rect x="([0-9.]+)" y="([0-9.]+)" width="38" [^>]*letter-box', drawn(lines))
    assert len(places) > 2
    rows: dict[str, list[float]] = {}
    for x, y in places:
        rows.setdefault(y, []).append(float(x))
    for found in rows.values():
        assert all(after - before >= 38 for before, after in zip(sorted(found), sorted(found)[1:], strict=False))
        assert max(found) + 38 <= 640
