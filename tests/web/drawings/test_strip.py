"""The live strip: metal to go at the top, whatever is measured."""

import re
from decimal import Decimal

import pytest

from nomisma.core.part.feature import Feature, State
from nomisma.core.part.feature_kinds import KindName
from nomisma.web.drawings.strip import StripMark, strip

LOW, HIGH = Decimal("10.0"), Decimal("10.2")


def heights(feature: Feature) -> list[float]:
    """How far down the limits stand, in their order of size."""
    return [
        float(y) for y in re.findall(r'<line[^>]*y1="([0-9.]+)"[^>]*class="limit-line"', str(strip(feature, [], "mm")))
    ]


@pytest.mark.parametrize(
    ("kind", "metal_end"), [("shaft", "upper"), ("length", "upper"), ("bore", "lower"), ("depth", "lower")]
)
def test_the_limit_with_metal_beyond_it_stands_at_the_top(kind: KindName, metal_end: str) -> None:
    lower, upper = heights(Feature(kind, LOW, HIGH))
    assert (upper < lower) == (metal_end == "upper")


def test_a_size_without_a_safe_side_is_out_on_both() -> None:
    drawn = str(strip(Feature("position", LOW, HIGH), [], "mm"))
    assert "over: out" in drawn
    assert "under: out" in drawn
    assert "metal to go" not in drawn


def test_one_limit_alone_is_drawn_with_what_was_read() -> None:
    mark = StripMark(Decimal("0.03"), Decimal("0.002"), State.GONE_TOO_FAR, "middle")
    drawn = str(strip(Feature("runout", upper_mm=Decimal("0.02")), [mark], "mm"))
    assert drawn.count("limit-line") == 1
    assert "at most 0.020 mm" in drawn


def test_the_sides_are_named_beyond_readings_at_the_edge_and_their_arrows() -> None:
    marks = [StripMark(Decimal(size), Decimal("0.01"), State.METAL_TO_GO, "mouth 0°") for size in ("12", "8")] * 9
    drawn = str(strip(Feature("shaft", LOW, HIGH), marks, "mm"))
    tips = [float(y) for y in re.findall(r"L [0-9.]+ ([0-9.]+) L", drawn)]
    above, below = (
        float(re.findall(rf'y="([0-9.]+)"[^>]*>{words}<', drawn)[0]) for words in ("metal to go", "gone too far")
    )
    assert above < min(tips) - 8, "a line of writing stands above its base"
    assert below > max(tips) + 14
