"""A partner by its readings or by a callout, never by both or neither."""

from decimal import Decimal

import pytest

from nomisma.core.errors import InputError
from nomisma.core.fits.partner import PartnerInput, partner_from


def test_readings_give_its_extremes() -> None:
    found = partner_from(
        PartnerInput(kind="bore", readings=["25.012 mm", "25.004 mm", "25.008 mm"], uncertainty="0.002 mm")
    )
    assert (found.smallest_mm, found.largest_mm, found.uncertainty_mm) == (
        Decimal("25.004"),
        Decimal("25.012"),
        Decimal("0.002"),
    )


def test_a_callout_gives_its_limits_without_uncertainty() -> None:
    found = partner_from(PartnerInput(kind="bore", callout="25 H7"))
    assert (found.smallest_mm, found.largest_mm, found.uncertainty_mm) == (Decimal("25.000"), Decimal("25.021"), 0)


def test_what_is_made_is_the_other_member() -> None:
    assert partner_from(PartnerInput(kind="bore", callout="25 H7")).made_kind == "shaft"
    assert partner_from(PartnerInput(kind="shaft", callout="25 g6")).made_kind == "bore"


@pytest.mark.parametrize("given", [{}, {"callout": "25 H7", "readings": ["25.01 mm"]}])
def test_both_or_neither_is_refused(given: dict[str, object]) -> None:
    with pytest.raises(InputError):
        partner_from(PartnerInput.model_validate({"kind": "bore", **given}))


def test_readings_that_cannot_be_of_one_part_are_refused() -> None:
    with pytest.raises(InputError):
        partner_from(PartnerInput(kind="bore", readings=["25.01 mm", "2.501 mm"]))
