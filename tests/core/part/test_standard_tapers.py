"""Standard tapers: named as they are said, and their ends from their own rates."""

from decimal import Decimal

import pytest

from nomisma.core.part.standard_tapers import standard_taper_named, standard_tapers


@pytest.mark.parametrize(
    ("text", "words"),
    [("Morse 3", "Morse 3"), ("mt 2", "Morse 2"), ("MT5", "Morse 5"), ("jarno no. 6", "Jarno 6"),
     ("7/24 no. 40", "7/24 no. 40"), ("metric 80", "metric 80, 1:20")],
)  # fmt: skip
def test_a_taper_is_known_by_the_names_it_is_called(text: str, words: str) -> None:
    found = standard_taper_named(text)
    assert found
    assert found.words == words


@pytest.mark.parametrize("text", ["Morse 9", "1:20", "", "Morse", "taper 3"])
def test_what_is_no_standard_taper_is_none(text: str) -> None:
    assert standard_taper_named(text) is None


@pytest.mark.parametrize(
    "name", [name for name, one in standard_tapers().items() if one.large_mm and one.small_mm and one.length_mm]
)
def test_its_ends_differ_by_its_taper_over_its_length(name: str) -> None:
    """Second derivation of the recalled ends: within 0.0006 in, to which they are given."""
    one = standard_tapers()[name]
    assert one.large_mm is not None
    assert one.small_mm is not None
    assert one.length_mm is not None
    assert abs(one.large_mm - one.small_mm - one.rate * one.length_mm) <= Decimal("0.0006") * Decimal("25.4")
