"""A truing as a whole: what comes next after each round, and what a chuck is seen to do."""

from dataclasses import replace
from math import cos, radians, sin
from typing import Any

import pytest

from nomisma.core.quantity.length import Length
from nomisma.core.truing.course import Phase, RoundRead, TruingSetUp, drifts_of, judged_rounds, learned_from, phase_of
from nomisma.core.truing.surface import places_of, surfaces, uses


def thou(value: float) -> Length:
    return Length.of(f"{value / 1000:.6f}", "in")


PLAIN = TruingSetUp(
    surface="outside",
    at_deg=(0.0, 90.0, 180.0, 270.0),
    target=thou(0.5),
    screw_lead=Length.of("0.125", "in"),
    graduation=thou(0.1),
    keys="one",
    unit="in",
)


def set_up(**more: Any) -> TruingSetUp:
    return replace(PLAIN, **more)


def read(
    number: int, x: float, y: float, *, tightened: bool = False, circle: str = "near", confirmed: bool = False
) -> RoundRead:
    """A round bar standing x thou towards jaw 1 and y towards jaw 2."""
    values = tuple(thou(8 + one) for one in (x, y, -x, -y))
    return RoundRead(number, values, tightened, circle, confirmed)


def phase(rounds: list[RoundRead], *, ready: bool = False, in_round: bool = False, **more: Any) -> Phase:
    setting = set_up(**more)
    return phase_of(setting, judged_rounds(setting, rounds), in_round=in_round, ready=ready)


def test_from_the_first_round_to_ready() -> None:
    first, second, tight = read(1, 8, -3), read(2, 0.05, -0.05), read(3, 0.1, 0.1, tightened=True)
    assert phase([]) is Phase.READ
    assert phase([], in_round=True) is Phase.IN_ROUND
    assert phase([first]) is Phase.MOVE
    assert phase([first, second]) is Phase.TIGHTEN
    assert phase([first, second, tight]) is Phase.SAFE
    assert phase([first, second, tight], ready=True) is Phase.READY


def test_tightening_that_spoils_it_asks_for_another_move() -> None:
    assert phase([read(1, 0, 0), read(2, 1.5, 0, tightened=True)]) is Phase.MOVE


def test_a_far_circle_is_asked_for_once_the_near_one_is_true() -> None:
    far = {"far": Length.of("3", "in"), "length": Length.of("3", "in")}
    assert phase([read(1, 5, 0)], **far) is Phase.MOVE
    assert phase([read(1, 0, 0)], **far) is Phase.READ_FAR
    leaning, straight = read(2, 3, 0, circle="far"), read(2, 0.05, 0, circle="far")
    assert phase([read(1, 0, 0), leaning], **far) is Phase.TAP
    assert phase([read(1, 0, 0), straight], **far) is Phase.TIGHTEN
    assert phase([read(1, 0, 0), straight, read(3, 0, 0)], **far) is Phase.TIGHTEN


def test_a_round_in_the_wrong_unit_waits_for_an_answer() -> None:
    wrong = RoundRead(
        2, tuple(thou(25.4 * one.mm.__float__() / 0.0254) for one in read(1, 8, -3).readings), tightened=False
    )
    assert phase([read(1, 8, -3), wrong]) is Phase.ASKED
    confirmed = RoundRead(2, wrong.readings, tightened=False, confirmed=True)
    assert phase([read(1, 8, -3), confirmed]) is Phase.MOVE


def test_an_indicator_that_cannot_tell_is_said_to_be_too_coarse() -> None:
    assert phase([read(1, 0.5, 0)], graduation=thou(2), target=thou(0.2)) is Phase.TOO_COARSE


def test_highest_and_lowest_alone_give_a_move() -> None:
    ends = RoundRead(1, (thou(20), thou(0)), tightened=False, highest_at_deg=90.0)
    found = judged_rounds(set_up(), [ends])
    assert [(move.ease_jaw, move.drive_jaw) for move in found[0].result.moves] == [(4, 2)]


def test_what_tightening_did_is_the_way_between_two_rounds_without_a_move() -> None:
    rounds = [read(1, 8, 0), read(2, 0.1, -0.1), read(3, 0.1, 0.2, tightened=True)]
    (drift,) = drifts_of(judged_rounds(set_up(), rounds))
    assert drift == pytest.approx((0.0, 0.3 * 0.0254), abs=1e-6)


def test_a_round_that_asked_for_a_move_says_nothing_of_tightening() -> None:
    assert drifts_of(judged_rounds(set_up(), [read(1, 8, 0), read(2, 0.1, 0, tightened=True)])) == []


def test_a_chucks_habit_is_learned_and_then_used() -> None:
    earlier = [(set_up(), [read(1, 0, -0.1), read(2, 0, 0.2, tightened=True)])] * 3
    learned = learned_from(earlier, "in")
    assert learned is not None
    assert learned.counts
    advised = judged_rounds(set_up(), [read(1, 0, 0.15)], learned)[0].result
    assert advised.moves[0].drive_jaw == 2
    assert float(advised.moves[0].move.value("in")) == pytest.approx(0.00045, abs=1e-6)
    assert learned_from([], "in") is None


@pytest.mark.parametrize("surface", sorted(surfaces()))
def test_every_surface_gives_the_same_advice_for_work_off_towards_jaw_2(surface: str) -> None:
    """Proof of the sense: work 4 thou off towards jaw 2 is driven from jaw 2, whatever is read on it."""
    kind = surfaces()[surface]
    at = [place.at_deg for place in places_of(surface, kind.counts[0], teeth=40)]
    # A needle outside reads the surface's way out; inside a hole the wall that comes nearer the tip pushes it.
    values = tuple(thou(kind.sense * 4 * sin(radians(angle))) for angle in at)
    found = judged_rounds(set_up(surface=surface, at_deg=tuple(at)), [RoundRead(1, values, tightened=False)])[0].result
    assert found.moves[0].drive_jaw == 2
    assert found.moves[0].ease_jaw == 4


def test_pins_stand_in_the_nearest_tooth_space() -> None:
    at = [place.at_deg for place in places_of("pins", 4, teeth=27)]
    assert at == pytest.approx([0, 7 * 360 / 27, 14 * 360 / 27, 20 * 360 / 27])
    values = tuple(thou(3 * cos(radians(angle - 50))) for angle in at)
    found = judged_rounds(set_up(surface="pins", at_deg=tuple(at)), [RoundRead(1, values, tightened=False)])[0].result
    assert float(found.offset.value("in")) == pytest.approx(0.003, rel=1e-3)
    assert found.offset_at_deg == pytest.approx(50, abs=0.1)


def test_uses_go_from_rough_to_fine() -> None:
    swings = [one.total_indicator_reading.mm for one in uses().values()]
    assert swings == sorted(swings, reverse=True)
    assert not uses()["rough_stock"].unsure
