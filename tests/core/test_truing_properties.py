"""The four-jaw and the chuck's geometry, whatever the numbers: what must hold for every round."""

from decimal import Decimal

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from nomisma.core.quantity.length import Length
from nomisma.core.truing.four_jaw import TrueUpInput, TrueUpResult, true_up
from nomisma.core.truing.harmonics import evenly_spaced, taken_apart
from nomisma.core.truing.seen import Stop
from nomisma.core.truing.throw import ThrowInput, throw

microns = st.lists(st.integers(-500, 500), min_size=4, max_size=4)


def of(values: list[int], **more: object) -> TrueUpResult:
    readings = [Length(Decimal(value) / 1000) for value in values]
    given = {
        "readings": readings,
        "target": "0.02 mm",
        "screw_lead": "3 mm",
        "graduation": "0.01 mm",
        "unit": "mm",
        **more,
    }
    return true_up(TrueUpInput.model_validate(given))


@example([0, 10, 20, 10], 7)
@example([0, 5, 0, 5], 111)
@given(microns, st.integers(-300, 300))
def test_where_the_needle_was_set_to_zero_does_not_matter(values: list[int], zero: int) -> None:
    first, second = of(values), of([value + zero for value in values])
    assert (first.stop, first.total_indicator_reading, first.headline) == (
        second.stop,
        second.total_indicator_reading,
        second.headline,
    )
    assert [(m.drive_jaw, m.move.mm) for m in first.moves] == [(m.drive_jaw, m.move.mm) for m in second.moves]


@given(microns)
def test_opposite_readings_exchanged_turn_every_move_round(values: list[int]) -> None:
    a, b, c, d = values
    first, second = of(values), of([c, d, a, b])
    assert {(m.drive_jaw, m.ease_jaw) for m in first.moves} == {(m.ease_jaw, m.drive_jaw) for m in second.moves}


@given(microns)
def test_a_bore_moves_against_an_outside(values: list[int]) -> None:
    outside, bore = of(values), of(values, surface="bore")
    assert {(m.drive_jaw, m.ease_jaw) for m in outside.moves} == {(m.ease_jaw, m.drive_jaw) for m in bore.moves}


@given(microns)
def test_stop_is_said_only_when_the_offset_is_good_enough(values: list[int]) -> None:
    found = of(values)
    if found.stop is Stop.WORK_NOT_CHUCK:
        assert 2 * found.offset.mm <= found.target.mm
    if found.stop is Stop.TRUE:
        assert found.total_indicator_reading.mm <= found.target.mm
    assert found.steps


@given(st.lists(st.floats(-1, 1), min_size=4, max_size=24))
def test_what_is_taken_away_and_what_is_left_make_the_round(values: list[float]) -> None:
    angles = [360 * index / len(values) for index in range(len(values))]
    found = taken_apart(angles, values)
    assert evenly_spaced(angles)
    assert sum(found.left) / len(values) == pytest.approx(found.mean, abs=1e-9)


@given(st.integers(1, 400), st.integers(0, 359))
def test_the_aimed_readings_of_opposite_jaws_are_opposite(hundredths: int, towards: int) -> None:
    found = throw(ThrowInput(throw=f"{hundredths / 100} mm", diameter="40 mm", towards_deg=towards, unit="mm"))
    one, two, three, four = (reading.reading.mm for reading in found.aimed)
    assert one == -three
    assert two == -four
    assert found.packing.mm > found.total_indicator_reading.mm / 2
