"""A feature from all its readings, and what the job needs next."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.measuring.feature import ReadingGroup, feature_verdict, next_step
from nomisma.core.part.feature import SEVERITY, Feature, State
from nomisma.core.part.feature_kinds import KindName

LOW, HIGH, DOUBT = Decimal("24.980"), Decimal("24.993"), Decimal("0.002")


def of(*sizes: str, kind: KindName = "shaft") -> State:
    values = [Decimal(size) for size in sizes]
    found = feature_verdict(Feature(kind, LOW, HIGH), [ReadingGroup(len(values), min(values), max(values), DOUBT)])
    assert found is not None
    return found.state


def test_without_readings_there_is_no_verdict() -> None:
    assert feature_verdict(Feature("shaft", LOW, HIGH), []) is None


@pytest.mark.parametrize(
    ("sizes", "state"),
    [
        (["24.986", "24.987"], State.IN_LIMITS),
        (["24.986", "25.010"], State.METAL_TO_GO),
        (["24.970", "25.010"], State.GONE_TOO_FAR),
        (["24.981", "25.010"], State.TOO_CLOSE_TO_CALL),
        (["24.992", "25.010"], State.METAL_TO_GO),
        (["24.986", "24.992"], State.TOO_CLOSE_TO_CALL),
    ],
)
def test_the_worst_place_speaks(sizes: list[str], state: State) -> None:
    assert of(*sizes) is state


@given(st.lists(st.decimals("24.95", "25.05", places=4), min_size=1, max_size=8))
def test_a_feature_in_limits_has_no_place_outside(sizes: list[Decimal]) -> None:
    if of(*map(str, sizes)) is State.IN_LIMITS:
        assert {Feature("shaft", LOW, HIGH).judge(size, DOUBT) for size in sizes} == {State.IN_LIMITS}


@given(st.lists(st.decimals("24.95", "25.05", places=4), min_size=1, max_size=8))
def test_one_place_gone_is_the_whole_feature_gone(sizes: list[Decimal]) -> None:
    states = {Feature("bore", LOW, HIGH).judge(size, DOUBT) for size in sizes}
    assert (of(*map(str, sizes), kind="bore") is State.GONE_TOO_FAR) == (State.GONE_TOO_FAR in states)


def test_severity_runs_from_nothing_to_do_to_a_decision() -> None:
    assert SEVERITY[0] is State.IN_LIMITS
    assert SEVERITY[-1] is State.GONE_TOO_FAR


STEPS = [
    ({}, ("mate", "Measure the mating part.")),
    ({"partner_known": True}, ("mate", "Choose the fit.")),
    ({"partner_known": True, "limits_set": True}, ("cut", "Cut it, and log the first reading.")),
    (
        {"partner_known": True, "limits_set": True, "readings": 1, "state": State.METAL_TO_GO},
        ("cut", "Metal to go: cut, and measure again."),
    ),
    (
        {"partner_known": True, "limits_set": True, "readings": 3, "state": State.IN_LIMITS},
        ("record", "In limits: check the record and hand over."),
    ),
    (
        {"partner_known": True, "limits_set": True, "readings": 3, "state": State.IN_LIMITS, "assembly_planned": True},
        ("assemble", "In limits: put it together as planned."),
    ),
    (
        {
            "partner_known": True,
            "limits_set": True,
            "readings": 3,
            "state": State.IN_LIMITS,
            "assembly_planned": True,
            "assembled": True,
        },
        ("record", "Together: check the record and hand over."),
    ),
    (
        {"partner_known": True, "limits_set": True, "readings": 3, "state": State.GONE_TOO_FAR},
        ("record", "Gone too far: someone has to decide."),
    ),
    ({"handed_over": True}, ("record", "Handed over.")),
]


@pytest.mark.parametrize(("known", "step"), STEPS)
def test_a_job_moves_along_the_order_of_the_work(known: dict[str, object], step: tuple[str, str]) -> None:
    nothing = {"partner_known": False, "limits_set": False, "readings": 0, "state": None, "handed_over": False}
    assert next_step(**{**nothing, **known}) == step


def test_a_batch_in_limits_goes_on_until_every_piece_is_measured() -> None:
    stage, words = next_step(
        partner_known=True, limits_set=True, readings=3, state=State.IN_LIMITS, handed_over=False, pieces_left=1
    )
    assert (stage, words) == ("measure", "In limits so far: 1 piece is still to be measured.")


def test_a_decision_is_what_comes_next_for_a_part_that_is_out() -> None:
    asked = {"partner_known": True, "limits_set": True, "readings": 3, "handed_over": False}
    assert next_step(**asked, state=State.GONE_TOO_FAR, decided="bond it (Bram)") == (
        "record",
        "Decided: bond it (Bram).",
    )
    assert next_step(**asked, state=State.IN_LIMITS, calibration_failed=True)[0] == "measure"
