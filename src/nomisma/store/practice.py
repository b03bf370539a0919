"""Practice: the set-up of a level as a row like a job's, and what was done to a simulated part."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import bindparam, select
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.practice.levels import FAR_MM, TURN_LINES, Level
from nomisma.core.quantity.length import Length
from nomisma.store.models import PracticeEvent, Truing

_EVENTS = select(PracticeEvent).where(PracticeEvent.part_id == bindparam("part_id")).order_by(PracticeEvent.sequence)


def part_events(session: OrmSession, part_id: UUID) -> Sequence[PracticeEvent]:
    """What was done to a simulated part, in order."""
    return session.scalars(_EVENTS, {"part_id": part_id}).all()


def practice_set_up(id: UUID, level: Level, seed: int, by_id: UUID) -> Truing:
    """The set-up of a level, as a job's would be."""
    far = Length.of(str(FAR_MM), "mm") if level.leans else None
    return Truing(
        id=id,
        level=level.name,
        seed=seed,
        surface=level.surface,
        grip=level.grip,
        places=level.places,
        keys="one",
        unit=level.unit,
        target_mm=level.target.mm,
        target_text=str(level.target),
        screw_lead_mm=level.lead.mm,
        screw_lead_text=str(level.lead),
        graduation_mm=level.graduation.mm,
        graduation_text=str(level.graduation),
        range_mm=level.range.mm,
        range_text=str(level.range),
        needle_turn_mm=level.graduation.mm * TURN_LINES,
        needle_turn_text=str(Length(level.graduation.mm * TURN_LINES, level.unit)),
        far_mm=far.mm if far else None,
        far_text=str(far) if far else "",
        by_id=by_id,
    )
