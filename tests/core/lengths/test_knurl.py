"""A knurl's blank: a whole number of teeth goes round it, and what stands over it is what is pressed out."""

from math import cos, pi, radians

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.knurl import STANDS_OVER, KnurlResult, Pattern
from nomisma.core.registry import calculation_named


def blank_of(**asked: object) -> KnurlResult:
    found = calculation_named("knurl").run(asked)
    assert isinstance(found, KnurlResult)
    return found


@given(st.floats(12, 120), st.floats(0.3, 1.5), st.sampled_from(("straight", "slanted", "diamond")))
def test_a_whole_number_of_teeth_goes_round_and_none_is_nearer(over: float, pitch: float, pattern: Pattern) -> None:
    found = blank_of(over=f"{over:.6f} mm", pitch=f"{pitch:.6f} mm", pattern=pattern)
    round_blank = pitch / (1 if pattern == "straight" else cos(radians(30)))
    assert float(found.blank.mm) * pi == pytest.approx(found.teeth * round_blank, abs=2e-3)
    assert abs(float(found.over.mm) - over) <= round_blank / pi / 2 + 1e-3
    assert abs(float(found.other_blank.mm) - float(found.blank.mm)) <= round_blank / pi + 1e-3


def test_teeth_to_the_inch_say_the_pitch() -> None:
    """By hand: 21 to the inch, straight, on an inch: the blank is an inch less 1/42; π·.97619·21 is 64.4, so 64."""
    found = blank_of(over="1 in", per_inch="21", pattern="straight", unit="in")
    assert found.teeth == 64
    assert float(found.blank.value("in")) == pytest.approx(64 / 21 / pi, abs=1e-5)


@pytest.mark.parametrize("pattern", ["straight", "diamond"])
def test_what_stands_over_the_blank_was_pressed_out_of_the_grooves(pattern: Pattern) -> None:
    """By summing heights over a grid: the blank's surface is the mean height of the finished teeth."""
    steps = 400
    ramp = [abs(2 * ((index + 0.5) / steps % 1) - 1) / 2 for index in range(steps)]  # a 90° tooth of pitch 1
    heights = ramp if pattern == "straight" else [min(one, other) for one in ramp for other in ramp]
    stands_over = 2 * (0.5 - sum(heights) / len(heights))
    assert float(STANDS_OVER[pattern]) == pytest.approx(stands_over, abs=1e-3)


@pytest.mark.parametrize(
    ("asked", "field"), [({"over": "25 mm"}, "pitch"), ({"over": "3 mm", "pitch": "2 mm"}, "over")]
)
def test_what_cannot_be_is_told_at_its_field(asked: dict[str, str], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        blank_of(**asked)
    assert refused.value.errors[0].field == field
