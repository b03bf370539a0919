"""Kinds of instrument, zero checks, pins, and what pooling and a stale zero do to a reading's worth."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.errors import NotDefined
from nomisma.core.materials.temperature import at_20_c
from nomisma.core.measuring.disposition import DISPOSITIONS
from nomisma.core.measuring.feature import PLANS, planned_places, pooled
from nomisma.core.measuring.instrument_kinds import MEASURES_WORDS, InstrumentKind, instrument_kind, instrument_kinds
from nomisma.core.measuring.misread import MisreadInput, misread
from nomisma.core.measuring.uncertainty import UncertaintyInput, measuring_uncertainty
from nomisma.core.part.feature import State
from nomisma.core.quantity.writing import parse_length
from nomisma.core.registry import calculation_named

every_kind = pytest.mark.parametrize("kind", instrument_kinds().values(), ids=lambda kind: kind.name)


@every_kind
def test_a_kind_has_figures_that_make_an_instrument(kind: InstrumentKind) -> None:
    resolution, error, spread = (
        parse_length(text, kind.unit).mm for text in (kind.resolution, kind.permitted_error, kind.repeatability)
    )
    assert 0 < spread <= resolution * 10
    assert 0 < error < Decimal("0.1")
    assert parse_length(kind.range_from, kind.unit, positive=False).mm < parse_length(kind.range_to, kind.unit).mm
    assert 30 <= kind.check_every_days <= 2000


def test_every_way_of_reading_is_there_and_an_unknown_kind_is_refused() -> None:
    assert {kind.how for kind in instrument_kinds().values()} == {"reads", "transfer", "bracket"}
    assert {kind.measures for kind in instrument_kinds().values()} == set(MEASURES_WORDS)
    with pytest.raises(NotDefined, match="is not a kind of instrument here"):
        instrument_kind("laser")


def check(standard: str, readings: list[str], permitted: str = "0.002 mm") -> Any:
    return calculation_named("zero_check").run(
        {"standard": standard, "readings": readings, "permitted_error": permitted}
    )


def test_a_zero_error_is_the_mean_reading_less_the_standard() -> None:
    found = check("25 mm", ["25.001 mm", "25.002 mm", "25.003 mm"])
    assert str(found.zero_error) == "0.002 mm"
    assert str(found.spread) == "0.002 mm"
    assert found.passed
    assert "is taken off every reading from here on" in found.sentence


def test_beyond_the_permitted_error_it_fails_and_says_what_follows() -> None:
    found = check("0 mm", ["-0.003 mm"])
    assert not found.passed
    assert "Every reading since the last good check is in doubt" in found.sentence


@pytest.mark.parametrize(
    ("readings", "permitted", "sentence"),
    [
        (["26.001 mm"], "0.002 mm", "misread turn or another standard"),
        (["25 mm"], "0 mm", "A permitted error is above zero"),
        ([], "1 mm", "needs at least 1"),
    ],
)
def test_a_check_that_is_none_has_its_sentence(readings: list[str], permitted: str, sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        check("25 mm", readings, permitted)


# Common practice, no source: 0.125 enters and 0.127 does not.
def test_pins_give_a_bracket_and_no_number() -> None:
    found = calculation_named("pin_bracket").run({"go": "0.125 in", "no_go": "0.127 in"})
    assert (str(found.least), str(found.greatest)) == ("0.125 in", "0.127 in")
    assert "where in between, pins cannot say" in found.sentence


@pytest.mark.parametrize(
    ("limits", "state"),
    [(("0.124", "0.128"), State.IN_LIMITS), (("0.126", "0.130"), State.TOO_CLOSE_TO_CALL),
        (("0.128", "0.130"), State.METAL_TO_GO),
     (("0.120", "0.124"), State.GONE_TOO_FAR)],
)  # fmt: skip
def test_a_bracket_is_in_limits_only_as_a_whole(limits: tuple[str, str], state: State) -> None:
    found = calculation_named("pin_bracket").run(
        {"go": "0.125 in", "no_go": "0.127 in", "lower": f"{limits[0]} in", "upper": f"{limits[1]} in"}
    )
    assert found.state is state


@pytest.mark.parametrize(
    ("values", "sentence"),
    [({"go": "0.127 in", "no_go": "0.125 in"}, "is not below the one that does not"),
     ({"go": "0.1 in", "no_go": "0.2 in", "pin_error": "-1 mm"}, "never below zero"),
     ({"go": "0.1 in", "no_go": "0.2 in", "lower": "1 in", "upper": "0.5 in"}, "is not below the upper limit")],
)  # fmt: skip
def test_pins_the_wrong_way_round_are_asked_about(values: dict[str, str], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        calculation_named("pin_bracket").run(values)


def worth(**more: Any) -> Decimal:
    given = {"resolution": "0.001 mm", "permitted_error": "0.002 mm", "repeatability": "0.0005 mm", **more}
    return measuring_uncertainty(UncertaintyInput.model_validate(given)).expanded_uncertainty.mm


@pytest.mark.parametrize(
    "more",
    [
        {"zero": "stale"}, {"zero": "fresh"}, {"standard_error": "0.001 mm"}, {"transfer_repeatability": "0.005 mm"},
        {"size": "100 mm", "temperature_c": 30, "material": "aluminium_6061"},
    ],
)  # fmt: skip
def test_every_cause_makes_a_reading_worth_less(more: dict[str, Any]) -> None:
    assert worth(**more) > worth()


def test_a_stale_zero_is_worse_than_a_fresh_one() -> None:
    assert worth(zero="stale") > worth(zero="fresh")


@given(st.integers(1, 50), st.integers(1, 50))
def test_more_repeats_are_never_worth_less(first: int, more: int) -> None:
    assert worth(repeats=first + more) <= worth(repeats=first)


def test_the_budgets_shares_make_a_whole() -> None:
    found = measuring_uncertainty(
        UncertaintyInput(resolution="0.001 mm", permitted_error="0.002 mm", repeatability="0.0005 mm", zero="fresh")
    )
    assert float(sum(row.share_percent for row in found.budget)) == pytest.approx(100, abs=0.3)
    assert [row.name for row in found.budget if row.shared] == ["Permitted error", "Zero check"]


def test_repeats_that_agree_are_pooled_and_those_that_do_not_speak_for_themselves() -> None:
    sizes = (Decimal("25.001"), Decimal("25.000"), Decimal("25.002"))
    low, high, doubt = pooled(3, *sizes, Decimal("0.003"), Decimal("0.0005"))
    assert low == high == Decimal("25.001")
    assert doubt < Decimal("0.003")
    assert pooled(3, *sizes, Decimal("0.0005"), Decimal("0.0001"))[:2] == (Decimal("25.000"), Decimal("25.002"))
    assert pooled(1, *sizes, Decimal("0.003"), Decimal("0.0005")) == (
        Decimal("25.000"),
        Decimal("25.002"),
        Decimal("0.003"),
    )


# ISO 1: a 50 mm aluminium part at 40 °C is about 0.024 mm longer (23.6 µm/(m·K), handbook).
def test_a_warm_part_is_smaller_at_20_degrees() -> None:
    assert float(50 - at_20_c(Decimal(50), Decimal(40), "aluminium_6061")) == pytest.approx(0.0236, rel=0.01)
    assert at_20_c(Decimal(50), Decimal(20), "mild_steel") == 50


@pytest.mark.parametrize("plan", PLANS)
def test_a_plan_asks_for_places_there_are(plan: str) -> None:
    assert planned_places("bore", plan)[0] == "mouth 0°"
    assert len(set(planned_places("shaft", plan))) == len(PLANS[plan][1])


def test_nothing_is_cut_again_where_metal_is_gone() -> None:
    assert State.GONE_TOO_FAR not in DISPOSITIONS["cut_again"].states


# Common practice, no source: a depth micrometer's thimble covers what has been counted, and its numbers run backwards.
def test_a_hidden_scale_read_the_wrong_way_is_named() -> None:
    found = misread(
        MisreadInput(
            kind="bore",
            reading="0.518 in",
            instrument_unit="in",
            others=["0.507 in"],
            uncertainty="0.0005 in",
            hidden_scale=True,
        )
    )
    assert found.suspected
    assert found.step == "the hidden scale read the wrong way"
    assert found.likely is not None
    assert str(found.likely) == "0.507 in"


def test_a_bracket_is_a_bound_and_no_bell_curve() -> None:
    """Pins of 0.125 and 0.127 in with no error of their own: half of 0.002 in and no more. Source: arithmetic."""
    half = Decimal("0.001") * Decimal("25.4")
    assert worth(half_bracket="0.001 in") == half
    warm = worth(half_bracket="0.001 in", size="3 mm", temperature_c=60, material="aluminium_6061")
    assert half < warm < half + Decimal("0.01")


def test_conformity_of_a_bracket_is_the_share_of_it_between_the_limits() -> None:
    """A quarter of 0.125 to 0.127 lies above 0.1265. Source: arithmetic; JCGM 100:2008, 4.3.7."""
    asked = {
        "kind": "bore",
        "reading": "0.126 in",
        "lower": "0.1250 in",
        "upper": "0.1265 in",
        "uncertainty": "0.001 in",
    }
    verdict = calculation_named("verdict").run({**asked, "half_bracket": "0.001 in"}).model_dump()
    assert verdict["conformity_percent"] == Decimal("75.0")
    whole = {**asked, "lower": "0.1250 in", "upper": "0.1270 in", "half_bracket": "0.001 in"}
    assert calculation_named("verdict").run(whole).model_dump()["state"] == "in_limits"
