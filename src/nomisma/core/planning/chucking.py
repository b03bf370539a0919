"""One chucking as it stands: how true it must run, and what its runout (total indicator reading) says."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum

from nomisma.core.operations.operations import cutting_of
from nomisma.core.order.set_ups import SetUp
from nomisma.core.planning.holding import Holding
from nomisma.core.quantity.display import show_between, show_exact, show_small, show_usual
from nomisma.core.quantity.length import Unit
from nomisma.core.truing.surface import uses

USUAL = "second_operation"
"""How true a chucking is where it must run with what was cut before and nobody gave a figure. Source: uses.csv."""


@dataclass(frozen=True, slots=True)
class RunoutAllowed:
    """The largest runout (total indicator reading, mm) that will do in a set-up, and why; none where nothing asks for
    one.

    `on_stock`: it is the stock that is held, and nothing was cut before; `least_mm`: off centre it must swing so much.
    """

    most_mm: Decimal | None
    why: str
    on_stock: bool = False
    least_mm: Decimal | None = None


class RunoutVerdict(StrEnum):
    """What a chucking's runout comes to."""

    GOOD = "good"
    TOO_MUCH = "too_much"
    NOTHING_ASKS = "nothing_asks"


@dataclass(frozen=True, slots=True)
class RunoutJudged:
    """A runout held against what is allowed: in words, with what to do about it; `more_than_usual` for this way of
    holding, in words.
    """

    state: RunoutVerdict
    headline: str
    steps: tuple[str, ...]
    more_than_usual: str = ""


def runout_allowed(
    set_up: SetUp,
    *,
    true_to: Mapping[str, str],
    part_runouts_mm: Mapping[str, Decimal],
    stock_mm: Decimal | None = None,
    throw_mm: tuple[Decimal, Decimal] | None = None,
) -> RunoutAllowed:
    """How true a set-up must run, mm. `true_to`: by letter, the letter it must be true to; `part_runouts_mm`: by
    letter, the part's own runouts.

    `stock_mm`: the stock's diameter as measured, less its skin all round. On stock the runout must leave the largest
    diameter clean; on what is finished it matters for what must be true to it. `throw_mm`: the limits of the throw it
    is set over by, of which the needle swings twice as much.

    Source: geometry (a round that swings s gives no more than its diameter less s); common practice, no source.

    >>> runout_allowed(SetUp("left", "A", (), ()), true_to={}, part_runouts_mm={}).most_mm is None
    True
    """
    if throw_mm is not None:
        least, most = (2 * mm for mm in throw_mm)
        return RunoutAllowed(most, "twice the limits of the throw", least_mm=least)
    if not set_up.held_on and set_up.worked != "centres":
        return _on_stock(set_up, stock_mm)
    cut = {letter for one in set_up.surfaces for letter in one.letters}
    turned = any(cutting_of(one.kind).is_diameter for one in set_up.surfaces)
    known = cut | (
        set(part_runouts_mm) if turned else set()
    )  # a runout is of some diameter; a set-up that only faces cuts none
    bound = sorted(letter for letter in known if true_to.get(letter) and true_to[letter] not in cut)
    if not bound:
        return RunoutAllowed(None, "nothing that is cut in it must be true to what was cut before")
    said = "; ".join(f"{letter} must be true to {true_to[letter]}" for letter in bound)
    own = [mm for letter, mm in part_runouts_mm.items() if letter in bound or not true_to.get(letter)]
    if own:
        return RunoutAllowed(min(own), f"{said}: the part's own runout")
    usual = uses()[USUAL].total_indicator_reading.mm
    return RunoutAllowed(usual, f"{said}; half a thou is usual for a second operation (common practice, no source)")


def _on_stock(set_up: SetUp, stock_mm: Decimal | None) -> RunoutAllowed:
    outside = [one for one in set_up.surfaces if cutting_of(one.kind).is_diameter and not cutting_of(one.kind).is_hole]
    largest = max(outside, key=lambda one: one.diameter_mm, default=None)
    if largest is None:
        return RunoutAllowed(None, "no outside is cut in it", on_stock=True)
    if stock_mm is None:
        return RunoutAllowed(
            None, "what the stock measures across nobody entered: whether it cleans up is not known", on_stock=True
        )
    spare_mm = stock_mm - largest.diameter_mm
    if spare_mm <= 0:
        return RunoutAllowed(
            None,
            f"the stock leaves nothing to come off for {largest.letter}: look at what gives on Plan",
            on_stock=True,
        )
    return RunoutAllowed(spare_mm, f"beyond that {largest.letter} no longer cleans up", on_stock=True)


def judge_runout(total_indicator_reading_mm: Decimal, allowed: RunoutAllowed, way: Holding, unit: Unit) -> RunoutJudged:
    """What a runout (total indicator reading, mm) comes to in a way of holding.

    Source: arithmetic; what is usual: holding.csv (common practice, no source).

    >>> from nomisma.core.planning.holding import holdings
    >>> judge_runout(Decimal("0.2"), RunoutAllowed(Decimal("0.0127"), ""), holdings()["three_jaw"], "in").headline
    'It swings 7.87 thou: too much, 0.50 thou will do'
    """
    if allowed.least_mm is not None and allowed.most_mm is not None:
        return _judge_off_centre(total_indicator_reading_mm, allowed.least_mm, allowed.most_mm, way, unit)
    swings = show_small(total_indicator_reading_mm, unit)
    more = _more_than_usual(total_indicator_reading_mm, way, unit)
    if allowed.most_mm is None and allowed.on_stock:
        return RunoutJudged(RunoutVerdict.NOTHING_ASKS, f"It swings {swings}; {allowed.why}", (), more)
    if allowed.most_mm is None:
        return RunoutJudged(
            RunoutVerdict.NOTHING_ASKS,
            f"It swings {swings}: nothing asks for better",
            _off(total_indicator_reading_mm, unit),
            more,
        )
    will_do = show_small(allowed.most_mm, unit)
    if total_indicator_reading_mm <= allowed.most_mm:
        return RunoutJudged(RunoutVerdict.GOOD, f"It swings {swings}: good enough, {will_do} will do", (), more)
    return RunoutJudged(
        RunoutVerdict.TOO_MUCH, f"It swings {swings}: too much, {will_do} will do", _sentences(way.if_out), more
    )


def _judge_off_centre(read_mm: Decimal, least_mm: Decimal, most_mm: Decimal, way: Holding, unit: Unit) -> RunoutJudged:
    said = f"It swings {show_exact(read_mm, unit)}"
    wanted = show_between(least_mm, most_mm, unit)
    if least_mm <= read_mm <= most_mm:
        return RunoutJudged(RunoutVerdict.GOOD, f"{said}: good, {wanted} is wanted", ())
    off_mm = (least_mm + most_mm) / 2 - read_mm
    jaw = f"{'further out' if off_mm > 0 else 'back'} by {show_exact(abs(off_mm) / 2, unit)}"
    return RunoutJudged(
        RunoutVerdict.TOO_MUCH, f"{said}: the work goes {jaw}, {wanted} is wanted", _sentences(way.if_out)
    )


def _off(total_indicator_reading_mm: Decimal, unit: Unit) -> tuple[str, ...]:
    return (
        (
            (
                "What is cut now stands off what was cut before by half of it,"
                f" {show_small(total_indicator_reading_mm / 2, unit)}."
            ),
        )
        if total_indicator_reading_mm
        else ()
    )


def _more_than_usual(total_indicator_reading_mm: Decimal, way: Holding, unit: Unit) -> str:
    if total_indicator_reading_mm * 1000 <= way.most_um:
        return ""
    usual = f"{show_usual(way.least_um / 1000, unit)} to {show_usual(way.most_um / 1000, unit)}"
    return f"More than is usual for it ({usual}, common practice): look for a chip, a burr, or wear."


def seldom_so_true(allowed: RunoutAllowed, way: Holding, unit: Unit) -> str:
    """What is to be said of a way before a needle was on it: that it seldom holds so true; empty where it does. Source:
    holding.csv.

    >>> from nomisma.core.planning.holding import holdings
    >>> seldom_so_true(RunoutAllowed(Decimal("0.01"), ""), holdings()["three_jaw"], "mm")
    'It seldom holds truer than 50 µm, and 10.0 µm is wanted: read it by the needle, or hold it otherwise.'
    """
    if allowed.most_mm is None or way.least_um <= allowed.most_mm * 1000:
        return ""
    least, most = show_usual(way.least_um / 1000, unit), show_small(allowed.most_mm, unit)
    return f"It seldom holds truer than {least}, and {most} is wanted: read it by the needle, or hold it otherwise."


def _sentences(steps: Sequence[str]) -> tuple[str, ...]:
    return tuple(f"{one[0].upper()}{one[1:]}." for one in steps)
