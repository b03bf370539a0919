"""What stands at the door of a calculation besides lengths: roughness, temperature."""

from decimal import Decimal

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.speeds import SpeedsResult
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.number import number_from
from nomisma.core.quantity.fields import roughness_um
from nomisma.core.quantity.length import Unit
from nomisma.core.registry import calculation_named


@pytest.mark.parametrize(
    ("typed", "unit", "kept"),
    [("63", "in", "1.6"), ("1.6 µm", "in", "1.6"), ("1,6", "mm", "1.6"), ("63 uin", "mm", "1.6")],
)
def test_a_finish_is_read_in_the_jobs_unit(typed: str, unit: Unit, kept: str) -> None:
    """63 µin are 1.6 µm. Source: ASME B46.1, the usual pairs."""
    assert roughness_um(typed, unit) == Decimal(kept)


@pytest.mark.parametrize("typed", ["smooth", "0", "-1", "101", "5000 uin"])
def test_what_is_no_finish_is_refused(typed: str) -> None:
    with pytest.raises(OutOfRange):
        roughness_um(typed, "mm")


def test_a_worksheet_takes_a_finish_in_microinches() -> None:
    run = calculation_named("speeds").run
    inch, metric = (
        run({"diameter": "1 in", "nose_radius": "0.031 in", "ra_um": finish}) for finish in ("63 µin", "1.6")
    )
    assert isinstance(inch, SpeedsResult)
    assert isinstance(metric, SpeedsResult)
    assert inch.feed_for_ra == metric.feed_for_ra is not None


@pytest.mark.parametrize("text", ["1e999999", "-1e999999", "1e-999999", "nan", "inf", "²", "١٢", "1_000", "9" * 60, ""])
def test_a_number_no_shop_knows_is_refused_before_it_is_worked_with(text: str) -> None:
    with pytest.raises(InputError):
        number_from(text)
    with pytest.raises(BadInput):
        calculation_named("costed_aim").run({**calculation_named("costed_aim").example, "rework_cost": text})


def test_only_twenty_sentences_are_told_of_a_thousand_wrong_pieces() -> None:
    pieces = [{"serial": str(number), "sizes": ["cheese"]} for number in range(400)]
    with pytest.raises(BadInput) as refused:
        calculation_named("batch").run({**calculation_named("batch").example, "pieces": pieces})
    assert len(refused.value.errors) == 21
    assert "And 380 more fields" in refused.value.errors[-1].sentence


@pytest.mark.parametrize("spoilt", ["\ud800", "a\x00b"])
def test_text_that_is_no_text_is_refused_at_any_depth(spoilt: str) -> None:
    with pytest.raises(BadInput, match="no text"):
        calculation_named("batch").run(
            {**calculation_named("batch").example, "pieces": [{"serial": spoilt, "sizes": ["1 mm"]}]}
        )
