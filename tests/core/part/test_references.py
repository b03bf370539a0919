"""Letters that features name: what can be meant, and what cannot."""

import pytest

from nomisma.core.part.along import place_said
from nomisma.core.part.feature import Feature
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.references import wrong_reference


def _refers(kind: KindName, *, along: str = "", true_to: str = "") -> str:
    named = LetteredFeature("A", Feature(kind))
    return wrong_reference(
        LetteredFeature("B", Feature("position"), along=place_said(along), true_to=true_to), {"A": named}
    )


@pytest.mark.parametrize("kind", ["outside_diameter", "bore"])
def test_a_distance_from_a_diameter_says_from_which_end(kind: KindName) -> None:
    assert "counted from a face" in _refers(kind, along="at 5 mm from A")
    assert _refers(kind, along="at 5 mm from the end of A") == ""
    assert _refers(kind, along="on A") == ""


@pytest.mark.parametrize("kind", ["length", "height", "depth"])
def test_a_distance_is_counted_from_a_face(kind: KindName) -> None:
    assert _refers(kind, along="at 5 mm from A") == ""


@pytest.mark.parametrize("kind", ["length", "depth", "chamfer", "surface_finish"])
def test_true_to_is_said_of_what_turns(kind: KindName) -> None:
    assert "true to is said of a diameter or a bore" in _refers(kind, true_to="A")
    assert _refers("bore", true_to="A") == ""
