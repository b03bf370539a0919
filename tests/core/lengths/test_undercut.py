"""Undercuts: the size for a diameter, what grinding adds, and the partner's edge against a drawn corner."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.undercut import Form, Undercut, UndercutResult, undercuts
from nomisma.core.registry import calculation_named


def undercut(diameter: str, **given: Any) -> UndercutResult:
    found = calculation_named("undercut").run({"diameter": diameter, **given})
    assert isinstance(found, UndercutResult)
    return found


@pytest.mark.parametrize(
    ("diameter", "load", "size"),
    [("2.5 mm", "usual", "F 0.2 x 0.1"), ("3 mm", "usual", "F 0.2 x 0.1"), ("18 mm", "usual", "F 0.4 x 0.2"),
     ("1 in", "usual", "F 0.8 x 0.3"), ("90 mm", "usual", "F 1.2 x 0.4"), ("60 mm", "alternating", "F 1.6 x 0.3")],
)  # fmt: skip
def test_the_size_goes_by_diameter_and_load(diameter: str, load: str, size: str) -> None:
    assert undercut(diameter, load=load).designation == size


def test_its_floor_is_twice_the_depth_under_the_diameter() -> None:
    assert str(undercut("25 mm").floor) == "24.4 mm"


def test_what_is_left_to_grind_makes_it_deeper_and_longer() -> None:
    """0.2 left is 0.2·cot 15° = 0.746 longer."""
    found = undercut("25 mm", to_grind="0.2 mm")
    assert str(found.cut_depth) == "0.5 mm"
    assert abs(found.cut_width.mm - Decimal("3.246")) < Decimal("0.001")


def rides(size: Undercut, form: Form, leg: float) -> bool:
    """Whether a partner with a 45° edge, its face and its bore at the shoulder, cuts into the round, by points along
    its outline.
    """
    radius = float(size.radius_mm)
    middle = (radius - (float(size.face_depth_mm) if form == "f" else 0.0), radius - float(size.depth_mm))
    outline = [(0.0, leg + n * radius / 400) for n in range(401)] + [
        (leg * n / 400, leg * (1 - n / 400)) for n in range(401)
    ]
    outline += [(leg + n * radius / 400, 0.0) for n in range(401)]
    in_corner = [(x, y) for x, y in outline if x < middle[0] and y < middle[1]]
    return any((x - middle[0]) ** 2 + (y - middle[1]) ** 2 > radius**2 * (1 + 1e-12) for x, y in in_corner)


@given(st.sampled_from(undercuts()), st.sampled_from(("e", "f")))
def test_the_least_chamfer_just_clears_a_drawn_corner(size: Undercut, form: Form) -> None:
    least = size.least_chamfer_mm(form)
    assert not rides(size, form, least + 0.002)
    assert least == 0 or rides(size, form, least - 0.004)


@pytest.mark.parametrize(("chamfer", "clears"), [("0.6 mm", True), ("0.4 mm", False)])
def test_an_edge_that_rides_on_the_round_is_said(chamfer: str, clears: bool) -> None:
    found = undercut("25 mm", form="e", partner_chamfer=chamfer)
    assert found.clears is clears
    assert ("does not seat" in found.notes[0]) is not clears


@pytest.mark.parametrize(
    ("given", "field", "sentence"),
    [
        ({"diameter": "10 mm", "load": "alternating"}, "diameter", "only over 18.000 mm to 1000.000 mm"),
        ({"diameter": "1200 mm"}, "diameter", "says nothing of this diameter"),
        ({"diameter": "25 mm", "radius": "3 mm"}, "radius", "no such undercut"),
        ({"diameter": "1.5 mm", "radius": "4 mm"}, "diameter", "half of the diameter"),
        ({"diameter": "25 mm", "to_grind": "-0.1 mm"}, "to_grind", "less than nothing"),
    ],
)
def test_what_the_table_lacks_has_its_sentence(given: dict[str, str], field: str, sentence: str) -> None:
    with pytest.raises(BadInput) as refused:
        calculation_named("undercut").run(given)
    assert refused.value.errors[0].field == field
    assert sentence in refused.value.errors[0].sentence
