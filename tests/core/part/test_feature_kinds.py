"""Kinds of feature: every one has its side, its words and what cuts it."""

from typing import get_args

import pytest

from nomisma.core.errors import NotDefined
from nomisma.core.part.feature_kinds import (
    SIDE_WORDS,
    CoachedBy,
    FeatureKind,
    MaterialSide,
    UnitFamily,
    feature_kind,
    feature_kinds,
)


@pytest.mark.parametrize("kind", feature_kinds().values(), ids=lambda kind: kind.name)
def test_a_kind_says_all_of_itself(kind: FeatureKind) -> None:
    assert kind.title
    assert kind.measured_with
    assert kind.material_side in get_args(MaterialSide)
    assert kind.family in get_args(UnitFamily)
    assert kind.coached_by in get_args(CoachedBy)
    assert SIDE_WORDS[kind.material_side]


def test_long_is_metal_to_go_and_shallow_is() -> None:
    """Source: common practice, no source: for a length being faced, long; for what the carriage cuts deeper, short: a
    step up to its shoulder, a boss over its face, a depth, a groove's width.
    """
    names = ("length", "step_length", "height", "depth", "groove_width", "bore")
    sides = {name: feature_kind(name).material_side for name in names}
    assert sides == {
        "length": "external",
        "step_length": "internal",
        "height": "internal",
        "depth": "internal",
        "groove_width": "internal",
        "bore": "internal",
    }


def test_an_unknown_kind_lists_the_known() -> None:
    with pytest.raises(NotDefined, match="Choose one of across_flats, blunt_start, bore"):
        feature_kind("keyway")
