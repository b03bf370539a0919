"""The size to aim at: always inside the limits, and rounding lets nothing outside in."""

from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.fits.aim import aim_size, round_inward

mm = st.decimals("10", "200", places=3)


@given(
    mm,
    st.decimals("0.002", "0.2", places=3),
    st.sampled_from(["shaft", "bore"]),
    st.sampled_from(["middle", "metal_safe"]),
)
def test_the_aim_is_always_inside_the_limits(low: Decimal, tolerance: Decimal, kind: str, method: str) -> None:
    aim = aim_size(kind, low, low + tolerance, method, "mm")
    assert low <= aim <= low + tolerance


@given(mm, st.decimals("0.01", "0.2", places=3))
def test_the_metal_safe_aim_leaves_more_metal_than_the_middle(low: Decimal, tolerance: Decimal) -> None:
    high = low + tolerance
    assert aim_size("shaft", low, high, "metal_safe", "mm") >= aim_size("shaft", low, high, "middle", "mm")
    assert aim_size("bore", low, high, "metal_safe", "mm") <= aim_size("bore", low, high, "middle", "mm")


@given(mm, st.decimals("0.0005", "0.2", places=4), st.sampled_from(["in", "mm"]))
def test_rounding_never_lets_anything_outside_in(low: Decimal, tolerance: Decimal, unit: str) -> None:
    inner_low, inner_high = round_inward(low, low + tolerance, unit)
    assert low <= inner_low <= inner_high <= low + tolerance
