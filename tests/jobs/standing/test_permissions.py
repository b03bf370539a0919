"""What judges a piece changes by whom may, and with a reason; metal does not grow."""

from decimal import Decimal
from uuid import uuid4

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.core.measuring.feature import ReadingGroup, feature_verdict
from nomisma.core.part.feature import Feature, State
from nomisma.jobs.closing.dispositions import DispositionGiven, decide
from nomisma.jobs.closing.handing_over import is_good
from nomisma.jobs.opening.requirements import set_by_line
from nomisma.jobs.readings.reading_log import Correction, log_reading, supersede
from nomisma.jobs.readings.suspect_reading import ReadingQuestioned
from nomisma.jobs.shop.rights import NotAllowed
from nomisma.jobs.standing.state import JobState
from nomisma.store.models import Reading
from tests.jobs.shop_floor import entry, now, opened, person

INSTRUMENT = {"outside_diameter": "0–25 mm", "bore": "Three-point", "length": "0–150", "depth": "0–150"}


def _log(db: Session, state: JobState, size: str, by: str = "orla", *, cut: bool = False) -> Reading:
    """Log a size, and mean it where it is asked about."""
    how = {
        "came_off": "cut" if cut else "",
        "place": state.feature.of_kind.places[0],
        "with_": INSTRUMENT[state.in_hand.row.kind],
    }
    given = entry(db, state, size, **how)
    try:
        return log_reading(db, state, given, by=person(db, by))
    except ReadingQuestioned as error:
        again = entry(db, state, size, answers=error.row.id, **how)
        return log_reading(db, state, again, by=person(db, by))


def _gone_and_grown(db: Session, line: str, gone: str, grown: str) -> JobState:
    state = opened(db, line)
    _log(db, state, gone)
    _log(db, now(db, state), grown, "pim", cut=True)
    return now(db, state)


KINDS = [
    ("od 24 h9", "23.5", "23.98"),
    ("bore 12 H8 thru", "12.4", "12.01"),
    ("length 30 ±0.1", "29.2", "30.02"),
    ("depth 8 ±0.1", "8.6", "8.02"),
]


@pytest.mark.parametrize(("line", "gone", "grown"), KINDS)
def test_what_was_gone_too_far_stays_so_whatever_is_read_after(db: Session, line: str, gone: str, grown: str) -> None:
    state = _gone_and_grown(db, line, gone, grown)
    assert state.verdict is not None
    assert state.verdict.state is State.GONE_TOO_FAR
    assert "was read before the last cut: gone too far." in state.contradicted()
    assert "has more metal, and metal does not grow" in state.contradicted()
    assert not is_good(state)


@pytest.mark.parametrize(("line", "gone", "grown"), KINDS)
def test_withdrawn_with_a_reason_by_a_machinist_the_reading_counts_no_more(
    db: Session, line: str, gone: str, grown: str
) -> None:
    state = _gone_and_grown(db, line, gone, grown)
    first = db.query(Reading).filter_by(feature_id=state.feature_id, cut_number=0).one()
    wrong = Correction(id=uuid4(), what="withdrawn", size="", reason="read the wrong turn of the thimble")
    with pytest.raises(NotAllowed, match="corrected or withdrawn by a machinist or the lead"):
        supersede(db, state, first, wrong, by=person(db, "pim"))
    supersede(db, state, first, wrong, by=person(db, "orla"))
    found = now(db, state)
    assert found.verdict is not None
    assert found.verdict.state is State.IN_LIMITS
    assert found.contradicted() == ""


@pytest.mark.parametrize("kind", ["sleeve", "bond", "remake_partner"])
def test_decided_about_what_is_read_after_counts_anew(db: Session, kind: str) -> None:
    state = opened(db, "od 24 h9")
    _log(db, state, "23.5")
    decide(db, now(db, state), DispositionGiven(uuid4(), kind, "", "there is a way"), by=person(db, "bram"))
    _log(db, now(db, state), "23.98", cut=True)
    found = now(db, state)
    assert found.verdict is not None
    assert found.verdict.state is State.IN_LIMITS


def test_an_apprentice_loosens_no_limits_that_were_read_against(db: Session) -> None:
    state = opened(db, "od 24 h9")
    _log(db, state, "24.6")
    with pytest.raises(NotAllowed, match="are loosened by a machinist or the lead"):
        set_by_line(
            db, now(db, state), "24 ±0.2", based_on=1, by=person(db, "pim"), sent_id=uuid4(), why="it is easier"
        )


def test_a_machinist_loosens_them_with_a_reason(db: Session) -> None:
    state = opened(db, "od 24 h9")
    _log(db, state, "24.6")
    with pytest.raises(InputError, match="looser than the ones A was read against"):
        set_by_line(db, now(db, state), "24 ±0.2", based_on=1, by=person(db, "orla"), sent_id=uuid4())
    row = set_by_line(
        db, now(db, state), "24 ±0.2", based_on=1, by=person(db, "orla"), sent_id=uuid4(), why="drawing B"
    )
    assert (row.version, row.reason) == (2, "drawing B")


def test_tighter_or_not_read_yet_they_change_without_a_word(db: Session) -> None:
    state = opened(db, "od 24 h9")
    set_by_line(db, state, "24 ±0.2", based_on=1, by=person(db, "pim"), sent_id=uuid4())
    _log(db, now(db, state), "24.6")
    row = set_by_line(db, now(db, state), "24 ±0.1", based_on=2, by=person(db, "pim"), sent_id=uuid4())
    assert row.version == 3


DOUBT = Decimal("0.004")
SIZES = st.decimals("23.00", "25.00", places=3)


@given(earlier=st.lists(SIZES, max_size=4), later=st.lists(SIZES, min_size=1, max_size=4))
def test_no_reading_after_the_last_cut_undoes_one_from_before_it(earlier: list[Decimal], later: list[Decimal]) -> None:
    feature = Feature("shaft", Decimal("23.948"), Decimal("24"))
    before, since = ([ReadingGroup(1, size, size, DOUBT) for size in sizes] for sizes in (earlier, later))
    found = feature_verdict(feature, since, earlier=before)
    assert found is not None
    gone = any(feature.judge(size, DOUBT) is State.GONE_TOO_FAR for size in (*earlier, *later))
    assert (found.state is State.GONE_TOO_FAR) == gone
