"""A plan that was begun goes on from the piece as it is: what is cut is cut, and the rest is planned anew."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from nomisma.core.metal.cut import Cut, End
from nomisma.core.metal.rules import Complaint
from nomisma.core.metal.stock import Stock
from nomisma.core.metal.workpiece import Workpiece, workpiece_of
from nomisma.core.operations.operations import tool_changes
from nomisma.core.operations.piece import Begun, Piece
from nomisma.core.operations.surfaces import ENDS, whole_letter
from nomisma.core.operations.task import facing_mm
from nomisma.core.order.laid_out import StockSaid, Worked
from nomisma.core.order.order import OrderOfWork, PlannedSetUp, numbered, with_kept
from nomisma.core.order.set_ups import SetUp, SetUps, set_ups_of


@dataclass(frozen=True, slots=True)
class GoneOn:
    """How a plan goes on from a moment: the keys of the operations that were done then; of the one that was wanted next
    (empty: whichever is best); the order a hand put since (its keys).
    """

    done: tuple[str, ...]
    first: str = ""
    kept: tuple[str, ...] = ()


def gone_on(
    order: OrderOfWork, how: Sequence[GoneOn], stock: StockSaid, *, face_as_parted: bool = False
) -> OrderOfWork:
    """The plan as it goes on from each of some moments, in their order: what was done by then in its set-ups, the rest
    planned anew on the metal that is there. Where no plan goes on from one, `not_gone_on` says why, and the plan stays
    as it was. Source: search, and what can be held and cut: as `order_of_work`.

    >>> from nomisma.core.order.order import order_of_work
    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> lines = FeatureLinesInput(text="od 30 h7 x 40\\nod 20 x 15", unit="mm")
    >>> shaft = order_of_work([lettered(one) for one in feature_lines(lines).features])
    >>> begun = [one.key for one in shaft.set_ups[0].operations[:3]]
    >>> on = gone_on(shaft, [GoneOn(tuple(begun))], StockSaid())
    >>> [one.key for one in on.operations[:3]] == begun, on.not_gone_on, on.finished.outside == shaft.finished.outside
    (True, (), True)
    """
    for number, one in enumerate(how, 1):
        order = _gone_on(order, one, stock, number, face_as_parted or order.as_parted)
    return order


def _gone_on(order: OrderOfWork, how: GoneOn, stock: StockSaid, moment: int, face_as_parted: bool) -> OrderOfWork:
    if order.piece is None or order.stock is None:
        return order
    past = tuple(_past(order, how.done))
    if not how.first and _is_as_planned(order, how.done):
        return order
    begun = _begun(order, past, order.piece, order.stock)
    first = _first(order, how.first)
    if first is not None and (not_yet := _not_yet(order.piece, begun, *first)):
        return replace(order, not_gone_on=(not_yet,))
    rest, said = replace(order.piece, begun=begun), _said(stock, begun, order.stock)
    found = _rest(rest, said, first, face_as_parted)
    if not found.set_ups and said.mounting != "any":
        said = replace(said, mounting="any")
        found = _rest(rest, said, first, face_as_parted)
    if not found.set_ups:
        return replace(order, not_gone_on=found.complaints or (Complaint("no_way"),))
    prefix = f"{moment}."
    in_order = with_kept(found, rest, said, how.kept, len(past), prefix) if how.kept else found
    return _joined(order, how, past, in_order, prefix)


def _not_yet(piece: Piece, begun: Begun, worked: Worked, letter: str) -> Complaint | None:
    """What must be done before a letter is cut in a set-up worked so; None where nothing is known to."""
    off_centre = any(one.throw_mm and letter in one.letters for one in piece.surfaces)
    if off_centre and not any(one.kind == "outside" and set(one.letters) <= begun.made for one in piece.surfaces):
        return Complaint("true_first")
    if worked == begun.on_bar:
        return Complaint("on_the_bar")
    no_centres = not all(begun.work.takes_a_centre(end) for end in ENDS)
    return Complaint("between_both") if worked == "centres" and no_centres else None


def _is_as_planned(order: OrderOfWork, done: Collection[str]) -> bool:
    """Whether what was done is just what stands first: the plan itself goes on from there."""
    keys = [one.key for one in order.operations]
    return set(keys[: len([key for key in keys if key in done])]) <= set(done)


def _first(order: OrderOfWork, key: str) -> tuple[Worked, str] | None:
    """Where the operation that is wanted first is worked, and its first letter; none where none is."""
    for set_up in order.set_ups:
        for one in set_up.operations:
            if one.key == key:
                return set_up.set_up.worked, one.operation.letters[0] if one.operation.letters else ""
    return None


def _begun(order: OrderOfWork, past: Sequence[PlannedSetUp], piece: Piece, stock: Stock) -> Begun:
    """The piece as it is. A letter is made once the last operation that makes it is done."""
    work = _as_it_is(stock, past)
    made_by = {letter: one.key for one in order.operations for letter in one.operation.letters}
    done = {one.key for set_up in past for one in set_up.operations}
    kept = {letter for letter, key in made_by.items() if key in done}
    kept |= {letter for one in piece.surfaces if one.letter in piece.as_bought for letter in one.letters}
    left, right = -work.left_mm, work.right_mm - piece.length_mm
    spare = 2 * facing_mm(piece.unit)
    on_bar: End | Literal[""] = "left" if left > max(spare, right) else "right" if right > spare else ""
    last = past[-1].set_up.worked if past else ""
    roughed = {letter for one in _cuts(past) if one.traits.roughs for letter in one.letters}
    return Begun(work, frozenset(kept), frozenset(roughed), on_bar if order.from_bar else "", last)


def _said(stock: StockSaid, begun: Begun, first: Stock) -> StockSaid:
    """The stock as the rest is planned on it: what there is."""
    work = begun.work
    there = replace(
        first, from_mm=work.left_mm, to_mm=work.right_mm, shape=work.outside, inside=work.hole, centred=work.centres
    )
    kind = "blank" if stock.kind == "bar" and not begun.on_bar else stock.kind
    return replace(stock, kind=kind, as_roughed=there)


@lru_cache(maxsize=128)  # the same moment is asked for by every page of the job
def _rest(piece: Piece, stock: StockSaid, first: tuple[Worked, str] | None, face_as_parted: bool) -> SetUps:
    whole = whole_letter(piece.features, piece.section) if stock.kind != "repair" else ""
    whole = "" if whole in piece.made else whole
    return set_ups_of(piece, stock, face_as_parted=face_as_parted, whole=whole, first=first)


def _past(order: OrderOfWork, done: Collection[str]) -> list[PlannedSetUp]:
    """The set-ups in which something was done, with that alone."""
    found: list[PlannedSetUp] = []
    count = 0
    for one in order.set_ups:
        kept = [each for each in one.operations if each.key in done]
        if not kept:
            continue
        own = tuple(replace(each, number=count + at) for at, each in enumerate(kept, 1))
        set_up = replace(
            one.set_up,
            operations=tuple(each.operation for each in own),
            cuts=tuple(each.cuts for each in own),
        )
        found.append(PlannedSetUp(len(found) + 1, set_up, own))
        count += len(own)
    return found


def _as_it_is(stock: Stock, past: Sequence[PlannedSetUp]) -> Workpiece:
    work = workpiece_of(stock)
    for cut in _cuts(past):
        work = work.after(cut)
    return work


def _cuts(past: Sequence[PlannedSetUp]) -> list[Cut]:
    return [cut for one in past for each in one.operations for cut in each.cuts]


def _joined(order: OrderOfWork, how: GoneOn, past: Sequence[PlannedSetUp], rest: SetUps, prefix: str) -> OrderOfWork:
    """What was done and what is to come as one plan."""
    piece = order.piece
    assert piece is not None, "it was planned"
    set_ups = list(past)
    count = sum(len(one.operations) for one in past)
    for at, set_up in enumerate(rest.set_ups):
        number = len(past) + at + 1
        worked = [one.set_up for one in (*order.set_ups, *set_ups[len(past) :])]
        named = replace(set_up, again=sum(each.worked == set_up.worked for each in worked))
        wrong = [one for one in rest.complaints if one.set_up == at]
        own = numbered(named, f"{prefix}{number}", count, piece.surfaces, wrong)
        set_ups.append(PlannedSetUp(number, named, own))
        count += len(own)
    return replace(
        order,
        set_ups=tuple(_same_chucking_as_one(set_ups, len(past))),
        dial_in=tuple(
            f"{one.letter} must be true to {one.true_to} and is cut in another chucking" for one in rest.apart
        ),
        changes=tool_changes([each.operation for one in set_ups for each in one.operations]),
        proved=rest.proved,
        by_hand=bool(how.kept),
        gone_on=True,
        complaints=rest.complaints,
        drawing=rest.drawing,
        finished=rest.finished,
    )


def _same_chucking_as_one(set_ups: Sequence[PlannedSetUp], past: int) -> list[PlannedSetUp]:
    """The set-ups; where the rest begins in the very chucking that was left, it goes on in it."""
    if not 0 < past < len(set_ups) or not _is_held_alike(set_ups[past - 1].set_up, set_ups[past].set_up):
        return list(set_ups)
    last, on = set_ups[past - 1], set_ups[past]
    operations = (*last.operations, *on.operations)
    one = replace(
        last.set_up,
        operations=tuple(each.operation for each in operations),
        cuts=tuple(each.cuts for each in operations),
    )
    joined = PlannedSetUp(last.number, one, operations)
    later = (replace(each, number=each.number - 1) for each in set_ups[past + 1 :])
    return [*set_ups[: past - 1], joined, *later]


def _is_held_alike(one: SetUp, other: SetUp) -> bool:
    """Whether two set-ups are one chucking: worked alike, gripped at the same place, held up by the same."""
    held, next_held = one.workholding, other.workholding
    if held is None or next_held is None or one.worked != other.worked:
        return False
    changed = [cut.supports for cuts in one.cuts for cut in cuts if cut.supports is not None]
    stands = changed[-1] if changed else held.supports
    return (held.way, held.grip, stands, held.throw_mm) == (
        next_held.way,
        next_held.grip,
        next_held.supports,
        next_held.throw_mm,
    )
