"""A plan in two stages: the part roughed all over, left to rest, then finished from what was roughed."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from nomisma.core.metal.stock import casting_of
from nomisma.core.operations.operations import tool_changes
from nomisma.core.operations.piece import ZERO, Piece
from nomisma.core.operations.task import LEFT_ROUGH
from nomisma.core.order.laid_out import StockSaid
from nomisma.core.order.roughed import rough_piece, shifted, stock_of, stock_shifted, work_shifted
from nomisma.core.order.set_ups import SetUp, SetUps, set_ups_of

RESTS = (
    "Roughed all over: take it out, let it cool and lie; or send it to be relieved or hardened. Then true it anew: what"
    " moved comes off now."
)
"""What stands between roughing and finishing. Source: common practice, no source."""


@dataclass(frozen=True, slots=True)
class Stage:
    """One stage of a plan: its set-ups, the piece and the stock they are of, and how much (mm) is left on each face
    after it.
    """

    set_ups: SetUps
    piece: Piece
    stock: StockSaid
    left_on_mm: Decimal = ZERO


def roughed_first(piece: Piece, stock: StockSaid, *, whole: str = "") -> SetUps | None:
    """The set-ups of a part that is roughed all over before anything is finished; None where it cannot be: something
    stays as it is, or lies off its axis, or no such plan runs. Source: common practice, no source (roughing lets go
    what is in the metal); search.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.order.offered import piece_of
    >>> lines = FeatureLinesInput(text="od 40 x 20\\nod 30 h7 x 15", unit="mm")
    >>> pin = piece_of([lettered(one) for one in feature_lines(lines).features], StockSaid(), "mm")
    >>> [(one.worked, one.is_roughing) for one in roughed_first(pin, StockSaid()).set_ups][:2]
    [('right', True), ('left', True)]
    """
    leave = LEFT_ROUGH[piece.unit].mm
    rough = rough_piece(piece, leave)
    if rough is None or stock.kind == "repair":
        return None
    said = replace(stock, mounting="any")  # how it is mounted matters where it is finished
    if stock.kind == "cast" and (stock.across_mm is None or stock.long_mm is None):
        if stock.skin_mm <= leave:
            return None
        said = replace(said, as_roughed=stock_shifted(casting_of(piece.section, stock.skin_mm), leave))
    first = set_ups_of(rough, said)
    if not first.set_ups or first.finished is None:
        return None
    there = stock_of(work_shifted(first.finished, -leave), leave)
    rest = StockSaid(
        "cast",
        skin_mm=leave,
        bore_mm=stock.bore_mm,
        spindle_mm=stock.spindle_mm,
        as_roughed=there,
        mounting=stock.mounting,
    )
    then = set_ups_of(piece, rest, whole=whole)
    if not then.set_ups:
        return None
    return joined([Stage(first, rough, said, leave), Stage(then, piece, rest)])


def joined(stages: Sequence[Stage]) -> SetUps:
    """The stages as one plan, in the frame of the finished part; a set-up's complaints go on counting. Source:
    geometry, bookkeeping.

    >>> from nomisma.core.order.offered import piece_of
    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> lines = FeatureLinesInput(text="od 40 x 20", unit="mm")
    >>> pin = piece_of([lettered(one) for one in feature_lines(lines).features], StockSaid(), "mm")
    >>> alone = set_ups_of(pin, StockSaid())
    >>> joined([Stage(alone, pin, StockSaid())]).set_ups == alone.set_ups
    True
    """
    made: list[SetUp] = []
    complaints = []
    for stage in stages:
        complaints += [
            replace(one, set_up=one.set_up + len(made)) if one.set_up is not None else one
            for one in stage.set_ups.complaints
        ]
        for one in stage.set_ups.set_ups:
            again = sum(each.worked == one.worked for each in made)
            made.append(replace(_in_the_part(one, stage.left_on_mm), again=again))
    first, last = stages[0].set_ups, stages[-1].set_ups
    return SetUps(
        tuple(made),
        last.apart,
        tool_changes([each for one in made for each in one.operations]),
        all(one.set_ups.proved for one in stages),
        tuple(complaints),
        tuple(named for one in stages for named in one.set_ups.named),
        stock_shifted(first.stock, -stages[0].left_on_mm) if first.stock is not None else None,
        last.drawing,
        last.finished,
        tuple(stages),
    )


def _in_the_part(one: SetUp, left_on_mm: Decimal) -> SetUp:
    """A set-up of a stage as it is seen from the left face of the finished part."""
    if not left_on_mm:
        return one
    held = shifted(one.workholding, -left_on_mm) if one.workholding is not None else None
    return replace(
        one,
        workholding=held,
        cuts=tuple(tuple(cut.mirrored(ZERO).mirrored(-left_on_mm) for cut in cuts) for cuts in one.cuts),
        before=work_shifted(one.before, -left_on_mm) if one.before is not None else None,
        left_on_mm=left_on_mm,
    )
