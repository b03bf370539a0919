"""The zero check: an instrument on its working standard; what it is off by, and whether it may still be used."""

from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.measuring.uncertainty import ZeroState
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference
from nomisma.core.quantity.length import Length
from nomisma.core.working import COMMON_PRACTICE, Step

FARTHEST = Decimal("1")
"""mm: a zero off by more is a misread turn or the wrong standard, not a zero error. Source: common practice, no source.
"""


class ZeroCheckInput(Model):
    """The standard's size (0 where the faces close), what the instrument read on it, and its permitted error."""

    standard: Difference
    readings: list[Difference] = Field(min_length=1, max_length=20)
    permitted_error: Difference


class ZeroCheckResult(Model):
    """`zero_error` is to be subtracted from every reading after this check; `passed` whether it is within the permitted
    error.
    """

    zero_error: Difference
    spread: Difference
    passed: bool
    sentence: str
    working: list[Step]


def failed(zero_error_mm: Decimal, permitted_error_mm: Decimal) -> bool:
    """Whether a zero error (mm) is beyond the permitted error (mm); exactly on it passes. Source: common practice.

    >>> failed(Decimal("0.002"), Decimal("0.002")), failed(Decimal("-0.0025"), Decimal("0.002"))
    (False, True)
    """
    return abs(zero_error_mm) > permitted_error_mm


@calculation(
    name="zero_check",
    title="An instrument on its standard",
    validity="One standard read one to twenty times; a zero off by a millimetre or more is asked about.",
    source="common practice, no source: clean faces, ratchet, subtract what it is off by",
    example={"standard": "0 in", "readings": ["0.0001 in"], "permitted_error": "0.0001 in"},
)
def zero_check(given: ZeroCheckInput) -> ZeroCheckResult:
    """The zero error (mean reading less the standard) and whether it is within the permitted error. Raises OutOfRange.

    Source: common practice, no source.

    >>> found = zero_check(ZeroCheckInput(standard="25 mm", readings=["25.001 mm", "25.003 mm"],
    ...     permitted_error="0.004 mm"))
    >>> str(found.zero_error), found.passed
    ('0.002 mm', True)
    """
    if given.permitted_error.mm <= 0:
        raise OutOfRange(
            "A permitted error is above zero.", "Give the ± of its maker or standard.", field="permitted_error"
        )
    sizes = [reading.mm for reading in given.readings]
    unit = given.readings[0].unit
    mean = sum(sizes, Decimal(0)) / len(sizes)
    error = mean - given.standard.mm
    if abs(error) >= FARTHEST:
        raise OutOfRange(
            f"{given.readings[0]} on a standard of {given.standard} is off by {show_small(abs(error), unit)}.",
            "That is a misread turn or another standard: look again. Nothing was logged.",
            field="readings",
        )
    bad = failed(error, given.permitted_error.mm)
    return ZeroCheckResult(
        zero_error=Length(error, unit),
        spread=Length(max(sizes) - min(sizes), unit),
        passed=not bad,
        sentence=_sentence(error, bad, unit),
        working=[
            Step(
                name="Zero error",
                formula="mean reading − standard; subtracted from every reading after it",
                values=f"{both(mean, unit, decimals=6)} − {both(given.standard.mm, unit, decimals=6)}",
                result=show_small(error, unit, signed=True),
                source=COMMON_PRACTICE,
            ),
            Step(
                name="May it be used?",
                formula="|zero error| at most the permitted error",
                values=f"permitted ± {show_small(given.permitted_error.mm, unit)}",
                result="no" if bad else "yes",
                source=COMMON_PRACTICE,
            ),
        ],
    )


def _sentence(error: Decimal, bad: bool, unit: Literal["in", "mm"]) -> str:
    if bad:
        return (
            f"Off by {show_small(error, unit, signed=True)}, more than it is allowed: clean the faces and check again;"
            " if it stays, set it or take it out of use. Every reading since the last good check is in doubt."
        )
    if error:
        return f"Good. {show_small(error, unit, signed=True)} is taken off every reading from here on."
    return "Good: it reads its standard."


ZERO_WORDS: dict[ZeroState, str] = {"not_said": "never checked here", "fresh": "checked", "stale": "check is overdue"}
