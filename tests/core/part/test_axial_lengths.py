"""The lengths of a part between the places they join."""

from decimal import Decimal

import pytest

from nomisma.core.part.along import place_said
from nomisma.core.part.axial_lengths import axial_lengths
from nomisma.core.part.feature import Feature
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.section import section_of


def sized(letter: str, kind: KindName, size: str, place: str = "") -> LetteredFeature:
    at = {"along": place_said(place)} if place else {}
    return LetteredFeature(letter, Feature(kind, Decimal(size), Decimal(size)), **at)


SPINDLE = [
    sized("A", "outside_diameter", "20"), sized("B", "length", "30"), sized("C", "outside_diameter", "12"),
    sized("D", "length", "15"),
    sized("E", "length", "45"), sized("F", "bore", "6"), sized("G", "depth", "10"),
]  # fmt: skip


@pytest.mark.parametrize(
    ("letter", "ends"), [("B", ("0", "30")), ("D", ("30", "45")), ("E", ("0", "45")), ("G", ("0", "10"))]
)
def test_each_length_lies_between_its_two_faces(letter: str, ends: tuple[str, str]) -> None:
    section = section_of(SPINDLE)
    assert section
    found = {one.letter: (one.from_mm, one.to_mm) for one in axial_lengths(SPINDLE, section)}
    assert found[letter] == tuple(Decimal(end) for end in ends)


@pytest.mark.parametrize(("place", "ends"), [("from the left", ("0", "8")), ("from the right", ("37", "45"))])
def test_a_position_reaches_from_its_datum_to_the_near_side_of_the_groove(place: str, ends: tuple[str, str]) -> None:
    part = [
        *SPINDLE,
        sized("H", "groove_width", "2"),
        sized("I", "groove_floor_diameter", "9"),
        sized("J", "position", "8", place),
    ]
    section = section_of(part)
    assert section
    found = {one.letter: (one.from_mm, one.to_mm) for one in axial_lengths(part, section)}
    assert found["J"] == tuple(Decimal(end) for end in ends)


def test_a_diameter_is_no_length_along_the_axis() -> None:
    section = section_of(SPINDLE)
    assert section
    assert {one.letter for one in axial_lengths(SPINDLE, section)}.isdisjoint("ACF")
