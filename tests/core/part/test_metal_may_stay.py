"""How much metal the limits let stay beyond the size that is aimed at."""

from decimal import Decimal

import pytest

from nomisma.core.part.feature import Feature
from nomisma.core.part.feature_kinds import KindName


@pytest.mark.parametrize(
    ("kind", "lower", "upper", "may_stay"),
    [("length", "9.8", "10.2", "0.1"), ("depth", "9.8", "10.2", "0.3"), ("length", None, None, "0")],
)
def test_metal_may_stay_on_its_own_side_of_the_aim(
    kind: KindName, lower: str | None, upper: str | None, may_stay: str
) -> None:
    ends = [Decimal(one) if one else None for one in (lower, upper)]
    aim = Decimal("10.1") if lower else None
    assert Feature(kind, *ends, aim).metal_may_stay_mm == Decimal(may_stay)
