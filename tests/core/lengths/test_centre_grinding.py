"""Grinding a centre: the passes add up, the last ones are light, and the cautions stand there."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.centre_grinding import CentreGrindingResult
from nomisma.core.registry import calculation_named


def ground(**given: Any) -> CentreGrindingResult:
    found = calculation_named("centre_grinding").run({"to_take": "0.006 in", **given})
    assert isinstance(found, CentreGrindingResult)
    return found


@given(st.integers(1, 400), st.integers(5, 40), st.integers(1, 5))
def test_passes_add_up_and_none_is_deeper_than_a_pass(take: int, a_pass: int, last: int) -> None:
    """In tenths of a thou: what is to come off, a pass, the last ones."""
    found = ground(to_take=f"{take / 10000:.4f} in", a_pass=f"{a_pass / 10000:.4f} in", last=f"{last / 10000:.4f} in")
    sizes = [one.value("in") for one in found.passes]
    assert abs(sum(sizes) - Decimal(take) / 10000) < Decimal("1e-7")
    assert max(sizes) <= Decimal(max(a_pass, last)) / 10000 + Decimal("1e-7")
    assert sizes[-1] <= Decimal(last) / 10000 + Decimal("1e-7")


@pytest.mark.parametrize(("angle", "compound"), [(60, 30), (75, 37.5), (90, 45)])
def test_the_compound_stands_at_half_the_angle(angle: int, compound: float) -> None:
    assert ground(included_deg=angle).compound_deg == compound


def test_the_tailstocks_centre_goes_first_and_the_wheels_own_rating_counts() -> None:
    found = ground()
    assert "tailstock’s centre first" in found.notes[0]
    assert any("marked speed" in line for line in found.cautions)
    assert any("damp cloth" in line for line in found.cautions)


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"included_deg": 0}, "included_deg"),
        ({"last": "0.002 in"}, "last"),
        ({"to_take": "1 in"}, "to_take"),
        ({"included_deg": 150}, "included_deg"),
    ],
)
def test_what_is_no_centre_is_told(given: dict[str, Any], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        ground(**given)
    assert refused.value.errors[0].field == field


def test_a_parallel_hole_has_no_angle() -> None:
    assert ground(work="inside", included_deg=0).compound_deg == 0


@pytest.mark.parametrize(("angle", "along"), [(60, "0.000866"), (75, "0.000652"), (90, "0.000500")])
def test_the_cross_slide_or_the_carriage_feeds_and_the_compound_only_traverses(angle: int, along: str) -> None:
    """0.0005 on radius is 0.0005/tan(half the angle) along the axis, by hand."""
    found = ground(included_deg=angle)
    facts = {one.name: one.length for one in found.facts if one.length}
    assert str(facts["A pass, wound in at the cross-slide"]) == "0.0005 in"
    assert float(facts["Or at the carriage, along the axis"].mm) / 25.4 == pytest.approx(float(along), abs=6e-7)
    fed = next(step for step in found.steps if "feeds" in step)
    assert fed.startswith("Traverse with the compound alone")
    assert "The cross-slide feeds" in fed
    assert "compound feeds" not in " ".join(found.steps).lower()
