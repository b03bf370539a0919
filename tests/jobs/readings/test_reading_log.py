"""Logging a reading by the command that form, table and gauge all come through."""

from dataclasses import replace
from decimal import Decimal
from uuid import uuid4

import pytest
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, NotDefined, OutOfRange
from nomisma.jobs.closing.handing_over import hand_over
from nomisma.jobs.opening.requirements import withdraw
from nomisma.jobs.readings.reading_log import Correction, log_reading, supersede
from nomisma.jobs.readings.suspect_reading import ReadingQuestioned
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.standing.state import JobState, Withdrawn
from nomisma.store.append import HandedOver
from nomisma.store.measuring_method import method_of
from tests.jobs.shop_floor import entry, now, opened, person

MICROMETER = "0–150"


@pytest.fixture
def spacer(db: Session) -> JobState:
    """28 ±0.1 and a length, nothing measured yet."""
    return opened(db, "28 ±0.1\nlength 40 ±0.2")


def test_a_reading_is_kept_as_typed_with_its_limits(db: Session, spacer: JobState) -> None:
    row = log_reading(db, spacer, entry(db, spacer, "28,02", with_=MICROMETER), by=person(db, "orla"))
    assert (row.size_text, row.size_mm, row.size_unit) == ("28,02", Decimal("28.02"), "mm")
    assert spacer.limits
    assert row.limits_id == spacer.limits.id


def test_the_same_entry_sent_twice_is_one_reading(db: Session, spacer: JobState) -> None:
    sent = entry(db, spacer, "28.02", with_=MICROMETER)
    assert log_reading(db, spacer, sent, by=person(db, "orla")) is log_reading(db, spacer, sent, by=person(db, "orla"))


def test_a_size_that_is_no_number_writes_nothing(db: Session, spacer: JobState) -> None:
    with pytest.raises(InputError) as refused:
        log_reading(db, spacer, entry(db, spacer, "twenty-eight", with_=MICROMETER), by=person(db, "orla"))
    assert (refused.value.field, now(db, spacer).own_readings.count) == ("size", 0)


def test_a_misread_is_asked_about_and_the_same_again_confirms_it(db: Session, spacer: JobState) -> None:
    orla = person(db, "orla")
    log_reading(db, spacer, entry(db, spacer, "28.02", with_=MICROMETER), by=orla)
    suspect = entry(db, spacer, "28.52", with_=MICROMETER, place="90°")
    with pytest.raises(ReadingQuestioned, match="off by one turn of the thimble it would be 28.020 mm") as asked:
        log_reading(db, now(db, spacer), suspect, by=orla)
    assert now(db, spacer).own_readings.count == 1
    log_reading(db, now(db, spacer), replace(suspect, id=uuid4(), answers=asked.value.row.id), by=orla)
    assert now(db, spacer).own_readings.count == 2


def test_a_size_nowhere_near_the_limits_is_refused(db: Session, spacer: JobState) -> None:
    with pytest.raises(InputError, match="nowhere near the limits"):
        log_reading(db, spacer, entry(db, spacer, "2.802", with_=MICROMETER), by=person(db, "orla"))


def test_what_an_instrument_cannot_reach_is_refused(db: Session) -> None:
    state = opened(db, "180 ±0.1")
    with pytest.raises(OutOfRange, match="is outside what"):
        log_reading(db, state, entry(db, state, "180.02", with_=MICROMETER), by=person(db, "orla"))


def test_nothing_is_logged_of_a_feature_that_is_withdrawn(db: Session, spacer: JobState) -> None:
    withdraw(db, spacer, reason="drawn wrong", by=person(db, "bram"), sent_id=uuid4())
    with pytest.raises(Withdrawn):
        log_reading(db, now(db, spacer), entry(db, spacer, "28.02", with_=MICROMETER), by=person(db, "orla"))


def test_nothing_is_logged_of_a_job_that_is_handed_over(db: Session, spacer: JobState) -> None:
    hand_over(db, spacer, "scrapped: wrong bar", by=person(db, "bram"), sent_id=uuid4())
    with pytest.raises(HandedOver):
        log_reading(db, now(db, spacer), entry(db, spacer, "28.02", with_=MICROMETER), by=person(db, "orla"))


def test_a_temperature_needs_a_material(db: Session, spacer: JobState) -> None:
    warm = entry(db, spacer, "28.02", with_=MICROMETER, temperature="35")
    with pytest.raises(InputError, match="what the part is made of"):
        log_reading(db, spacer, warm, by=person(db, "orla"))
    with pytest.raises(NotDefined):
        log_reading(db, spacer, replace(warm, material="cheese"), by=person(db, "orla"))


def test_a_correction_supersedes_and_keeps_the_first(db: Session, spacer: JobState) -> None:
    orla = person(db, "orla")
    first = log_reading(db, spacer, entry(db, spacer, "28.02", with_=MICROMETER), by=orla)
    given = Correction(id=uuid4(), what="corrected", size="28.03", reason="read the wrong line")
    row = supersede(db, now(db, spacer), first, given, by=orla)
    assert (row.supersedes_id, row.size_mm, first.size_mm) == (first.id, Decimal("28.03"), Decimal("28.02"))
    assert now(db, spacer).own_readings.count == 1


def test_an_apprentice_does_not_correct_what_is_gone_too_far(db: Session, spacer: JobState) -> None:
    row = log_reading(db, spacer, entry(db, spacer, "27.70", with_=MICROMETER), by=person(db, "pim"))
    given = Correction(id=uuid4(), what="withdrawn", size="", reason="I would rather not")
    with pytest.raises(NotAllowed, match="gone too far"):
        supersede(db, now(db, spacer), row, given, by=person(db, "pim"))


def test_a_runout_is_the_difference_of_the_highest_and_the_lowest(db: Session) -> None:
    state = opened(db, "runout 0.02")
    sent = entry(db, state, "0.012 mm -0.005 mm", place="near end")
    row = log_reading(db, state, sent, by=person(db, "orla"))
    assert (row.size_mm, row.size_text) == (Decimal("0.017"), "0.012 mm -0.005 mm")
    once = log_reading(db, now(db, state), entry(db, state, "0.017 mm", place="middle"), by=person(db, "orla"))
    assert row.uncertainty_mm is not None
    assert once.uncertainty_mm is None or row.uncertainty_mm > once.uncertainty_mm


def test_two_readings_of_a_size_are_no_size(db: Session, spacer: JobState) -> None:
    with pytest.raises(InputError):
        log_reading(db, spacer, entry(db, spacer, "28.02 28.01", with_=MICROMETER), by=person(db, "orla"))


def test_a_taper_is_two_diameters_whatever_the_zero_is(db: Session) -> None:
    state = opened(db, "taper 1:20 over 50 ±0.1")
    row = log_reading(db, state, entry(db, state, "25.00 22.53", with_=MICROMETER), by=person(db, "orla"))
    assert row.size_mm == Decimal("2.47")
    corrected = Correction(id=uuid4(), what="corrected", size="25.00 22.50", reason="misread")
    assert supersede(db, now(db, state), row, corrected, by=person(db, "orla")).size_mm == Decimal("2.5")


def test_each_of_two_readings_must_be_in_the_instruments_reach(db: Session) -> None:
    state = opened(db, "taper 1:20 over 40 ±0.1")
    large = "25–50 mm micrometer"
    row = log_reading(db, state, entry(db, state, "32.00 30.02", with_=large), by=person(db, "orla"))
    assert row.size_mm == Decimal("1.98")
    with pytest.raises(OutOfRange, match="24 mm is outside what 25–50 mm micrometer"):
        log_reading(db, now(db, state), entry(db, state, "26.00 24", with_=large, place="90°"), by=person(db, "orla"))


def test_an_indicators_range_is_how_far_it_goes_wherever_its_zero_is(db: Session) -> None:
    state = opened(db, "runout 0.5")
    sent = entry(db, state, "-0.100 mm -0.350 mm", place="middle")
    assert log_reading(db, state, sent, by=person(db, "orla")).size_mm == Decimal("0.25")


SLIPS = "Slips, metric"


def test_a_groove_is_as_wide_as_the_slips_that_just_go_in(db: Session) -> None:
    """Three pieces: the set's own ± 0.3 µm counts √3 times."""
    state = opened(db, "groove 12.225 ±0.02 wide")
    row = log_reading(db, state, entry(db, state, "10 + 1.22 + 1.005", with_=SLIPS), by=person(db, "orla"))
    assert (row.size_mm, row.size_text) == (Decimal("12.225"), "10 + 1.22 + 1.005")
    one = log_reading(db, now(db, state), entry(db, state, "12.225", with_=SLIPS, place="90°"), by=person(db, "orla"))
    alone = method_of(db, one).budget(one.size_mm).expanded_uncertainty.mm
    assert row.uncertainty_mm is not None
    assert abs(row.uncertainty_mm - alone * Decimal(3).sqrt()) < Decimal("1e-6")


def test_a_taper_over_rollers_is_read_back_as_it_was_taken(db: Session) -> None:
    state = opened(db, "taper 1:20 over 60 ±0.1")
    row = log_reading(
        db, state, entry(db, state, "rollers 44.5 47 on 50 over 60", with_=MICROMETER), by=person(db, "orla")
    )
    assert row.size_mm == 3
    assert row.uncertainty_mm == method_of(db, row).budget(row.size_mm).expanded_uncertainty.mm.quantize(
        Decimal("1e-9")
    )
    corrected = Correction(id=uuid4(), what="corrected", size="rollers 44.5 46.95 on 50 over 60", reason="misread")
    assert supersede(db, now(db, state), row, corrected, by=person(db, "orla")).size_mm == Decimal("2.94")


@pytest.mark.parametrize(
    ("line", "size", "with_", "field", "sentence"),
    [
        ("groove 12.225 ±0.02 wide", "10 + 2.225", MICROMETER, "instrument_id", "A pile is what slips are"),
        ("28 ±0.1", "rollers 44.5 47 on 50 over 60", MICROMETER, "size", "no way to measure"),
        ("od 125 ±0.1", "over 320 rollers 60", MICROMETER, "size", "320 mm is outside what 0–150"),
        ("groove 12.225 ±0.02 wide", "10 + x", SLIPS, "size", "not understood as a size"),
    ],
)
def test_a_way_that_does_not_lead_there_writes_nothing(
    db: Session, line: str, size: str, with_: str, field: str, sentence: str
) -> None:
    state = opened(db, line)
    with pytest.raises(InputError, match=sentence) as refused:
        log_reading(db, state, entry(db, state, size, with_=with_), by=person(db, "orla"))
    assert (refused.value.field, now(db, state).own_readings.count) == (field, 0)


def test_a_correction_takes_no_way_that_does_not_lead_there(db: Session, spacer: JobState) -> None:
    row = log_reading(db, spacer, entry(db, spacer, "28.02", with_=MICROMETER), by=person(db, "orla"))
    given = Correction(id=uuid4(), what="corrected", size="20 + 8", reason="misread")
    with pytest.raises(InputError, match="no way to measure"):
        supersede(db, now(db, spacer), row, given, by=person(db, "orla"))
