"""What an earlier piece of a batch says of the one in hand: the dial it was cut at, what it came to, and how this one
differs.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from nomisma.core.cutting.amount import line_on_diameter
from nomisma.core.lengths.second_piece import compared, said_of
from nomisma.core.lengths.stops import StopsInput
from nomisma.core.part.feature import State
from nomisma.jobs.cutting.cutting_run import CuttingRun
from nomisma.jobs.making.steps import Making
from nomisma.jobs.standing.pieces import serials
from nomisma.jobs.standing.state import JobState

Than = Literal["larger", "smaller", "the same"]


@dataclass(frozen=True, slots=True)
class PieceBefore:
    """An earlier piece at a feature: what it came to, mm; the lines its dial was wound in all on this set-up of the
    tool, from where that touched on, and by how many more (fewer where negative) this one comes to its aim (both none:
    no dial says it). `differs_mm`: how much larger this one is; none before it is read.
    """

    piece: str
    size_mm: Decimal
    lines: Decimal | None = None
    more_lines: Decimal | None = None
    differs_mm: Decimal | None = None

    @property
    def than(self) -> Than:
        """How this one is beside it."""
        if not self.differs_mm:
            return "the same"
        return "larger" if self.differs_mm > 0 else "smaller"


def piece_before(making: Making, state: JobState, run: CuttingRun | None) -> PieceBefore | None:
    """The piece read last before the one in hand at a feature; none of a single piece, or where none was read, or it is
    out of limits. `run`: the cuts of the feature, where a cross-slide's dial makes it.

    Source: common practice, no source (with the ring left alone the next piece comes to the same size at the same
    reading).
    """
    known = serials(state)
    own = making.plan.piece
    if own not in known:
        return None
    before = [one for one in known[: known.index(own)] if _size_mm(state, one) is not None]
    good = [one for one in before if state.verdict_of_piece[one].state is State.IN_LIMITS] if state.limits else before
    if not good:
        return None
    piece = good[-1]
    size_mm, now_mm = _size_mm(state, piece), _size_mm(state, own)
    assert size_mm is not None, "it was read"
    lines = dict(run.standing).get(piece) if run is not None else None
    return PieceBefore(
        piece, size_mm, lines, _more_lines(state, run, size_mm) if lines else None, now_mm - size_mm if now_mm else None
    )


def _size_mm(state: JobState, piece: str) -> Decimal | None:
    """The middle of what was read of a piece since its last cut, mm; none where nothing was."""
    found = state.own_readings.of_piece(piece)
    return (found.smallest_mm + found.largest_mm) / 2 if found.count else None


def _more_lines(state: JobState, run: CuttingRun | None, size_mm: Decimal) -> Decimal | None:
    limits, machine = state.both_limits, run.machine if run is not None else None
    if limits is None or machine is None:
        return None
    to_aim_mm = state.feature.metal_to_take(size_mm, limits.aim_mm)
    return to_aim_mm / line_on_diameter(machine.dial_line_mm, machine.dial_reads)


def held_against_the_first(making: Making) -> list[str]:
    """What the lengths of the piece in hand say beside those of the first: the stop that moved, or that the work sits
    otherwise; nothing of the first, or where fewer than two were read of both.

    Source: core/lengths/second_piece.py.
    """
    known, own = serials(making.state), making.plan.piece
    if own not in known[1:]:
        return []
    found = [
        (one, first_mm, now_mm)
        for one in _lengths(making)
        if (first_mm := _size_mm(one, known[0])) is not None and (now_mm := _size_mm(one, own)) is not None
    ]
    if len(found) < 2:
        return []
    differ = compared([one[1] for one in found], [one[2] for one in found], _REPEATS_MM)
    if not differ.shared_mm and not differ.moved:
        return []
    names = [f"{one.letter}, {one.called}" for one, _, _ in found]
    return said_of(differ, names, ["its stop is tight"] * len(found), making.state.unit)


_REPEATS_MM: Decimal = StopsInput.model_fields["repeats"].default.mm


def _lengths(making: Making) -> Iterator[JobState]:
    """The features that stops along the axis make."""
    return (one for one in making.state.made if one.coached_by == "carriage" and one.takes_readings)
