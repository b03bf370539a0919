"""What takes less than a line: the compound set over, half lines, stone or cloth."""

from decimal import Decimal
from math import radians, sin

import pytest

from nomisma.core.cutting.fine_cuts import SET_OVER_DEG, compound_words, rest_words
from nomisma.core.quantity.length import Length


def test_the_compound_set_over_takes_a_tenth_of_its_line() -> None:
    assert sin(radians(float(SET_OVER_DEG))) == pytest.approx(0.1, abs=0.001)


def test_a_compound_line_of_two_hundredths_takes_four_microns() -> None:
    assert "4.0 µm off the diameter" in compound_words(Length(Decimal("0.02"), "mm"), "mm")


@pytest.mark.parametrize(
    ("kind", "cloth", "said", "unsaid"), [("shaft", True, "emery", "hone"), ("bore", False, "hone", "emery")]
)
def test_cloth_is_for_shafts_and_a_hone_for_bores(kind: str, cloth: bool, said: str, unsaid: str) -> None:
    found = rest_words(kind=kind, between_lines=None, compound_line=None, unit="mm", cloth=cloth)
    assert said in found
    assert unsaid not in found


@pytest.mark.parametrize(("lines", "words"), [("0.5", "0.5 of a line is safe"), ("1.25", "1.25 lines is safe")])
def test_a_part_of_a_line_that_is_safe_is_named(lines: str, words: str) -> None:
    assert words in rest_words(kind="shaft", between_lines=Decimal(lines), compound_line=None, unit="mm", cloth=False)
