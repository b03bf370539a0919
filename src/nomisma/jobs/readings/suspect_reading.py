"""Whether a reading is to be believed: held against what is known before it is written, and asked about where it does
not fit.
"""

from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from uuid import uuid4

from sqlalchemy.orm import Session

from nomisma.core.cutting.amount import line_on_diameter
from nomisma.core.cutting.dialled import Dialled
from nomisma.core.cutting.findings import meant_otherwise
from nomisma.core.errors import InputError
from nomisma.core.fits.partner import LARGEST_SPREAD
from nomisma.core.measuring.conditions import CONDITIONS
from nomisma.core.measuring.misread import MisreadInput, misread
from nomisma.core.part.feature import cut_direction, toward_metal
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Length
from nomisma.jobs.cutting.cutting_run import CuttingRun, cutting_run, expected_size_mm
from nomisma.jobs.readings.instrument_choice import InstrumentChoice
from nomisma.jobs.readings.reading_entry import ReadingEntry
from nomisma.jobs.standing.state import JobState
from nomisma.store import readings
from nomisma.store.models import Account, SuspectReading
from nomisma.store.readings import NEWEST_READINGS, uncertainty_of


class ReadingQuestioned(InputError):
    """A size to be confirmed or typed again; kept either way."""

    def __init__(self, sentence: str, row: SuspectReading) -> None:
        super().__init__(sentence, "Type what you read now, or say that it is so.", field="size", value=row.size_text)
        self.row = row


@dataclass(frozen=True)
class ReadingTaken:
    """An entry with what its texts say, at the feature it is of."""

    session: Session
    state: JobState
    entry: ReadingEntry
    choice: InstrumentChoice
    size: Length
    place: str
    piece: str

    @property
    def made_here(self) -> bool:
        """Whether it is of a feature that is made, not of one at hand."""
        return self.state.in_hand.made_here

    @cached_property
    def run(self) -> CuttingRun:
        """The run of cuts it belongs to, before it is written."""
        return cutting_run(self.session, self.state, self.piece)

    @property
    def dialled_text(self) -> str:
        """What was dialled at the cross-slide, as typed; nothing of a feature it does not cut, or where no cut was
        taken.
        """
        coached = feature_kind(self.state.kind).coached_by == "cross_slide"
        return self.entry.dialled if coached and self.entry.came_off == "cut" else ""

    @property
    def logs_a_cut(self) -> bool:
        """Whether it is known what came off before it: what was dialled, or that it was stone or cloth."""
        return self.made_here and (self.entry.came_off == "stoned" or bool(self.dialled_text))

    def dialled(self) -> Dialled:
        """What was dialled, on diameter; 0 is the same dial again. Raises InputError."""
        return self.run.dialled(self.entry.dialled)


def question_before(session: Session, state: JobState, entry: ReadingEntry) -> SuspectReading | None:
    """What was asked about just before, if this entry answers it: the same size again confirms it."""
    row = session.get(SuspectReading, entry.answers) if entry.answers else None
    return row if row and row.job_id == state.job.id else None


def ask_first(taken: ReadingTaken, *, by: Account) -> None:
    """Ask about a size that is not what was to be expected, or was not taken well; the question is to be kept. Raises
    ReadingQuestioned, InputError.
    """
    before = question_before(taken.session, taken.state, taken.entry)
    if before is None or before.size_mm != taken.size.mm:
        expectation = _expectation(taken)
        found = misread(expectation)
        if found.suspected:  # how far from round it was before only makes that wider
            found = misread(expectation.model_copy(update={"form_seen": _form_seen(taken)}))
        about_dial = _ask_about_the_dial(taken) if taken.made_here else ""
        said = " ".join(CONDITIONS[name] for name in taken.entry.conditions)
        sentence = about_dial or (found.sentence if found.suspected else said)
        if found.suspected and not found.step and not about_dial:
            _check_likely(taken.size, taken.state)  # a wrong unit or a slipped point is no misread
        if sentence:
            raise ReadingQuestioned(sentence, _question(taken, sentence, by))
    _check_likely(taken.size, taken.state)


def _question(taken: ReadingTaken, sentence: str, by: Account) -> SuspectReading:
    size, state = taken.size, taken.state
    return SuspectReading(
        id=uuid4(),
        job_id=state.job.id,
        feature_id=state.feature_id,
        place=taken.place,
        size_mm=size.mm,
        size_text=size.text,
        size_unit=size.unit,
        instrument_id=taken.choice.instrument.id,
        sentence=sentence,
        by_id=by.id,
    )


def _expectation(taken: ReadingTaken) -> MisreadInput:
    """What is known to hold a reading against: other places, the dial, the size before the cut, the limits."""
    state, size, instrument = taken.state, taken.size, taken.choice.instrument
    extremes = state.own_readings.of_piece(taken.piece) if taken.made_here else state.own_readings
    known = [Length(mm, size.unit) for mm in (extremes.smallest_mm, extremes.largest_mm)] if extremes.count else []
    cut = taken.made_here and bool(taken.entry.came_off)
    feature = state.feature
    return MisreadInput(
        kind=state.kind,
        reading=size,
        instrument_unit=instrument.unit,
        uncertainty=Length(uncertainty_of(instrument), size.unit),
        others=[] if cut else known,
        before=known if cut else [],
        expected=_from_the_dial(taken, known) if cut and known else None,
        lower=Length(feature.lower_mm, size.unit) if feature.lower_mm is not None else None,
        upper=Length(feature.upper_mm, size.unit) if feature.upper_mm is not None else None,
    )


def _form_seen(taken: ReadingTaken) -> Length:
    """How far apart the standing readings of one cut of a piece lay at most: work that was oval then is oval now."""
    by_cut: dict[int, list[Decimal]] = {}
    newest = readings.newest_sizes(taken.session, taken.state.feature_id, taken.piece, last=NEWEST_READINGS)
    for cut, size in newest:
        by_cut.setdefault(cut, []).append(size)
    seen_mm = max((max(sizes) - min(sizes) for sizes in by_cut.values()), default=Decimal(0))
    return Length(seen_mm, taken.size.unit)


def _ask_about_the_dial(taken: ReadingTaken) -> str:
    """What the amount dialled may have meant, where what came off fits that and not the amount; empty where nothing
    does.
    """
    if not taken.dialled_text:
        return ""
    run = taken.run
    before, dialled = run.size_mm, run.dialled(taken.dialled_text).total
    if before is None or not dialled.mm:
        return ""
    removed = taken.state.feature.metal_removed(before, taken.size.mm)
    if removed <= 0 or abs(removed - dialled.mm) < dialled.mm / 2:
        return ""
    machine = run.machine
    line = line_on_diameter(machine.dial_line_mm, machine.dial_reads) if machine else Decimal(0)
    words = meant_otherwise(dialled_mm=float(dialled.mm), removed_mm=float(removed), line_mm=float(line))
    took = show_exact(removed, taken.state.unit)
    if not words and taken.entry.as_advised:
        return (
            f"{took} came off, and {taken.dialled_text} was advised: did you dial that? Type what was really dialled."
        )
    if not words:
        return ""
    return (
        f"{took} came off, and {taken.dialled_text} was dialled: that fits if it is {words}. Type what was dialled,"
        " like 28 lines."
    )


def _from_the_dial(taken: ReadingTaken, known: list[Length]) -> Length | None:
    """The size to expect after a cut, where it was said how much was dialled on diameter; by this set-up's cuts if
    there are any.
    """
    if not taken.dialled_text:
        return None
    state, dialled, unit = taken.state, taken.dialled(), taken.choice.instrument.unit
    # A tool touched on anew takes nothing of what the last cut left standing.
    found = None if taken.entry.new_set_up else expected_size_mm(taken.run, dialled)
    if found is not None and found > 0:
        return Length(found, unit)
    middle = (known[0].mm + known[-1].mm) / 2
    expected = middle - cut_direction(state.kind) * dialled.total.mm
    if expected <= 0:
        raise InputError(
            f"A cut of {dialled.total} would leave nothing.", "Give what was dialled on diameter.", field="dialled"
        )
    return Length(expected, unit)


def _check_likely(size: Length, state: JobState) -> None:
    """Asks before a size is believed that is nowhere near what is known of it."""
    extremes, feature, wanted = state.own_readings, state.feature, state.requirement
    if extremes.count:
        _check_spread(size, extremes.smallest_mm, extremes.largest_mm, state)
    elif feature.lower_mm is not None and feature.upper_mm is not None:
        _check_against(size, feature.lower_mm, feature.upper_mm, "the limits")
    elif wanted is not None and wanted.nominal_mm:
        _check_against(size, wanted.nominal_mm, wanted.nominal_mm, "its size")


def _check_spread(size: Length, smallest_mm: Decimal, largest_mm: Decimal, state: JobState) -> None:
    """A partner's size hardly changes from place to place; a part being cut may be far from its last reading, not that
    far.
    """
    if not _readings_lie_near(state):
        return
    share = Decimal("0.5") if state.in_hand.made_here else LARGEST_SPREAD
    if size.mm < smallest_mm * (1 - share) or size.mm > largest_mm * (1 + share):
        seen = Length(largest_mm, size.unit)
        raise InputError(
            f"{size} is far from the other readings (near {seen}).",
            "Check the unit and the decimal point.",
            field="size",
            value=size.text,
        )


def _readings_lie_near(state: JobState) -> bool:
    """Whether readings of the feature in hand lie near each other: not where it may be anything from nothing up, like a
    runout.
    """
    return toward_metal(state.feature.side) != 0 or not state.in_hand.made_here


def _check_against(size: Length, lower_mm: Decimal, upper_mm: Decimal, what: str) -> None:
    if size.mm < lower_mm / 3 or size.mm > upper_mm * 3:
        ends = dict.fromkeys(str(Length(mm, size.unit)) for mm in (lower_mm, upper_mm))
        raise InputError(
            f"{size} is nowhere near {what} ({' to '.join(ends)}).",
            "Check the unit and the decimal point.",
            field="size",
            value=size.text,
        )
