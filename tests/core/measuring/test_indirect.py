"""Sizes that follow from readings: the geometry drawn and found again, and what an error of a reading does to them."""

from decimal import Decimal
from math import asin, cos, radians, sin, sqrt, tan

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError
from nomisma.core.measuring.indirect import WAY_WORDS, IndirectReading, by_chord, by_rollers, indirect_reading
from nomisma.core.part.feature_kinds import Way

ANGLE = asin(43.58 / 125)
sizes = st.decimals("5", "900", places=3)


@given(sizes, st.floats(0.05, 0.45))
def test_a_chord_of_a_drawn_circle_gives_its_diameter(diameter: Decimal, share: float) -> None:
    height = Decimal(f"{float(diameter) * share:.9f}")
    chord = Decimal(f"{2 * sqrt(float(height) * float(diameter - height)):.9f}")
    assert abs(by_chord(chord, height) - diameter) < Decimal("1e-5")


@given(sizes, st.decimals("3", "40", places=2))
def test_two_rollers_beside_a_drawn_round_give_its_diameter(diameter: Decimal, roller: Decimal) -> None:
    """A roller stands where the distance of the middles is the sum of the radii: its middle is √(D·d) out."""
    over = Decimal(f"{2 * sqrt(float(diameter) * float(roller)) + float(roller):.9f}")
    if over > 2 * roller:
        assert abs(by_rollers(over, roller) - diameter) < Decimal("1e-5")


@given(st.floats(0.3, 20), st.decimals("20", "60", places=1))
def test_rollers_and_sine_bar_find_the_same_drawn_taper(half_deg: float, over: Decimal) -> None:
    half = radians(half_deg)
    wanted = 2 * tan(half) * float(over)
    corner = 1 + tan(half) + 1 / cos(half)
    low, high = 40 + 10 * corner, 40 + 10 * corner + 2 * tan(half) * 50
    by_rods = indirect_reading(f"rollers {low:.9f} {high:.9f} on 50 over {over}", "mm")
    by_bar = indirect_reading(f"sine {125 * sin(2 * half):.9f} on 125 over {over}", "mm")
    assert by_rods
    assert by_bar
    assert float(by_rods.size_mm()) == pytest.approx(wanted, abs=2e-6)
    assert float(by_bar.size_mm()) == pytest.approx(wanted, abs=2e-6)


@pytest.mark.parametrize(
    ("text", "size", "sensitivity"),
    [("10 + 1.22 + 1.005", "12.225", sqrt(3)), ("over 120 rollers 20", "125", 2.5),
        ("chord 80 height 20", "100", sqrt(4 + 9)),
     ("rollers 44.5 47 on 50 over 60", "3", 1.2 * sqrt(2)),
     ("sine 40 + 3.58 on 125 over 60", "21.595899", sqrt(2) * 60 / 125 / cos(ANGLE) / cos(ANGLE / 2) ** 2)],
)  # fmt: skip
def test_each_way_by_hand_with_the_derivative_of_its_own_formula(text: str, size: str, sensitivity: float) -> None:
    found = indirect_reading(text, "mm")
    assert found
    assert found.size_mm() == Decimal(size)
    assert float(found.sensitivity) == pytest.approx(sensitivity, rel=2e-4)


def test_a_zero_error_is_taken_off_each_reading_before_the_size_is_made() -> None:
    found = IndirectReading("chord", (Decimal("80.01"), Decimal("20.01")))
    assert found.size_mm(Decimal("0.01")) == 100


@pytest.mark.parametrize("plain", ["24.98", "1 3/8", ".8752 .8750", "go .125 no-go .126", "1 turn", ""])
def test_what_is_read_straight_off_is_none_of_the_ways(plain: str) -> None:
    assert indirect_reading(plain, "in") is None


@pytest.mark.parametrize(
    ("text", "sentence"),
    [("25 +0.1/-0", "not understood as a size"), ("chord 80 height 60", "more than half round"),
        ("rollers 47 44 on 50 over 60", "not larger"),
     ("sine 200 on 125 over 60", "as high as the bar"), ("over 30 rollers 20", "more than two rollers"),
     ("10 + -2", "a size is above zero")],
)  # fmt: skip
def test_what_cannot_be_has_its_sentence_at_the_reading(text: str, sentence: str) -> None:
    with pytest.raises(InputError, match=sentence) as refused:
        indirect_reading(text, "mm")
    assert refused.value.field == "size"


@pytest.mark.parametrize("way", WAY_WORDS)
def test_the_example_of_each_way_is_read_as_that_way(way: Way) -> None:
    found = indirect_reading(WAY_WORDS[way].split(" as ")[-1], "mm")
    assert found
    assert found.way == way
