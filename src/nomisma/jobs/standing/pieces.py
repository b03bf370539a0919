"""The pieces of a job and the places of each: what is read next, and what is still to be read."""

from decimal import Decimal

from nomisma.core.measuring.feature import planned_places
from nomisma.core.part.feature import State
from nomisma.core.part.feature_kinds import feature_kind
from nomisma.core.quantity.length import Unit
from nomisma.jobs.standing.state import JobState
from nomisma.store.readings import LoggedReading

WIDE_MM: dict[Unit, Decimal] = {"mm": Decimal("0.1"), "in": Decimal("0.1016")}
"""Limits so far apart (a tenth, four thou) are read at one place where nobody asks for more. Source: common practice,
no source.
"""


def serials(state: JobState) -> tuple[str, ...]:
    """The pieces of a batch by number, and any other serial something was logged under; none for a single piece."""
    if not state.is_batch:
        return ()
    numbered = [str(number + 1) for number in range(state.in_force.pieces_wanted)]
    return tuple(dict.fromkeys([*numbered, *(piece for piece in state.pieces_read if piece)]))


def places_planned(state: JobState) -> tuple[str, ...]:
    """The places that are to be read of one piece: the job's plan; without one all, of a batch's piece one."""
    wanted = state.duty.least_places
    if wanted:
        return planned_places(state.kind, "one")[:wanted]
    return planned_places(state.kind, state.in_force.plan or ("one" if state.is_batch else "full"))


def places_read(state: JobState, piece: str) -> set[str]:
    """Where a piece was read since its last cut, or tried."""
    read = {group.place for group in state.own_readings.of_piece(piece).groups}
    tried = {row.place for row in state.own_trials if row.piece == piece}
    kind = feature_kind(state.kind)
    return read | (tried if kind.is_compared or not tried else set(kind.places))  # a ring goes over all of it


def places_unread(state: JobState, piece: str) -> tuple[str, ...]:
    """The places of the plan at which a piece was not read or tried since its last cut, in the plan's order."""
    read = places_read(state, piece)
    return tuple(place for place in places_planned(state) if place not in read)


def places_to_close(state: JobState) -> tuple[str, ...]:
    """The places a step at the lathe asks for: those of the plan; where nobody chose a plan, of wide limits the first.

    Source: common practice, no source.
    """
    limits, planned = state.both_limits, places_planned(state)
    nobody_chose = not state.duty.name and not state.in_force.plan
    if nobody_chose and limits is not None and limits.upper_mm - limits.lower_mm >= WIDE_MM[state.unit]:
        return planned[:1]
    return planned


def is_read_at_its_places(state: JobState, piece: str) -> bool:
    """Whether a piece was read at every place its step asks for and is in limits there; of what has no limits, whether
    it was read.
    """
    found = state.verdict_of_piece.get(piece)
    if found is None:
        return state.limits is None and bool(places_read(state, piece))
    wanted = places_to_close(state)
    read = places_read(state, piece)
    return found.state is State.IN_LIMITS and (set(wanted) <= read or (len(wanted) == 1 and bool(read)))


def next_piece(state: JobState, standing: list[LoggedReading]) -> str:
    """The piece at hand; the next one once its plan is done and no metal is left to take."""
    known = serials(state)
    if not known:
        return ""
    last = standing[-1].row.piece if standing else known[0]
    if last not in known or places_unread(state, last) or metal_to_go(state, last):
        return last
    measured = set(state.pieces_read)
    return next((piece for piece in known if piece not in measured), last)


def metal_to_go(state: JobState, piece: str) -> bool:
    found = state.verdict_of_piece.get(piece)
    return found is not None and found.state is State.METAL_TO_GO


def likely_place(state: JobState, of_piece: list[LoggedReading], *, same: bool) -> str:
    """After a cut the place read last, to see what came off; else the next place of the plan not read since."""
    plan = places_planned(state)
    if not of_piece:
        return plan[0]
    if same:
        return of_piece[-1].row.place
    read = {item.row.place for item in of_piece if item.row.cut_number == of_piece[-1].row.cut_number}
    return next((place for place in (*plan, *feature_kind(state.kind).places) if place not in read), plan[0])


def next_piece_to_try(state: JobState) -> str:
    """The first piece that was not tried at every place of the plan; of a single piece none is named."""
    plan = places_planned(state)
    left = (piece for piece in serials(state) if not set(plan) <= places_read(state, piece))
    return next(left, next(iter(serials(state)), ""))
