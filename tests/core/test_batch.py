"""A batch: every piece judged by its worst reading, the chart, and when it will leave the limits."""

from math import inf
from random import Random
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.measuring.batch import BatchResult
from nomisma.core.part.feature import State
from nomisma.core.registry import calculation_named


def batch_of(*pieces: str | list[str], **more: Any) -> BatchResult:
    rows = [
        {"serial": str(n + 1), "sizes": [f"{size} mm" for size in ([piece] if isinstance(piece, str) else piece)]}
        for n, piece in enumerate(pieces)
    ]
    values = {
        "kind": "shaft",
        "lower": "7.986 mm",
        "upper": "7.995 mm",
        "uncertainty": "0.001 mm",
        "pieces": rows,
        **more,
    }
    found = calculation_named("batch").run(values)
    assert isinstance(found, BatchResult)
    return found


def test_the_worst_reading_speaks_for_its_piece() -> None:
    found = batch_of(["7.990", "7.984"], "7.990")
    assert [piece.state for piece in found.pieces] == [State.GONE_TOO_FAR, State.IN_LIMITS]
    assert str(found.pieces[0].mean) == "7.987 mm"
    assert str(found.pieces[0].deciding) == "7.984 mm"
    assert found.sentence == "1 of 2 in limits. Gone too far: 1."


def test_a_wearing_tool_is_seen_and_its_end_foretold() -> None:
    found = batch_of("7.9880", "7.9884", "7.9889", "7.9891", "7.9896", "7.9900")
    assert found.drift is not None
    assert found.drift.is_real
    assert found.drift.leaves_by == "upper"
    assert found.drift.leaves_in == pytest.approx(12.6, abs=0.6)
    assert "past the upper limit in about 13 pieces" in found.drift_sentence


def test_the_pieces_left_are_held_by_their_interval_as_often_as_it_says() -> None:
    """2,000 batches of eight drifting pieces: the true crossing lies in the stated interval in 95 of 100 (within what
    2,000 show).
    """
    chance = Random(51)
    held = drifting = 0
    for _ in range(2000):
        slope, first, scatter = 0.0008, 7.9885, 0.0006
        pieces = [f"{first + slope * n + chance.gauss(0, scatter):.6f}" for n in range(8)]
        drift = batch_of(*pieces).drift
        assert drift is not None
        if not drift.is_real or drift.leaves_in is None or drift.leaves_in_from is None:
            continue
        drifting += 1
        truly = max((7.995 - first) / slope - 7, 0.0)
        held += drift.leaves_in_from <= truly <= (drift.leaves_in_to or inf)
    assert drifting > 1500
    assert 0.935 <= held / drifting <= 0.97


def test_scatter_is_no_drift() -> None:
    found = batch_of("7.990", "7.991", "7.989", "7.990", "7.991", "7.989")
    assert found.drift_sentence == "No drift that these pieces can show."
    assert found.drift is not None
    assert found.drift.leaves_in is None


def test_a_few_pieces_claim_no_capability() -> None:
    assert batch_of("7.990", "7.991", "7.989").capability is None
    assert batch_of("7.990", "7.990", "7.990", "7.990", "7.990").capability is None


def test_a_piece_apart_wants_a_reason() -> None:
    found = batch_of(*["7.990", "7.9901", "7.9899"] * 5, "7.9935")
    assert found.chart is not None
    assert 15 in found.chart.outside


def test_a_long_run_on_one_side_wants_a_reason() -> None:
    found = batch_of("7.989", "7.991", *["7.9895"] * 8, *["7.992"] * 6)
    assert found.chart is not None
    assert 9 in found.chart.outside


def test_groups_are_charted_by_mean_and_range() -> None:
    found = batch_of("7.990", "7.992", "7.989", "7.991", "7.990", "7.992", subgroup=2)
    assert found.chart is not None
    assert len(found.chart.points_mm) == 3
    assert found.chart.range_centre_mm == pytest.approx(0.002)


@pytest.mark.parametrize(
    ("more", "sentence"),
    [
        ({"lower": "8 mm"}, "is not below the upper limit"),
        (
            {"pieces": [{"serial": "1", "sizes": ["7.99 mm"]}, {"serial": "1", "sizes": ["7.99 mm"]}]},
            "Two pieces have the same serial",
        ),
        ({"pieces": []}, "needs at least 1"),
        ({"subgroup": 11}, "must be 10 or less"),
    ],
)
def test_what_is_no_batch_has_its_sentence(more: dict[str, Any], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        batch_of("7.990", **more)


@given(st.lists(st.integers(7980, 8000), min_size=3, max_size=25))
def test_the_counts_are_of_every_piece(thousandths: list[int]) -> None:
    found = batch_of(*(f"{value / 1000:.3f}" for value in thousandths))
    assert sum(found.counts.values()) == len(thousandths)
    assert found.chart is not None
    assert found.chart.lower_mm <= found.chart.centre_mm <= found.chart.upper_mm
