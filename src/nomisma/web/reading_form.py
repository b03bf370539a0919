"""The form a reading of a feature is logged with: one form, used on Mate, Cut and Measure."""

from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.errors import InputError
from nomisma.core.materials.material import Material, materials
from nomisma.core.measuring.conditions import CONDITIONS
from nomisma.core.measuring.feature import planned_places
from nomisma.core.measuring.misread import MisreadResult
from nomisma.core.part.feature import State
from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.quantity.length import Unit
from nomisma.jobs.state import JobState
from nomisma.store import readings
from nomisma.store.checks import newest_check
from nomisma.store.models import InstrumentCheck, ReadingDoubt
from nomisma.store.readings import LoggedReading
from nomisma.web.at_hand import AtHand, at_hand, likeliest
from nomisma.web.visit import Form, Visit

SHOWN_READINGS = 24


@dataclass(frozen=True)
class ReadingForm:
    """What the entry form shows: places, the next one proposed, instruments, and what was typed if it was refused."""

    action: str
    unit: Unit
    places: tuple[str, ...]
    place: str
    instruments: list[AtHand]
    chosen: AtHand | None
    check: InstrumentCheck | None
    cut: bool
    asks_for_cut: bool
    kind: KindName
    pieces: tuple[str, ...] = ()
    piece: str = ""
    typed: str = ""
    dialled: str = ""
    place_other: str = ""
    temperature: str = ""
    material: str = ""
    error: InputError | None = None

    @property
    def can_be_stoned(self) -> bool:
        """Whether stone or cloth may have taken something off: of an outside."""
        return feature_kind(self.kind).name == "outside_diameter"

    @property
    def asks_for_dial(self) -> bool:
        """Whether what was dialled at the cross-slide says what came off."""
        return feature_kind(self.kind).coached_by == "cross_slide"

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
    def doubt(self) -> "Doubted | None":
        """What is asked before the size last typed is believed."""
        return self.error if isinstance(self.error, Doubted) else None


class Doubted(InputError):
    """A size to be confirmed or typed again; kept either way."""

    def __init__(self, sentence: str, row: ReadingDoubt) -> None:
        super().__init__(sentence, "Type what you read now, or say that it is so.", field="size", value=row.size_text)
        self.row = row

    @classmethod
    def of(cls, found: MisreadResult, row: ReadingDoubt) -> "Doubted":
        """From a suspected misread."""
        return cls(found.sentence, row)


def form_for(
    visit: Visit,
    state: JobState,
    log: list[LoggedReading],
    *,
    action: str,
    typed: Form | None = None,
    error: InputError | None = None,
) -> ReadingForm:
    """The form for the next reading, with what is most likely in it; what was typed before an error comes back."""
    kind, made_here = state.kind, state.in_hand.made_here
    choices = at_hand(visit, kind)
    standing = [item for item in log if item.stands]
    piece = _next_piece(state, standing) if made_here else ""
    of_piece = [item for item in standing if item.row.piece == piece]
    cut = made_here and _metal_to_go(state, piece)
    chosen = likeliest(
        choices, _last_choice(standing), state.unit, _about_mm(state, of_piece), usual=feature_kind(kind).usual
    )
    place = _likely_place(state, of_piece, same=cut)
    if typed is not None:
        chosen = next((choice for choice in choices if choice.id == typed.shown("instrument_id")), chosen)
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
        typed=typed.shown("size") if typed and not isinstance(error, Doubted) else "",
        dialled=typed.shown("dialled") if typed else "",
        place_other=typed.shown("place_other") if typed else "",
        temperature=typed.shown("temperature_c") if typed else "",
        material=typed.shown("material")
        if typed
        else next((i.row.material for i in reversed(standing) if i.row.material), ""),
        error=error,
    )


def serials(state: JobState) -> tuple[str, ...]:
    """The pieces of a batch by number, and any other serial something was logged under; none for a single piece."""
    if not state.is_batch:
        return ()
    numbered = [str(number + 1) for number in range(state.standing.pieces_wanted)]
    return tuple(dict.fromkeys([*numbered, *(piece for piece in state.own_readings.pieces if piece)]))


def _last_choice(standing: list[LoggedReading]) -> str:
    if not standing:
        return ""
    row = standing[-1].row
    return f"{row.instrument_id}+{row.transfer_id}" if row.transfer_id else str(row.instrument_id)


def _metal_to_go(state: JobState, piece: str) -> bool:
    found = state.verdict_of(state.own_readings.of_piece(piece))
    return found is not None and found.state is State.METAL_TO_GO


def plan_of(state: JobState) -> tuple[str, ...]:
    """The places that are to be read of one piece: the job's plan; without one all, of a batch's piece one."""
    return planned_places(state.kind, state.standing.plan or ("one" if state.is_batch else "full"))


def _next_piece(state: JobState, standing: list[LoggedReading]) -> str:
    """The piece at hand; the next one once its plan is done and no metal is left to take."""
    known = serials(state)
    if not known:
        return ""
    last = standing[-1].row.piece if standing else known[0]
    read = {group.place for group in state.own_readings.of_piece(last).groups}
    if last not in known or not set(plan_of(state)) <= read or _metal_to_go(state, last):
        return last
    measured = set(state.own_readings.pieces)
    return next((piece for piece in known if piece not in measured), last)


def _about_mm(state: JobState, of_piece: list[LoggedReading]) -> Decimal | None:
    """About what is to be measured next (mm): the newest reading, else what it is to become; not known before either."""
    if of_piece:
        return of_piece[-1].row.size_mm
    wanted = state.requirement
    return state.feature.target_mm or (wanted.nominal_mm if wanted else None)


def _likely_place(state: JobState, of_piece: list[LoggedReading], *, same: bool) -> str:
    """After a cut the place read last, to see what came off; else the next place of the plan not read since."""
    plan = plan_of(state)
    if not of_piece:
        return plan[0]
    if same:
        return of_piece[-1].row.place
    read = {item.row.place for item in of_piece if item.row.cut_number == of_piece[-1].row.cut_number}
    return next((place for place in (*plan, *feature_kind(state.kind).places) if place not in read), plan[0])


def feature_log(visit: Visit, state: JobState) -> list[LoggedReading]:
    """The newest readings of the feature in hand, oldest of them first."""
    return readings.log(visit.db, state.feature_id, last=SHOWN_READINGS)
