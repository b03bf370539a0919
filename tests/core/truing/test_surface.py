"""Surfaces, the places of a round on each, and how true each use wants it."""

import pytest

from nomisma.core.errors import InputError
from nomisma.core.truing.surface import places_of, surfaces, uses


def test_places_stand_evenly_from_jaw_one_on() -> None:
    for count in (4, 8, 12):
        places = places_of("outside", count)
        assert [place.at_deg for place in places] == pytest.approx([360 / count * index for index in range(count)])
        assert places[0].name == "jaw 1"


def test_names_of_places_differ() -> None:
    for count in (4, 8, 12, 24):
        names = [place.name for place in places_of("outside", count)]
        assert len(set(names)) == count


PINS = next(name for name in surfaces() if name.startswith("pins"))


def test_pins_stand_in_tooth_spaces() -> None:
    for place in places_of(PINS, 4, teeth=23):
        spaces = place.at_deg * 23 / 360
        assert abs(spaces - round(spaces)) < 1e-6


def test_pins_without_a_number_of_teeth_are_refused() -> None:
    with pytest.raises(InputError):
        places_of(PINS, 4)


def test_every_use_says_how_true_and_why() -> None:
    for use in uses().values():
        assert use.total_indicator_reading.mm > 0
        assert use.words.endswith(".")


def test_a_count_that_does_not_go_round_is_refused() -> None:
    with pytest.raises(InputError, match="Choose 4, 8, 12, 24"):
        places_of("outside", 6)
