"""A taper in a line: by its rate over a length, between two diameters, or a standard one by its name."""

import pytest

from nomisma.core.errors import InputError
from tests.core.part.kinds.reading import again, read


@pytest.mark.parametrize(
    ("line", "change"),
    [
        ("taper 1:20 over 50", "2.5 mm"), ("taper 2.5° per side over 30", "2.6197 mm"),
        ("taper 30 to 25 over 50", "5 mm"),
        ("5° taper over 30", "2.6197 mm"), ("taper 1 in 20 over 50", "2.5 mm"),
    ],
)  # fmt: skip
def test_its_change_over_its_length(line: str, change: str) -> None:
    """By hand: 30·2·tan 2.5° = 2.6197; 5 in 50."""
    assert str(read(line)[0].nominal) == change


@pytest.mark.parametrize(
    ("unit", "large", "long"), [("in", "0.938 in", "3.1875 in"), ("mm", "23.8252 mm", "80.9625 mm")]
)
def test_a_standard_taper_has_its_ends_in_the_unit_in_force(unit: str, large: str, long: str) -> None:
    """Source: ANSI/ASME B5.10, Morse 3 (recalled): .938 at the large end, 3 3/16 of plug."""
    taper, diameter, length = read("Morse 3 outside", unit)
    assert taper.kind == "taper"
    assert (str(diameter.nominal), str(length.nominal)) == (large, long)


def test_inside_it_is_a_bore_and_its_depth() -> None:
    assert [one.kind for one in read("Morse 2 socket")] == ["taper", "bore", "depth"]


def test_between_two_diameters_it_begins_with_the_first_and_is_said_again() -> None:
    _, begins = read("taper 30 to 25 over 50")
    assert (begins.kind, begins.text) == ("outside_diameter", "30")
    assert again("taper 30 to 25 over 50") == ["taper 30 to 25 over 50"]


@pytest.mark.parametrize("line", ["taper 30 to 30 over 50", "taper 1:20", "jacobs 33", "metric 4", "Morse 99"])
def test_what_is_none_is_refused(line: str) -> None:
    with pytest.raises(InputError):
        read(line)
