"""A surface finish: Ra at most, in the unit's own measure."""

from decimal import Decimal

from tests.core.part.kinds.reading import read


def test_micrometres_in_mm_and_microinches_in_inch() -> None:
    """Source: 63 µin is 1.6 µm (25.4 mm to the inch)."""
    (metric,), (inch,) = read("Ra 1.6"), read("finish 63 max", "in")
    assert metric.roughness_ra_um == Decimal("1.6")
    assert round(inch.roughness_ra_um, 2) == Decimal("1.60")
