"""A chain of lengths: its end at the worst and likely, and what to tighten."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.lengths.chain import ChainResult
from nomisma.core.registry import calculation_named


def chain(links: str, **given: Any) -> ChainResult:
    found = calculation_named("chain").run({"links": links, **given})
    assert isinstance(found, ChainResult)
    return found


tenths = st.decimals("6", "90", places=1)
links = st.lists(st.tuples(st.booleans(), tenths, st.decimals("0.01", "0.4", places=2)), min_size=2, max_size=8)


def written(parts: list[tuple[bool, Decimal, Decimal]]) -> str:
    return "\n".join(f"{'- ' if back else ''}{size} ±{half}" for back, size, half in parts)


@given(links)
def test_no_draw_ever_leaves_the_worst_case_and_the_likely_lies_within(
    parts: list[tuple[bool, Decimal, Decimal]],
) -> None:
    found = chain(written(parts))
    assert found.least.mm <= found.simulated_least.mm
    assert found.simulated_greatest.mm <= found.greatest.mm
    assert found.least.mm <= found.likely_least.mm <= found.likely_greatest.mm <= found.greatest.mm


@given(links)
def test_the_worst_case_is_all_links_at_the_worse_end(parts: list[tuple[bool, Decimal, Decimal]]) -> None:
    found = chain(written(parts))
    assert found.least.mm == sum((-(size + half) if back else size - half) for back, size, half in parts)
    assert found.greatest.mm == sum((-(size - half) if back else size + half) for back, size, half in parts)


@given(links)
def test_tightened_all_alike_it_just_closes(parts: list[tuple[bool, Decimal, Decimal]]) -> None:
    open_end = chain(written(parts))
    middle = (open_end.least.mm + open_end.greatest.mm) / 2
    room = (open_end.greatest.mm - open_end.least.mm) / 4
    found = chain(written(parts), closing=f"{middle - room:.6f}/{middle + room:.6f}")
    assert found.closes is False
    assert abs(sum((one.tightened.mm for one in found.links if one.tightened), Decimal(0)) - room) < Decimal("1e-5")


def test_three_faces_one_from_the_next_may_be_three_times_out() -> None:
    """Trade notes, 9: each ± 0.001 in, chained 0.003 out; from one face each keeps its own."""
    found = chain("1.000 ±.001\n.500 ±.001\n.750 ±.001", unit="in")
    assert (str(found.least), str(found.greatest)) == ("2.247 in", "2.253 in")
    assert "it keeps its own ±1.00 thou" in " ".join(found.notes)


def test_the_link_with_most_to_give_is_named_with_how_much() -> None:
    found = chain("housing 40 ±0.1\n- shoulder 25 ±0.05\n- ring 14.6 ±0.05", closing="0.25/0.55")
    assert "Tighten housing from ±100.0 µm to ±50.0 µm" in " ".join(found.notes)


def test_a_reading_is_as_it_is_and_is_not_tightened() -> None:
    found = chain("40 ±0.1\n- 25.03\n- 14.6 ±0.1", closing="0.3/0.4", reading_uncertainty="0.005 mm")
    assert found.links[1].tightened is None
    assert found.links[1].upper.mm - found.links[1].lower.mm == Decimal("0.010")


def test_a_middle_that_is_off_is_shifted_not_tightened() -> None:
    found = chain("40 ±0.1\n- 25 ±0.05", closing="15.0/15.4")
    assert "shift one nominal" in " ".join(found.notes)
    assert all(one.tightened is None for one in found.links)


def test_a_unit_behind_the_closing_limits_stands_for_both() -> None:
    assert chain("40 ±0.1 mm\n- 39.6 ±0.05 mm", closing="0.2/0.6 mm", unit="in").closes


@pytest.mark.parametrize(
    ("given", "field", "sentence"),
    [
        ({"links": "40 ±0.1"}, "links", "at least two links"),
        ({"links": "40 ±0.1\nflat"}, "links", "is no link"),
        ({"links": "40 ±0.1\n- 0.05 ±0.1"}, "links", "zero or below"),
        ({"links": "\n".join(["1 ±0.1"] * 41)}, "links", "41 links"),
        ({"links": "40 ±0.1\n- 25", "closing": "15"}, "closing", "one size"),
        ({"links": "40 ±0.1\n- 25", "closing": "tight/loose"}, "closing", "not understood"),
    ],
)
def test_what_is_no_chain_has_its_sentence(given: dict[str, str], field: str, sentence: str) -> None:
    with pytest.raises(BadInput) as refused:
        calculation_named("chain").run(given)
    assert refused.value.errors[0].field == field
    assert sentence in refused.value.errors[0].sentence


FACES = "A-B 40 ±0.1\nA-C 65 ±0.05\nC-D 14.6 +0/-0.1"


def test_two_faces_of_different_datums_are_joined_through_all_between_them() -> None:
    """B to D by hand: −40.1 + 64.95 + 14.5 = 39.35 and −39.9 + 65.05 + 14.6 = 39.75."""
    found = chain(FACES, between="B-D")
    assert (str(found.least), str(found.greatest)) == ("39.35 mm", "39.75 mm")
    assert [(one.name, one.points_back) for one in found.links] == [("A–B", True), ("A–C", False), ("C–D", False)]


def test_dimensions_the_chain_does_not_need_are_named() -> None:
    assert "Not in this chain: A–B." in chain(FACES, between="A-D").notes


def test_a_face_fixed_twice_over_is_said() -> None:
    found = chain(FACES + "\nB-C 25 ±0.1", between="B-D")
    assert any(note.startswith("B–C: the others give that already") for note in found.notes)


@pytest.mark.parametrize(
    ("links", "between", "problem"),
    [
        (FACES, "A-B", "A to B is one dimension, no chain"),
        (FACES, "A-X", "No dimension goes to a face X"),
        (FACES, "A to D", "is not two faces"),
        (FACES, "A-A", "From A to itself is no chain"),
        (FACES + "\nE-F 3", "A-F", "No dimensions lead from A to F"),
        (FACES + "\n- 25", "A-D", "“- 25” is no dimension between two faces"),
        ("A-A 40 ±0.1", "", "A dimension from A to itself"),
        ("40 ±0.1\n- 30", "A-B", "is no dimension between two faces"),
    ],
)
def test_faces_that_make_no_chain_are_refused_with_their_sentence(links: str, between: str, problem: str) -> None:
    with pytest.raises(BadInput, match=problem):
        chain(links, between=between)
