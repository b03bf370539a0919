"""Lines said back: read again they are the same features."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.part.along import place_said
from nomisma.core.part.duty import duty_said
from nomisma.core.part.feature_kinds import FeatureKind, feature_kinds
from nomisma.core.part.said_feature import SaidFeature
from nomisma.core.part.said_lines import said_lines
from nomisma.core.planning.feature_lines import FeatureLinesInput, FeatureRead, feature_lines
from nomisma.demo.parts import PARTS
from tests.core.planning.sketched import SHOP_LINES


def read(lines: str, unit: str) -> list[FeatureRead]:
    found = feature_lines(FeatureLinesInput.model_validate({"text": lines, "unit": unit}))
    assert not found.not_understood, found.not_understood
    return found.features


def as_said(one: FeatureRead) -> SaidFeature:
    return SaidFeature(
        one.letter, one.kind, one.text, one.through, place_said(one.along), duty_said(one.duty, one.true_to)
    )


def said_back(features: list[FeatureRead]) -> list[str]:
    return said_lines([as_said(one) for one in features])


@pytest.mark.parametrize(("lines", "unit"), [(part.lines, part.unit) for part in PARTS], ids=lambda value: value[:12])
def test_the_parts_of_the_demo_said_back_are_the_same_parts(lines: str, unit: str) -> None:
    first = read(lines, unit)
    again = read("\n".join(said_back(first)), unit)
    same = ("letter", "kind", "lower", "upper", "nominal", "through", "along", "duty", "true_to")
    assert [tuple(getattr(one, name) for name in same) for one in again] == [
        tuple(getattr(one, name) for name in same) for one in first
    ]


def test_what_locates_and_must_be_true_to_another_is_said_back_with_both() -> None:
    line, *_ = said_back(read("bore 47 K7 x 15 ±0.1 deep, sets the position, true to A", "mm"))
    assert line.endswith(", sets the position, true to A")


@pytest.mark.parametrize("kind", feature_kinds().values(), ids=lambda kind: kind.name)
def test_every_kind_has_a_line_that_is_read_as_it(kind: FeatureKind) -> None:
    """Said back and read again it is the same, with whatever else its line says: a thread comes with what it
    is cut on.
    """
    (line,) = said_lines([SaidFeature("A", kind.name, kind.example)])
    found = read(line, "mm")
    again = read("\n".join(said_back(found)), "mm")
    assert kind.name in [one.kind for one in found]
    assert [(one.kind, one.lower, one.upper, one.along) for one in again] == [
        (one.kind, one.lower, one.upper, one.along) for one in found
    ]


@pytest.mark.parametrize("kind", feature_kinds().values(), ids=lambda kind: kind.name)
def test_every_word_of_a_kind_begins_a_line_of_it(kind: FeatureKind) -> None:
    size = kind.example if kind.name != "groove_width" else f"{kind.example} wide"
    for word in kind.words:
        assert kind.name in [one.kind for one in read(f"{word} {size}", "mm")]


WRITTEN = [*SHOP_LINES, "bore 12 H7 x 9 deep, sets the position, true to A", "6 holes 1/4 on 1-1/2"]


@given(st.lists(st.sampled_from(WRITTEN), max_size=6), st.sampled_from(["mm", "in"]))
def test_whatever_is_written_is_said_back_as_the_same_part(lines: list[str], unit: str) -> None:
    first = feature_lines(
        FeatureLinesInput.model_validate({"text": "od 40 x 20\n" + "\n".join(lines), "unit": unit})
    ).features
    again = read("\n".join(said_back(first)), unit)
    same = ("letter", "kind", "lower", "upper", "nominal", "through", "along", "duty", "true_to")
    assert [tuple(getattr(one, name) for name in same) for one in again] == [
        tuple(getattr(one, name) for name in same) for one in first
    ]
