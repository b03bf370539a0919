"""What tightening does to the work in one chuck: learned from rounds before and after, and used once it is
sure of it.
"""

from math import atan2, degrees, hypot, sqrt

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.truing.harmonics import in_turn
from nomisma.core.truing.turn_words import towards
from nomisma.core.working import Step

LEAST_TIMES = 3
"""Tightenings that are needed before a chuck is said to have a habit. Source: this tool's own choice."""


class TighteningInput(Model):
    """How far the work moved at each tightening (newest first or last, it does not matter): towards jaw 1 and towards
    jaw 2.
    """

    towards_1: list[Difference] = Field(min_length=1, max_length=500)
    towards_2: list[Difference] = Field(min_length=1, max_length=500)
    unit: Unit = "in"


class TighteningResult(Model):
    """The chuck's mean movement; `counts` where it is far enough from none to be used in the advice."""

    times: int
    towards_1: Difference
    towards_2: Difference
    amount: Difference
    at_deg: float
    uncertainty: Difference
    counts: bool
    sentence: str
    working: list[Step]


@calculation(
    name="tightening",
    title="What this chuck does when it is tightened",
    validity="The same chuck, its jaws by their own numbers; a round before and after tightening, nothing moved in "
        "between.",
    source="mean of what was seen (JCGM 100:2008, 4.2); a vector's test (Hotelling), equal scatter in both directions",
    example={
        "towards_1": ["0 in", "0.0001 in", "0 in", "-0.0001 in"],
        "towards_2": ["0.0003 in", "0.0003 in", "0.0004 in", "0.0002 in"], "unit": "in",
    },
)  # fmt: skip
def tightening(given: TighteningInput) -> TighteningResult:
    """The mean movement and its doubt; it counts from three times on, where it is more than its doubt. Raises
    InputError.

    Source: JCGM 100:2008, 4.2 (mean); the radius within which the mean of so many aimless movements stays at 95 %:
    √(2·F·s²/n), F of Fisher with 2 and 2(n − 1) degrees of freedom, s² pooled over both directions (Hotelling's test
    for equal scatter).

    >>> found = tightening(TighteningInput(towards_1=["0 in"] * 3, towards_2=["0.0003 in", "0.0003 in", "0.0004 in"]))
    >>> found.sentence
    'This chuck moves the work 0.33 thou towards jaw 2 when it is tightened (seen 3 times).'
    """
    if len(given.towards_1) != len(given.towards_2):
        raise InputError(
            "Each tightening has a movement towards jaw 1 and one towards jaw 2.",
            "Give both, none is 0.",
            field="towards_2",
        )
    times = len(given.towards_1)
    means = [sum(float(one.mm) for one in column) / times for column in (given.towards_1, given.towards_2)]
    uncertainty = _uncertainty(given, means)
    amount, at_deg = hypot(*means), in_turn(degrees(atan2(means[1], means[0])))
    counts = times >= LEAST_TIMES and amount > uncertainty
    unit = given.unit
    return TighteningResult(
        times=times,
        towards_1=Length.from_mm(means[0], unit),
        towards_2=Length.from_mm(means[1], unit),
        amount=Length.from_mm(amount, unit),
        at_deg=at_deg,
        uncertainty=Length.from_mm(uncertainty, unit),
        counts=counts,
        sentence=_sentence(times, amount, at_deg, counts=counts, unit=unit),
        working=[
            Step(
                name="Mean movement",
                formula="mean of what each tightening did, towards jaw 1 and towards jaw 2",
                values=", ".join(both(as_mm(mean), unit, decimals=5 if unit == "in" else 4) for mean in means),
                result=show_small(as_mm(amount), unit),
                source="JCGM 100:2008, 4.2.1",
            ),
            Step(
                name="Its doubt",
                formula=(
                    "√(2·F·s²/n), s pooled over both directions, F of Fisher with 2 and 2(n − 1) at 95 %; one alone"
                    " says nothing"
                ),
                values=f"n = {times}",
                result=show_small(as_mm(uncertainty), unit) if times > 1 else "not known",
                source="Hotelling's test of a mean vector, equal scatter in both directions",
            ),
        ],
    )


def _uncertainty(given: TighteningInput, means: list[float]) -> float:
    """Radius about nothing in which the mean stays by chance, mm; as large as the movement where only one was seen."""
    times = len(given.towards_1)
    if times < 2:
        return hypot(*means)
    from scipy.special import fdtri

    columns = zip((given.towards_1, given.towards_2), means, strict=True)
    freedom = 2 * (times - 1)
    pooled = sum(sum((float(one.mm) - mean) ** 2 for one in column) for column, mean in columns) / freedom
    return sqrt(2 * float(fdtri(2, freedom, 0.95)) * pooled / times)


def _sentence(times: int, amount: float, at_deg: float, *, counts: bool, unit: Unit) -> str:
    seen = f"seen {times} time{'s' if times != 1 else ''}"
    shown = show_small(as_mm(amount), unit)
    if counts:
        return f"This chuck moves the work {shown} towards {towards(at_deg)} when it is tightened ({seen})."
    if times < LEAST_TIMES:
        return f"Tightening moved the work {shown} towards {towards(at_deg)} ({seen}): too seldom to count on."
    return f"Tightening moves the work no way in particular in this chuck ({seen})."
