"""One end of a bore or a shaft against the other: where a taper comes from."""

from decimal import Decimal
from typing import Any

import pytest

from nomisma.core.cutting.mouth_deep import ends_compared


@pytest.mark.parametrize(
    ("kind", "near", "far", "words", "fits"),
    [
        ("bore", "25.010", "24.998", "Mouth is 12.0 µm larger than deep: the bar gives", True),
        ("bore", "24.990", "25.020", "Deep is 30.0 µm larger than the mouth", False),
        ("shaft", "24.980", "24.995", "The far end is 15.0 µm larger", True),
        ("shaft", "24.995", "24.980", "The far end is 15.0 µm smaller: the tailstock", True),
    ],
)
def test_a_taper_says_where_it_comes_from(kind: Any, near: str, far: str, words: str, *, fits: bool) -> None:
    found = ends_compared(kind, near_mm=Decimal(near), far_mm=Decimal(far), width_mm=Decimal("0.021"), unit="mm")
    assert found is not None
    assert found.sentence.startswith(words)
    assert found.fits is fits
    assert found.by_tailstock is ("tailstock" in found.sentence)
    assert ("both ends cannot" in found.sentence) is not fits


def test_ends_that_agree_say_nothing() -> None:
    near, far = Decimal("25.010"), Decimal("25.009")
    assert ends_compared("bore", near_mm=near, far_mm=far, width_mm=Decimal("0.021"), unit="mm") is None
