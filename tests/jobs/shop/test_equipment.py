"""What the shop works with, entered by command: who may, what is refused, and what a later row takes over."""

from dataclasses import replace
from decimal import Decimal
from typing import Any
from uuid import UUID, uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, NotDefined
from nomisma.core.fits.shop_rules import shop_rules
from nomisma.core.quantity.length import Length
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.shop.equipment import (
    CheckGiven,
    ChuckGiven,
    InstrumentGiven,
    MachineGiven,
    enter_chuck,
    enter_instrument,
    enter_machine,
    instrument_numbered,
    log_check,
)
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.shop.shop_rules import rules_now, write_rule
from tests.jobs.shop_floor import person


def mm(text: str) -> Length:
    return parse_length(text, "mm", positive=False)


def lathe(**changed: Any) -> MachineGiven:
    return replace(MachineGiven(uuid4(), "Long lathe", "mm", mm("0.02"), "diameter", dial_turn=mm("4")), **changed)


def caliper(**changed: Any) -> InstrumentGiven:
    return replace(
        InstrumentGiven(uuid4(), "Long caliper", "mm", "both", mm("0.01"), mm("0.03"), mm("0.005")), **changed
    )


def test_a_machine_keeps_what_was_typed_and_what_fits_on_it(db: Session) -> None:
    given = lathe(room={"swing_over_bed": mm("330")}, speeds="60 120 240", most_force_n=Decimal(900))
    row = enter_machine(db, given, by=person(db, "orla"))
    assert (row.dial_line_mm, row.dial_line_text, row.dial_turn_mm, row.room) == (
        Decimal("0.02"),
        "0.02",
        4,
        {"swing_over_bed": "330 mm"},
    )


def test_the_same_machine_sent_twice_is_one(db: Session) -> None:
    given = lathe()
    assert enter_machine(db, given, by=person(db, "orla")) is enter_machine(db, given, by=person(db, "orla"))


@pytest.mark.parametrize(
    ("changed", "sentence"),
    [({"dial_turn": mm("0.01")}, "One turn shows less than one line"), ({"speeds": "60, fast"}, "fast"),
        ({"name": " "}, "Nothing was entered")],
)  # fmt: skip
def test_a_machine_that_cannot_be_is_refused(db: Session, changed: dict[str, Any], sentence: str) -> None:
    with pytest.raises(InputError, match=sentence):
        enter_machine(db, lathe(**changed), by=person(db, "orla"))


def test_an_apprentice_sets_nothing_up_and_checks_instruments(db: Session) -> None:
    pim, orla = person(db, "pim"), person(db, "orla")
    row = enter_instrument(db, caliper(), by=orla)
    deeds = (
        lambda: enter_machine(db, lathe(), by=pim),
        lambda: enter_chuck(db, ChuckGiven(uuid4(), "Four-jaw", "mm", mm("4")), by=pim),
        lambda: enter_instrument(db, caliper(), by=pim),
        lambda: write_rule(db, next(iter(shop_rules().values())), by=pim, sent_id=uuid4()),
    )
    for deed in deeds:
        with pytest.raises(NotAllowed):
            deed()
    assert log_check(db, row, CheckGiven(uuid4(), mm("25"), "25.01 25.01"), by=pim).zero_error_mm == Decimal("0.01")


def test_a_later_chuck_carries_on_what_was_learned_of_the_first(db: Session) -> None:
    orla = person(db, "orla")
    first = enter_chuck(db, ChuckGiven(uuid4(), "Four-jaw", "mm", mm("4")), by=orla)
    later = enter_chuck(db, ChuckGiven(uuid4(), "Four-jaw", "mm", mm("4.5"), supersedes_id=first.id), by=orla)
    assert (later.first_id, later.supersedes_id) == (first.id, first.id)
    with pytest.raises(InputError, match="not in the shop"):
        enter_chuck(db, ChuckGiven(uuid4(), "Four-jaw", "mm", mm("4"), supersedes_id=uuid4()), by=orla)


def test_a_changed_instrument_is_found_by_its_first_id(db: Session) -> None:
    orla = person(db, "orla")
    first = enter_instrument(db, caliper(), by=orla)
    enter_instrument(db, caliper(name="Longer caliper"), by=orla, before=first)
    assert instrument_numbered(db, first.id).name == "Longer caliper"
    with pytest.raises(NotDefined, match="no such instrument"):
        instrument_numbered(db, UUID(int=7))


@pytest.mark.parametrize(
    ("changed", "sentence"),
    [
        ({"repeatability": mm("-0.01")}, "never below zero"),
        ({"range_from": mm("50"), "range_to": mm("25")}, "ends before it begins"),
        ({"range_to": mm("0")}, "ends before it begins"),
        ({"kind": "crystal ball"}, "crystal ball"),
    ],
)
def test_an_instrument_that_cannot_be_is_refused(db: Session, changed: dict[str, Any], sentence: str) -> None:
    with pytest.raises(InputError, match=sentence):
        enter_instrument(db, caliper(**changed), by=person(db, "orla"))


def test_a_check_that_is_no_size_says_so_at_its_field(db: Session) -> None:
    row = enter_instrument(db, caliper(), by=person(db, "orla"))
    with pytest.raises(InputError) as refused:
        log_check(db, row, CheckGiven(uuid4(), mm("25"), "about right"), by=person(db, "orla"))
    assert refused.value.field == "read"


def test_a_rule_of_the_shop_is_a_new_version_and_only_one_there_is(db: Session) -> None:
    rule = next(iter(shop_rules().values()))
    write_rule(db, rule.model_copy(update={"note": "ours"}), by=person(db, "bram"), sent_id=uuid4())
    assert rules_now(db)[rule.name].note == "ours"
    with pytest.raises(NotDefined, match="no rule"):
        write_rule(db, rule.model_copy(update={"name": "guess"}), by=person(db, "bram"), sent_id=uuid4())
