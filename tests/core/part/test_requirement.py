"""What a line requires of a feature, and where its limits come from."""

from decimal import Decimal

import pytest

from nomisma.core.errors import AmbiguousLength, UnreadableLength
from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.part.requirement import HeldTo, LimitsFrom
from nomisma.core.planning.class_of_fits import class_of_fits
from nomisma.core.quantity.length import Unit


@pytest.mark.parametrize(
    ("kind", "size", "unit", "lower_mm", "upper_mm", "limits_from"),
    [
        ("outside_diameter", "28 ±0.1", "mm", "27.9", "28.1", "line"),
        ("bore", "25 H7", "mm", "25", "25.021", "code"),
        ("length", "1/2", "in", "12.303125", "13.096875", "general"),
        ("length", "sample 24.96 plus .04 ±.01", "mm", "24.99", "25.01", "sample"),
        ("depth", "6 max", "mm", None, "6", "line"),
    ],
)
def test_limits_come_from_what_the_line_says(
    kind: KindName, size: str, unit: Unit, lower_mm: str | None, upper_mm: str, limits_from: LimitsFrom
) -> None:
    found = feature_kind(kind).required(size, unit, HeldTo(class_of_fits))
    ends = [end.mm if end else None for end in (found.lower, found.upper)]
    assert ends == [Decimal(lower_mm) if lower_mm else None, Decimal(upper_mm)]
    assert found.limits_from == limits_from


def test_a_size_is_for_reference_where_nothing_holds_it() -> None:
    found = feature_kind("length").required("40", "mm", HeldTo(class_of_fits, "none"))
    assert (found.lower, found.upper, found.limits_from) == (None, None, "reference")


@pytest.mark.parametrize(
    ("kind", "size"), [("chamfer", "45"), ("bore", "go 12 no-go"), ("runout", ".002 min"), ("length", "2 H7")]
)
def test_what_can_be_no_requirement_has_its_sentence(kind: KindName, size: str) -> None:
    with pytest.raises((UnreadableLength, AmbiguousLength)):
        feature_kind(kind).required(size, "in", HeldTo(class_of_fits))
