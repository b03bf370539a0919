"""Saying something of a chucking: how it is held, what the needle says, that all was looked at before the
first start.
"""

from dataclasses import dataclass
from decimal import Decimal
from uuid import UUID

from sqlalchemy.orm import Session

from nomisma.core.errors import InputError, OutOfRange, needed
from nomisma.core.planning.chucking import judge_runout
from nomisma.core.planning.holding import holdings
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import split_sizes
from nomisma.core.truing.needle import needle_reading
from nomisma.core.truing.three_jaw import JAWS
from nomisma.jobs.holding.chucking import Chucking
from nomisma.jobs.planning.plan_entries import FirstStart, HoldingChosen, RunoutRead
from nomisma.jobs.planning.plan_log import say
from nomisma.store.models import Account, Instrument, PlanEntry


@dataclass(frozen=True, slots=True)
class RunoutEntry:
    """What was typed of the needle: the whole swing, or a round beside the jaws; the unit without an indicator of the
    shop.
    """

    id: UUID
    text: str
    indicator: Instrument | None = None
    unit: Unit = "mm"

    @property
    def read_in(self) -> Unit:
        """The indicator's unit."""
        if self.indicator is None:
            return self.unit
        return "mm" if self.indicator.unit == "mm" else "in"


def choose_holding(
    session: Session, chucking: Chucking, way: str, reason: str, *, by: Account, sent_id: UUID
) -> PlanEntry:
    """Hold a set-up in a way; one that is not suggested needs a reason. Raises InputError, HandedOver."""
    if way not in holdings():
        raise InputError("That is no way of holding work.", "Choose one from the list.", field="way")
    suggested = {one.holding.name for one in chucking.work.suggested_ways(chucking.planned)}
    if way not in suggested and not reason.strip():
        raise InputError(
            f"{holdings()[way].title.capitalize()} is not among what the plan suggests here.",
            "Say why it is held so.",
            field="reason",
        )
    said = HoldingChosen(set_up=chucking.key, way=way, reason=reason.strip())
    return say(session, chucking.plan, "holding", said, by=by, sent_id=sent_id)


def log_runout(session: Session, chucking: Chucking, entry: RunoutEntry, *, by: Account) -> PlanEntry:
    """What the needle says of a chucking. Raises InputError where it cannot be, HandedOver."""
    if chucking.way.read_as == "rounds":
        raise InputError("A four-jaw is trued round by round.", "Open its rounds.", field="runout")
    unit, gauge = entry.read_in, entry.indicator
    range_mm = gauge.range_to_mm - (gauge.range_from_mm or 0) if gauge and gauge.range_to_mm else None
    texts = split_sizes(needed(entry.text, "runout"))
    sizes = [needle_reading(one, unit, range_mm=range_mm, field="runout") for one in texts]
    graduation = Length(gauge.resolution_mm, unit) if gauge else None
    read_mm = _total_indicator_reading_mm(chucking, sizes, graduation, unit)
    judged = judge_runout(read_mm, chucking.allowed, chucking.way, unit)
    said = RunoutRead(
        set_up=chucking.key,
        way=chucking.way.name,
        piece=chucking.plan.piece,
        readings=[str(one) for one in sizes],
        indicator=gauge.name if gauge else "",
        graduation=str(graduation) if graduation else "",
        total_indicator_reading_mm=str(read_mm),
        allowed_mm=str(chucking.allowed.most_mm) if chucking.allowed.most_mm is not None else "",
        headline=judged.headline,
        unit=unit,
    )
    return say(session, chucking.plan, "runout", said, by=by, sent_id=entry.id)


def _total_indicator_reading_mm(
    chucking: Chucking, sizes: list[Length], graduation: Length | None, unit: Unit
) -> Decimal:
    """The total indicator reading, mm: as it was read, or of a round beside three jaws. Raises InputError."""
    if len(sizes) == 1:
        if sizes[0].mm < 0:
            raise OutOfRange("A swing is not below zero.", "Highest less lowest over a whole turn.", field="runout")
        return sizes[0].mm
    beside_jaws = chucking.way.read_as == "jaws"
    if not beside_jaws or len(sizes) not in (JAWS, 2 * JAWS):
        wanted = "one number, or 3 or 6 from jaw 1 on" if beside_jaws else "one number"
        raise InputError(
            f"{len(sizes)} readings are no swing.",
            f"Give {wanted}: the highest less the lowest over a whole turn.",
            field="runout",
        )
    if graduation is None:
        raise InputError("How fine the needle reads is not known.", "Choose the indicator.", field="instrument_id")
    try:
        return chucking.beside_three_jaws(sizes, graduation, unit).total_indicator_reading.mm
    except InputError as error:
        raise error.at("runout") from None


def declare_ready_to_cut(
    session: Session, chucking: Chucking, ticked: frozenset[int], reason: str = "", *, by: Account, sent_id: UUID
) -> PlanEntry:
    """All that is looked at before the first start was looked at: ready to cut; where it swings more than it may or
    usually does, with a reason.

    Raises InputError where something was not looked at, or there is no reason; HandedOver.
    """
    steps = chucking.way.before_first_start
    missing = [step for number, step in enumerate(steps) if number not in ticked]
    if missing:
        raise InputError(
            f"{len(missing)} of the {len(steps)} steps {'is' if len(missing) == 1 else 'are'} not ticked.",
            "Do each at the machine, then tick it.",
            field="ready",
        )
    if chucking.wants_reason and not reason.strip():
        raise InputError(chucking.wants_reason, "Bring it nearer, or say why it is started so.", field="start_reason")
    machine = chucking.plan.state.job.machine
    said = FirstStart(
        set_up=chucking.key,
        way=chucking.way.name,
        piece=chucking.plan.piece,
        steps=list(steps),
        reason=reason.strip(),
        lathe=machine.name if machine else "",
    )
    return say(session, chucking.plan, "first_start", said, by=by, sent_id=sent_id)
