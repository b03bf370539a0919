"""The form a reading of a feature is logged with: one form, used on Mate, Cut and Measure."""

from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.errors import InputError
from nomisma.core.materials.material import Material, materials
from nomisma.core.measuring.conditions import CONDITIONS
from nomisma.core.measuring.indirect import WAY_WORDS
from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.quantity.length import Unit
from nomisma.jobs.readings.instrument_choice import InstrumentChoice, instrument_choices, likeliest, offered
from nomisma.jobs.readings.reading_entry import LONGEST_DIALLED, ReadingEntry
from nomisma.jobs.readings.reading_log import Correction, log_reading
from nomisma.jobs.readings.suspect_reading import ReadingQuestioned
from nomisma.jobs.standing.pieces import likely_place, metal_to_go, next_piece, serials
from nomisma.jobs.standing.state import JobState
from nomisma.store import readings
from nomisma.store.checks import newest_check
from nomisma.store.models import InstrumentCheck
from nomisma.store.readings import NEWEST_READINGS, LoggedReading
from nomisma.web.frame.visit import Form, Visit


@dataclass(frozen=True)
class ReadingForm:
    """What the entry form shows: places, the next one proposed, instruments, and what was typed if it was refused."""

    action: str
    unit: Unit
    places: tuple[str, ...]
    place: str
    instruments: list[InstrumentChoice]
    chosen: InstrumentChoice | None
    check: InstrumentCheck | None
    cut: bool
    asks_for_cut: bool
    kind: KindName
    pieces: tuple[str, ...] = ()
    piece: str = ""
    typed: str = ""
    dialled: str = ""
    advised: str = ""
    place_other: str = ""
    temperature: str = ""
    material: str = ""
    not_yet_deburred: bool = False
    error: InputError | None = None

    @property
    def can_be_stoned(self) -> bool:
        """Whether stone or cloth may have taken something off: of an outside."""
        return feature_kind(self.kind).can_be_stoned

    @property
    def may_be_two(self) -> bool:
        """Whether two readings may be given, whose difference counts."""
        return feature_kind(self.kind).taken_as == "difference"

    @property
    def asks_for_dial(self) -> bool:
        """Whether what was dialled at the cross-slide says what came off."""
        return feature_kind(self.kind).coached_by == "cross_slide"

    @property
    def ways(self) -> list[str]:
        """How its size may follow from readings of something else, each as it is written."""
        return [WAY_WORDS[way] for way in feature_kind(self.kind).ways]

    @property
    def instrument_id(self) -> str:
        """What is chosen in the list of instruments."""
        return self.chosen.id if self.chosen else ""

    @property
    def materials(self) -> dict[str, Material]:
        """What the part may be made of."""
        return materials()

    @property
    def conditions(self) -> dict[str, str]:
        """What may be said against a reading."""
        return CONDITIONS

    @property
    def question(self) -> "ReadingQuestioned | None":
        """What is asked before the size last typed is believed."""
        return self.error if isinstance(self.error, ReadingQuestioned) else None


def reading_entry_from(form: Form) -> ReadingEntry:
    """What was sent of one reading, its texts as typed. Raises InputError where a field is no text or far too long."""
    came_off = form.text("cut_since")
    return ReadingEntry(
        id=form.client_id(),
        size=form.text("size", longest=20_000),
        instrument=form.text("instrument_id"),
        place=form.text("place_other", longest=40) or form.text("place"),
        piece=form.text("piece", longest=40),
        came_off="cut" if came_off == "cut" else "stoned" if came_off == "stoned" else "",
        dialled=form.text("dialled", longest=LONGEST_DIALLED) or form.text("as_advised", longest=LONGEST_DIALLED),
        as_advised=bool(form.text("as_advised")) and not form.text("dialled"),
        new_set_up=form.text("new_set_up") == "yes",
        temperature=form.text("temperature_c", longest=20),
        material=form.text("material", longest=40),
        conditions=tuple(name for name in CONDITIONS if form.text(f"condition_{name}") == "yes"),
        answers=next(
            (form.id(name) for name in ("suspect_id", "doubt_id") if form.text(name)), None
        ),  # doubt_id: sent by a page of before
    )


def correction_from(form: Form) -> Correction:
    """What was sent to supersede a reading. Raises InputError."""
    return Correction(
        id=form.client_id(),
        what="withdrawn" if form.text("what") == "withdraw" else "corrected",
        size=form.text("size", longest=20_000),
        reason=form.text("reason", longest=300),
    )


def form_for(
    visit: Visit,
    state: JobState,
    log: list[LoggedReading],
    *,
    action: str,
    piece: str | None = None,
    typed: Form | None = None,
    error: InputError | None = None,
) -> ReadingForm:
    """The form for the next reading, with what is most likely in it; what was typed before an error comes back.

    `piece`: the one it is about, where the page says; else the one at hand.
    """
    kind, made_here = state.kind, state.in_hand.made_here
    standing = [item for item in log if item.stands]
    if piece is None or not made_here:
        piece = next_piece(state, standing) if made_here else ""
    of_piece = [item for item in standing if item.row.piece == piece]
    cut = made_here and metal_to_go(state, piece)
    every = instrument_choices(visit.db, kind)
    choices = offered(every, state.unit, _sizes_mm(state, of_piece))
    chosen = likeliest(
        choices, _last_choice(standing), state.unit, _about_mm(state, of_piece), usual=feature_kind(kind).usual
    )
    place = likely_place(state, of_piece, same=cut)
    if typed is not None:
        chosen = next((choice for choice in every if choice.id == typed.shown("instrument_id")), chosen)
        place = typed.shown("place") or place
        cut = typed.shown("cut_since") == "cut"
        piece = typed.shown("piece") or piece
    return ReadingForm(
        action=action,
        unit=chosen.unit if chosen else state.unit,
        places=feature_kind(kind).places,
        place=place,
        instruments=choices,
        chosen=chosen,
        check=newest_check(visit.db, chosen.instrument.first_id) if chosen else None,
        cut=cut,
        asks_for_cut=made_here and bool(of_piece),
        kind=kind,
        pieces=serials(state) if made_here else (),
        piece=piece,
        typed=typed.shown("size") if typed and not isinstance(error, ReadingQuestioned) else "",
        dialled=typed.shown("dialled") if typed else "",
        place_other=typed.shown("place_other") if typed else "",
        temperature=typed.shown("temperature_c") if typed else "",
        material=(
            typed.shown("material")
            if typed
            else next((i.row.material for i in reversed(standing) if i.row.material), "")
        ),
        not_yet_deburred=bool(of_piece) and "burr" in of_piece[-1].row.conditions.split(","),
        error=error,
    )


def _sizes_mm(state: JobState, of_piece: list[LoggedReading]) -> list[Decimal]:
    """What may be read next, mm: what was read last of the piece, and what it is made to; nothing where a difference
    counts.
    """
    about, target = _about_mm(state, of_piece), state.feature.target_mm
    return [mm for mm in (about, target) if mm is not None and about is not None]


def _last_choice(standing: list[LoggedReading]) -> str:
    if not standing:
        return ""
    row = standing[-1].row
    return f"{row.instrument_id}+{row.transfer_id}" if row.transfer_id else str(row.instrument_id)


def _about_mm(state: JobState, of_piece: list[LoggedReading]) -> Decimal | None:
    """About what is to be measured next (mm): the newest reading, else what it is to become; not known before either.

    What lies between two readings says nothing of where they are.
    """
    if feature_kind(state.kind).taken_as == "difference":
        return None
    if of_piece:
        return of_piece[-1].row.size_mm
    wanted = state.requirement
    return state.feature.target_mm or (wanted.nominal_mm if wanted else None)


def feature_log(visit: Visit, state: JobState) -> list[LoggedReading]:
    """The newest readings of the feature in hand, oldest of them first."""
    return readings.log(visit.db, state.feature_id, last=NEWEST_READINGS)


def log_from(visit: Visit, state: JobState, form: Form) -> None:
    """Log a reading as it was sent; what is asked about instead is kept as well. An answer behind it is read by its
    version again. Raises InputError.
    """
    try:
        log_reading(visit.db, state, reading_entry_from(form), by=visit.account, write=visit.together.write)
    except ReadingQuestioned:
        visit.db.commit()
        raise
    visit.db.commit()
    if visit.request.headers.get("hx-request"):  # the answer is the page itself
        visit.look_again(state.job.number)
