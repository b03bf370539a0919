"""A hand that follows the advice, with its error: what the advice alone is worth on a piece of simulated work."""

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.practice.chuck import Circle, Feel, SimulatedChuck
from nomisma.core.quantity.length import Length
from nomisma.core.truing.four_jaw import JawMove, TrueUpInput, TrueUpResult, true_up
from nomisma.core.truing.seen import Stop
from nomisma.core.truing.surface import places_of

MOST_ROUNDS = 8
SNUG_CLEAR_MM = 0.05
"""How much farther than needed a hand eases a jaw, mm."""
CLOSING_MM = 0.02
"""What it closes the eased jaw by, again and again until it touches, mm."""
Hand = Callable[[], float]
"""What share of the move asked for a hand makes, anew each time."""


@dataclass(frozen=True, slots=True)
class Followed:
    """Rounds that moved a jaw, the true swing at the end (mm), and what the last round said."""

    rounds: int
    total_indicator_reading_mm: float
    offset_mm: float
    stop: Stop


def read_round(chuck: SimulatedChuck, circle: Circle = "near") -> list[Length]:
    """One pass round at the level's places, as the needle says. Source: simulation, this tool's own.

    >>> from nomisma.core.practice.levels import levels
    >>> from nomisma.core.practice.chuck import SimulatedChuck
    >>> len(read_round(SimulatedChuck(next(iter(levels().values())), 1)))
    4
    """
    level = chuck.level
    places = places_of(level.surface, level.places)
    return [Length(Decimal(f"{chuck.needle(place.at_deg, circle):.6f}"), level.unit) for place in places]


def advice(chuck: SimulatedChuck, *, tightened: bool = False) -> TrueUpResult:
    """What the tool says to one round of it. Source: simulation, this tool's own.

    >>> from nomisma.core.practice.levels import levels
    >>> from nomisma.core.practice.chuck import SimulatedChuck
    >>> bool(advice(SimulatedChuck(next(iter(levels().values())), 1)).steps)
    True
    """
    level = chuck.level
    return true_up(
        TrueUpInput(
            surface=level.surface,
            grip=level.grip,
            readings=read_round(chuck),
            target=level.target,
            screw_lead=level.lead,
            graduation=level.graduation,
            tightened=tightened,
            unit=level.unit,
        )
    )


def make_move(chuck: SimulatedChuck, move: JawMove, share: float) -> None:
    """Ease the one jaw well clear, drive the other while the needle is watched, and close the eased one to touch.

    Source: simulation, this tool's own.
    """
    wanted, lead = float(move.move.mm) * share, float(chuck.level.lead.mm)
    clear = wanted + 2 * chuck.level.backlash_mm + SNUG_CLEAR_MM
    chuck.turn(move.ease_jaw, -clear / lead)
    before = chuck.offset_along(move.drive_jaw)
    chuck.turn(move.drive_jaw, chuck.jaws[move.drive_jaw].slack / lead)
    for _ in range(6):
        left = wanted - abs(before - chuck.offset_along(move.drive_jaw))
        if left <= 1e-6:
            break
        chuck.turn(move.drive_jaw, left / lead)
    while chuck.turn(move.ease_jaw, CLOSING_MM / lead) in (Feel.SLACK, Feel.FREE):
        pass


def follow(chuck: SimulatedChuck, hand: Hand, *, most_rounds: int = MOST_ROUNDS) -> Followed:
    """Read, move as advised, read again, until it says stop or the rounds are used up. Source: simulation, this tool's
    own.
    """
    rounds = 0
    found = advice(chuck)
    while found.stop is Stop.MOVE and rounds < most_rounds:
        for move in found.moves:
            make_move(chuck, move, hand())
        rounds += 1
        found = advice(chuck)
    return Followed(rounds, chuck.total_indicator_reading(), chuck.offset(), found.stop)
