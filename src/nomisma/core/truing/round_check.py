"""Is a round to be believed? Held against the round before and the move that was asked for; asked about before it is
used.
"""

from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError
from nomisma.core.model import Model
from nomisma.core.quantity.display import show
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.truing.surface import Grip
from nomisma.core.working import COMMON_PRACTICE, Step

TOLERANCE_LINES = 3
"""Graduations a needle may miss what was expected by before it is asked about. Source: this tool's own choice."""
TOLERANCE_SHARE = 0.15
"""The same as a share of the round before: a hand moves a jaw to about a third of what it means to. Source: this tool's
own choice.
"""
CLEARLY = 3.0
"""How many times better another explanation must fit."""
FARTHEST = 1.6
"""How much more than asked for, or how far the other way, a jaw is believed to have moved. Source: this tool's own
choice.
"""
_FACTORS = (
    (25.4, "mm typed as inch"), (1 / 25.4, "inch typed as mm"), (1000.0, "thou typed as inch"),
    (10.0, "a slipped point"),
    (0.1, "a slipped point"),
)  # fmt: skip


class Suspicion(StrEnum):
    """What a round looks like, if not like one that was read well."""

    NONE = ""
    UNIT = "unit"
    GONE_ROUND = "gone_round"
    ORDER = "order"
    START = "start"
    NOTHING_MOVED = "nothing_moved"
    WRONG_WAY = "wrong_way"
    MOVED_LITTLE = "moved_little"
    MOVED_FAR = "moved_far"


class RoundCheckInput(Model):
    """A round (`readings`), what it should say (`expected`: from the moves asked for), and the one before it
    (`before`).

    `needle_turn`: what one turn of the needle is; `grip`: how the jaws hold, as it was said.
    Without a round before, only a needle gone round can be seen.
    """

    readings: list[Difference] = Field(min_length=3, max_length=72)
    expected: list[Difference] = Field(default=[], max_length=72)
    before: list[Difference] = Field(default=[], max_length=72)
    graduation: Size
    needle_turn: Size | None = None
    grip: Grip = "outside"
    unit: Unit = "in"


class RoundCheckResult(Model):
    """What is asked about, if anything; `to_confirm` where it should be asked before the round is used."""

    suspicion: Suspicion
    sentence: str
    remedy: str
    to_confirm: bool
    working: list[Step]


Values = list[float]


@calculation(
    name="round_check",
    title="Is this round to be believed?",
    validity="A round of readings at the same places as the one before; the dial may have been set to zero again in "
        "between.",
    source="the round expected from the moves asked for; the order of the explanations: common practice, no source",
    example={
        "readings": ["0.006 in", "0.0055 in", "0.006 in", "0.0055 in"],
        "expected": ["0.006 in", "0.0055 in", "0.006 in", "0.0055 in"],
        "before": ["0.012 in", "0.0055 in", "0 in", "0.0055 in"], "graduation": "0.0005 in",
    },
)  # fmt: skip
def round_check(given: RoundCheckInput) -> RoundCheckResult:
    """What a round that was not expected looks like: wrong order, wrong unit, dial gone round, wrong jaw. Raises
    InputError.

    Source: arithmetic; each explanation is tried on the readings and must fit three times better than the readings as
    they are; the one that leaves the least is named.

    >>> round_check(RoundCheckInput(readings=["0.012 in", "0.006 in", "0 in", "0.006 in"], expected=["0.006 in"] * 4,
    ...     before=["0.012 in", "0.006 in", "0 in", "0.006 in"], graduation="0.0005 in")).suspicion
    <Suspicion.NOTHING_MOVED: 'nothing_moved'>
    """
    found, about = _suspicion(given)
    sentence, remedy = _words(found, about, given)
    return RoundCheckResult(
        suspicion=found,
        sentence=sentence,
        remedy=remedy,
        to_confirm=found in (Suspicion.UNIT, Suspicion.GONE_ROUND, Suspicion.ORDER, Suspicion.START),
        working=_working(given),
    )


def _centred(values: list[Length]) -> Values:
    """Without where the dial stands: the mean is taken away."""
    sizes = [float(one.mm) for one in values]
    mean = sum(sizes) / len(sizes)
    return [size - mean for size in sizes]


def _miss(a: Values, b: Values) -> float:
    return max(abs(x - y) for x, y in zip(a, b, strict=True))


def _suspicion(given: RoundCheckInput) -> tuple[Suspicion, str]:
    """The explanation that fits, and what is said about it (a jaw, a unit, a share)."""
    readings = _centred(given.readings)
    if not given.before or not given.expected:
        return _gone_round(given, readings)
    if len(given.before) != len(readings) or len(given.expected) != len(readings):
        raise InputError(
            "The rounds were not read at the same places.", "Begin the comparison with this one.", field="before"
        )
    before, expected = _centred(given.before), _centred(given.expected)
    line = float(given.graduation.mm)
    reach = max(before) - min(before)
    tolerance = max(TOLERANCE_LINES * line, TOLERANCE_SHARE * reach)
    now = _miss(readings, expected)
    if now <= tolerance:
        return Suspicion.NONE, ""
    explanations = [
        *_one_turn(given, readings, expected, tolerance),
        *_other_unit(readings, expected, before, now, tolerance),
        *_moved(readings, expected, before, TOLERANCE_LINES * line),
        *_order(readings, expected, now, tolerance),
    ]
    # The one that leaves the least; of two that leave the same, the one that stands first.
    best = min(explanations, key=lambda one: round(one.miss / line, 3), default=None)
    return (best.suspicion, best.about) if best else (Suspicion.NONE, "")


@dataclass(frozen=True, slots=True)
class _Explanation:
    """What may have happened, what is said about it, and by how much the readings still miss it, mm."""

    suspicion: Suspicion
    about: str
    miss: float


def _other_unit(readings: Values, expected: Values, before: Values, now: float, tolerance: float) -> list[_Explanation]:
    known = max(max(before) - min(before), tolerance)
    found = []
    for factor, words in _FACTORS:
        if factor > 1 and max(readings) - min(readings) < CLEARLY * known:
            continue
        scaled = [one / factor for one in readings]
        if max(scaled) - min(scaled) <= (2 if factor < 100 else 1) * tolerance:
            continue  # as good as nothing fits anything
        fits = min(_miss(scaled, expected), _miss(scaled, before))
        if fits <= tolerance and now > CLEARLY * max(fits, tolerance / 2):
            found.append(_Explanation(Suspicion.UNIT, words, fits))
    return found


def _one_turn(given: RoundCheckInput, readings: Values, expected: Values, tolerance: float) -> list[_Explanation]:
    """One place off by a whole turn of the needle."""
    if given.needle_turn is None:
        return []
    turn = float(given.needle_turn.mm)
    found = []
    for index in range(len(readings)):
        for sign in (1, -1):
            tried = [one + sign * turn * ((k == index) - 1 / len(readings)) for k, one in enumerate(readings)]
            miss = _miss(tried, expected)
            if miss <= min(tolerance, turn / 4):
                found.append(_Explanation(Suspicion.GONE_ROUND, str(index + 1), miss))
    return found


def _gone_round(given: RoundCheckInput, readings: Values) -> tuple[Suspicion, str]:
    """Without a round before: opposite places of a round bar add up alike; one that misses by a turn of the needle
    stands out.
    """
    if given.needle_turn is None or len(readings) % 4:
        return Suspicion.NONE, ""
    turn, n = float(given.needle_turn.mm), len(readings)
    sums = [readings[k] + readings[k + n // 2] for k in range(n // 2)]
    if abs(max(sums) - min(sums) - turn) > turn / 5:
        return Suspicion.NONE, ""
    middle = sorted(readings)[n // 2]
    return Suspicion.GONE_ROUND, str(max(range(n), key=lambda k: abs(readings[k] - middle)) + 1)


def _moved(readings: Values, expected: Values, before: Values, line: float) -> list[_Explanation]:
    """How much of the move that was asked for was made: none, the other way, a part, too much."""
    asked = [b - e for b, e in zip(before, expected, strict=True)]
    square = sum(one * one for one in asked)
    if square <= (2 * line) ** 2 / 4:
        return []
    share = sum(a * (b - r) for a, b, r in zip(asked, before, readings, strict=True)) / square
    left = _miss(readings, [b - share * a for a, b in zip(asked, before, strict=True)])
    if left > max(line, TOLERANCE_SHARE * max(map(abs, asked)) * max(abs(share), 1)):
        return []
    if not -FARTHEST <= share <= 1 + FARTHEST or 0.65 <= share <= 1.35:
        return []
    if abs(share) < 0.15:
        return [_Explanation(Suspicion.NOTHING_MOVED, "", _miss(readings, before))]
    if share < 0:
        return [_Explanation(Suspicion.WRONG_WAY, "", left)]
    found = Suspicion.MOVED_LITTLE if share < 1 else Suspicion.MOVED_FAR
    return [_Explanation(found, f"{share:.1f}", left)]


def _order(readings: Values, expected: Values, now: float, tolerance: float) -> list[_Explanation]:
    """Read backwards, or begun at another place."""
    if max(expected) - min(expected) <= 2 * tolerance:
        return []  # too flat to tell one order from another
    n = len(readings)
    tried = [(Suspicion.ORDER, "", [readings[-k % n] for k in range(n)])]
    tried += [(Suspicion.START, str(start + 1), [readings[(k - start) % n] for k in range(n)]) for start in range(1, n)]
    found = [_Explanation(suspicion, about, _miss(turned, expected)) for suspicion, about, turned in tried]
    return [one for one in found if one.miss <= min(tolerance, now / CLEARLY)]


_OTHER_GRIP: dict[Grip, str] = {
    "outside": (
        "Do the jaws hold it from inside (a drum, a ring)? Then set it up anew as that: ease and drive change over."
    ),
    "inside": "Do the jaws hold it from outside after all? Then set it up anew as that: ease and drive change over.",
}


def _words(found: Suspicion, about: str, given: RoundCheckInput) -> tuple[str, str]:
    turn = show(given.needle_turn.mm, given.unit) if given.needle_turn else ""
    return {
        Suspicion.NONE: ("", ""),
        Suspicion.UNIT: (f"This round looks like {about}.", "Read it again, with its unit, or say that it is so."),
        Suspicion.GONE_ROUND: (
            f"Place {about} is off by one whole turn of the needle, {turn}: the dial has gone round.",
            "Read it again with the small hand, or bring the work nearer first.",
        ),
        Suspicion.ORDER: (
            "This round fits if it was read the other way round: 1, 4, 3, 2.",
            "Read the jaws in the order of their numbers, or say that it is so.",
        ),
        Suspicion.START: (
            f"This round fits if it was begun at place {about}.",
            "Begin at jaw 1, or say that it is so.",
        ),
        Suspicion.NOTHING_MOVED: (
            "Nothing has moved since the last round.",
            "Ease the one jaw before the other is driven; a screw takes up its backlash first.",
        ),
        Suspicion.WRONG_WAY: (
            "The work moved the other way.",
            (
                f"{_OTHER_GRIP[given.grip]} Else the wrong jaw was driven, or this indicator reads down when it is"
                " pushed: then choose the other surface."
            ),
        ),
        Suspicion.MOVED_LITTLE: (
            f"It moved only {about} of what was asked for.",
            "Backlash was not taken up, or the jaw screw's lead is not what was entered.",
        ),
        Suspicion.MOVED_FAR: (
            f"It moved {about} times what was asked for.",
            "Watch the needle rather than the key, or correct the jaw screw's lead.",
        ),
    }[found]


def _working(given: RoundCheckInput) -> list[Step]:
    def shown(values: list[Length]) -> str:
        return " ".join(show(Decimal(f"{one:.6f}"), given.unit) for one in _centred(values)) if values else "none"

    return [
        Step(
            name="Against what was expected",
            formula="each from its own mean: where the dial was set to zero does not matter",
            values=f"read {shown(given.readings)}; expected {shown(given.expected)}; before {shown(given.before)}",
            result=f"a miss of up to {TOLERANCE_LINES} graduations or a sixth of the swing before is not asked about",
            source=COMMON_PRACTICE,
        )
    ]
