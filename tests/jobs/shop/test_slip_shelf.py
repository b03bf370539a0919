"""The shop's shelf of slips: who enters it, and that it stays."""

from decimal import Decimal

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.shop.slip_shelf import SlipsOwned, keep_slips, slips_owned
from tests.jobs.shop_floor import person


def test_where_nobody_said_the_usual_set_is_reckoned_with(db: Session) -> None:
    assert len(slips_owned(db, "in").shelf("in").pieces_mm) == 81


def test_each_unit_has_its_shelf_and_the_newest_counts(db: Session) -> None:
    orla = person(db, "orla")
    keep_slips(db, "mm", SlipsOwned("m47", missing="1.005", own="150", wear="2 2", grade="2"), by=orla)
    keep_slips(db, "mm", SlipsOwned("m47", own="150", wear="2 2", grade="0"), by=orla)
    found = slips_owned(db, "mm")
    assert (found.set, found.missing, found.grade) == ("m47", "", "0")
    assert Decimal(150) in found.shelf("mm").pieces_mm
    assert slips_owned(db, "in") == SlipsOwned()


def test_an_apprentice_builds_piles_and_enters_no_shelf(db: Session) -> None:
    with pytest.raises(NotAllowed):
        keep_slips(db, "mm", SlipsOwned("m47"), by=person(db, "pim"))


def test_a_shelf_that_cannot_be_is_not_kept(db: Session) -> None:
    with pytest.raises(InputError, match=r"no 9\.9 mm in the set"):
        keep_slips(db, "mm", SlipsOwned("m47", missing="9.9"), by=person(db, "orla"))
    assert slips_owned(db, "mm") == SlipsOwned()
