"""The parts of truing: surfaces and their places, a round as seen, tapping, levels, and what a hand does with the
advice.
"""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.practice.chuck import FEEL_WORDS, Feel
from nomisma.core.registry import calculation_named
from nomisma.core.truing.surface import place_name, places_of, sense_of, surfaces, uses
from nomisma.core.truing.turn_words import towards, turns_in_words


@pytest.mark.parametrize("name", sorted(surfaces()))
def test_places_go_round_from_jaw_1_in_order(name: str) -> None:
    kind = surfaces()[name]
    for count in kind.counts:
        at = [place.at_deg for place in places_of(name, count, teeth=48)]
        assert at[0] == 0
        assert at == sorted(at)
        assert len(at) == count
        assert at[-1] < 360
    assert kind.how.endswith(".")


@pytest.mark.parametrize("name", ["bore", "rim_inside", "pins_inside"])
def test_holes_read_the_other_way(name: str) -> None:
    assert sense_of(name) == -1


@pytest.mark.parametrize(
    ("at", "name"), [(0.0, "jaw 1"), (45.0, "1–2"), (225.0, "3–4"), (330.0, "330°"), (360.0, "jaw 1")]
)
def test_a_place_is_called_as_it_is_read_out(at: float, name: str) -> None:
    assert place_name(at) == name


@pytest.mark.parametrize(
    ("name", "count", "teeth", "sentence"), [("square", 8, 0, "8 places do not go round"), ("pins", 4, 3, "teeth")]
)
def test_places_that_are_none_have_their_sentence(name: str, count: int, teeth: int, sentence: str) -> None:
    with pytest.raises(InputError, match=sentence):
        places_of(name, count, teeth=teeth)


def test_uses_say_which_steps_are_the_tools_own() -> None:
    assert [bool(one.unsure) for one in uses().values()] == [False, True, False, True]
    assert float(uses()["second_operation"].total_indicator_reading.value("in")) == 0.0005


@given(st.floats(0, 359.99))
def test_a_direction_names_the_jaw_it_is_nearest_to(at: float) -> None:
    words = towards(at)
    nearest = round(at / 90) % 4 + 1
    assert words.startswith("jaw") is (abs((at - 90 * round(at / 90) + 180) % 360 - 180) <= 22.5)
    assert str(nearest) in words


@given(st.floats(0.0001, 40))
def test_a_turn_is_always_said(turns: float) -> None:
    words = turns_in_words(turns)
    assert "turn" in words or "touch" in words


def test_every_feel_has_its_words() -> None:
    assert set(FEEL_WORDS) == set(Feel)


# Three throws at 120° on one shaft: what each pair of jaws moves is the way between them.
def test_three_throws_bring_the_work_round_to_the_first_again() -> None:
    found = calculation_named("throw").run(
        {
            "throw": "10 mm",
            "towards_deg": 0,
            "diameter": "60 mm",
            "unit": "mm",
            "more": [
                {"throw": "10 mm", "towards_deg": 120},
                {"throw": "10 mm", "towards_deg": 240},
                {"throw": "10 mm", "towards_deg": 0},
            ],
        }
    )
    x = y = 0.0
    for one in found.others:
        for words in one.moves:
            jaw = int(words.split("drive jaw ")[1][0])
            amount = float(Decimal(words.split("by ")[1].split()[0]))
            x += amount * {1: -1, 3: 1}.get(jaw, 0)
            y += amount * {2: -1, 4: 1}.get(jaw, 0)
    assert (x, y) == pytest.approx((0, 0), abs=2e-3)
    assert [round(float(one.aimed[0].reading.mm), 3) for one in found.others] == [-5.0, -5.0, 10.0]


@pytest.mark.parametrize("text", ["0.125", "0.125 at", "0.125 at noon", "0.125 at 120 at 240"])
def test_throws_that_are_none_have_their_sentence(text: str) -> None:
    from nomisma.web.worksheets.catalog import TOOLS

    with pytest.raises(InputError):
        TOOLS["throw"].inputs({"throw": "0.1", "diameter": "1", "more": text}, "in")


def test_throws_are_read_as_they_are_written() -> None:
    from nomisma.web.worksheets.catalog import TOOLS

    values = TOOLS["throw"].inputs({"throw": "0.1", "diameter": "1", "more": "0.125 at 120°; 3 mm at 240"}, "in")
    assert [one["towards_deg"] for one in values["more"]] == [120.0, 240.0]
    assert [str(one["throw"]) for one in values["more"]] == ["0.125 in", "3 mm"]


def test_a_wrong_place_list_is_refused_at_the_door() -> None:
    with pytest.raises(BadInput):
        calculation_named("round_check").run({"readings": ["0 in"], "graduation": "0.001 in"})
