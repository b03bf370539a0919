"""Misreads: a reading held against what was to be expected, by the steps an instrument is misread by."""

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.part.feature import Feature, toward_metal
from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.quantity.display import both, show
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import MM_PER_INCH, Length, Unit
from nomisma.core.quantity.misread_steps import exchanged_digits, misread_steps
from nomisma.core.working import COMMON_PRACTICE, Step

FORM_ALLOWANCE_MM = Decimal("0.075")
"""How far places of one feature may lie apart before it is asked about: three thou. Source: common practice, no source.
"""
FORM_GROWS = Decimal("1.25")
"""How much more a form seen before may show after another cut. Source: this tool's own choice."""
A_CUT_TAKES_OFF = "a cut only takes metal off, and should not go far past the limit"
FARTHEST_MM = Decimal(10_000)
"""No part is longer: an end that lies there is open."""
DIAL_ALLOWANCE_MM = Decimal("0.15")
"""How far a cut may miss what was dialled before it is asked about: six thou. Source: common practice, no source."""
DIAL_SHARE = Decimal("0.3")  # common practice, no source: or three tenths of what was dialled
MOST_EARLIER = 60
Basis = Literal["nothing", "other_places", "dial", "before_the_cut", "limits"]


class MisreadInput(Model):
    """A reading and what is known to hold it against; what is not known is left out.

    `others`: standing readings since the last cut. `before`: readings before it, where metal came off since.
    `expected`: what the dial was set for. `instrument_unit`: the unit the instrument reads in. `hidden_scale`: a depth
    micrometer, whose thimble covers what has been counted and whose numbers run backwards. `form_seen`: how far apart
    the places of this piece lay at an earlier cut: work that was oval then is oval now.
    """

    kind: KindName
    reading: Difference
    instrument_unit: Unit
    uncertainty: Difference = Length(Decimal(0))
    others: list[Size] = Field(default=[], max_length=MOST_EARLIER)
    before: list[Size] = Field(default=[], max_length=MOST_EARLIER)
    expected: Size | None = None
    lower: Difference | None = None
    upper: Size | None = None
    hidden_scale: bool = False
    form_seen: Difference = Length(Decimal(0))


class MisreadResult(Model):
    """Whether to ask before it is believed, why, and the size it may have been."""

    suspected: bool
    basis: Basis
    expected_lower: Size | None = None
    expected_upper: Size | None = None
    step: str = ""
    likely: Size | None = None
    sentence: str
    working: list[Step]


@dataclass(frozen=True, slots=True)
class _Expected:
    """Where a reading was to be expected, mm, and why."""

    basis: Basis
    low_mm: Decimal
    high_mm: Decimal
    words: str

    def holds(self, size_mm: Decimal) -> bool:
        return self.low_mm <= size_mm <= self.high_mm


@calculation(
    name="misread",
    title="Is this reading what was to be expected?",
    validity="One reading of a shaft or a bore with a micrometer or bore gauge; asks only where something is known to "
        "hold it against.",
    source="the steps and allowances: common practice, no source",
    example={
        "kind": "shaft", "reading": "28.93 mm", "instrument_unit": "mm", "expected": "29.43 mm", "before": ["30.00 mm"],
        "uncertainty": "0.003 mm",
    },
)  # fmt: skip
def misread(given: MisreadInput) -> MisreadResult:
    """Hold a reading against the dial, the other places, the last cut or the limits. Raises OutOfRange.

    Source: common practice: misreads follow the instrument (a turn, a hundred thou, an inch, two digits exchanged).

    >>> found = misread(MisreadInput(kind="shaft", reading="28.93 mm", instrument_unit="mm", expected="29.43 mm",
    ...     before=["30.00 mm"])); found.step, str(found.likely)
    ('one turn of the thimble', '29.43 mm')
    """
    if given.uncertainty.mm < 0:
        raise OutOfRange("An uncertainty is never below zero.", "Leave out the sign.", field="uncertainty")
    expected = _expectation(given)
    unit = given.reading.unit
    if expected is None:
        return MisreadResult(
            suspected=False,
            basis="nothing",
            sentence="There is nothing yet to hold it against.",
            working=_working(given, None, ""),
        )
    ends = {"expected_lower": _or_none(expected.low_mm, unit), "expected_upper": _or_none(expected.high_mm, unit)}
    if expected.holds(given.reading.mm):
        return MisreadResult(
            suspected=False,
            basis=expected.basis,
            **ends,
            sentence="As was to be expected.",
            working=_working(given, expected, ""),
        )
    step, likely = _likely(given, expected)
    return MisreadResult(
        suspected=True,
        basis=expected.basis,
        **ends,
        step=step,
        likely=Length(likely, unit) if likely is not None else None,
        sentence=_sentence(given, expected, step, likely),
        working=_working(given, expected, step),
    )


def _or_none(mm: Decimal, unit: Unit) -> Length | None:
    """An open end is no size."""
    return Length(mm, unit) if 0 < mm < FARTHEST_MM else None


def _expectation(given: MisreadInput) -> _Expected | None:
    """The strongest of what is known: other places, the dial, the size before the cut, the limits."""
    uncertainty = 3 * given.uncertainty.mm
    if given.others:
        sizes = [size.mm for size in given.others]
        room = max((max(sizes) - min(sizes)) / 2, FORM_ALLOWANCE_MM, uncertainty, given.form_seen.mm * FORM_GROWS)
        return _Expected("other_places", min(sizes) - room, max(sizes) + room, "the other places since the last cut")
    if given.expected is not None:
        dialled = abs(given.before[-1].mm - given.expected.mm) if given.before else Decimal(0)
        room = max(DIAL_ALLOWANCE_MM, dialled * DIAL_SHARE, uncertainty)
        return _Expected("dial", given.expected.mm - room, given.expected.mm + room, "what the dial was set for")
    low, high = _from_limits(given)
    if given.before:
        sizes = [size.mm for size in given.before]
        return _Expected(
            "before_the_cut",
            *_after_a_cut(given, sizes, uncertainty, low, high),
            A_CUT_TAKES_OFF,
        )
    if given.lower or given.upper:
        return _Expected("limits", low, high, "a first reading far past the limit beyond which metal is gone is rare")
    return None


def _after_a_cut(
    given: MisreadInput, sizes_mm: list[Decimal], uncertainty_mm: Decimal, low_mm: Decimal, high_mm: Decimal
) -> tuple[Decimal, Decimal]:
    match toward_metal(feature_kind(given.kind).material_side):
        case 1:
            return low_mm, max(sizes_mm) + uncertainty_mm
        case -1:
            return min(sizes_mm) - uncertainty_mm, high_mm
        case 0:
            return low_mm, high_mm


def _from_limits(given: MisreadInput) -> tuple[Decimal, Decimal]:
    """How far past the metal-gone limit a reading may lie before it is asked about; the other end is open."""
    lower, upper = (limit.mm if limit else None for limit in (given.lower, given.upper))
    gone_mm = Feature(given.kind, lower, upper).metal_gone_limit_mm
    if gone_mm is None:
        return Decimal(0), FARTHEST_MM
    between = upper - lower if lower is not None and upper is not None else Decimal(0)
    room = max(between, DIAL_ALLOWANCE_MM)
    return (gone_mm - room, FARTHEST_MM) if gone_mm == lower else (Decimal(0), gone_mm + room)


def _likely(given: MisreadInput, expected: _Expected) -> tuple[str, Decimal | None]:
    """The misreading that brings the reading nearest to where it was expected; of equals the smaller step."""
    found = [(words, size) for words, size in _readings_meant(given) if size > 0 and expected.holds(size)]
    if not found:
        return "", None
    if expected.basis in ("before_the_cut", "limits"):  # one end is open, so no place in it is nearest
        return found[0]
    middle = (expected.low_mm + expected.high_mm) / 2
    return min(found, key=lambda pair: abs(pair[1] - middle))


def _readings_meant(given: MisreadInput) -> Iterator[tuple[str, Decimal]]:
    for step in misread_steps(given.instrument_unit):
        for sign in (1, -1):
            yield step.words, given.reading.mm + sign * step.mm
    if given.hidden_scale:
        yield from (("the hidden scale read the wrong way", size) for size in _backwards(given))
    for size in exchanged_digits(given.reading):
        yield "two digits exchanged", size


def _backwards(given: MisreadInput) -> Iterator[Decimal]:
    """What the thimble's numbers read backwards would have been, with the line of the sleeve counted or not, mm."""
    turn = misread_steps(given.instrument_unit)[0].mm
    thimble = given.reading.mm % turn
    sleeve = given.reading.mm - thimble
    for lines in (0, -1, 1):
        yield sleeve + lines * turn + (turn - thimble)


def _sentence(given: MisreadInput, expected: _Expected, step: str, likely: Decimal | None) -> str:
    unit = given.reading.unit
    closed = expected.basis in ("other_places", "dial")
    if step and likely is not None and closed:
        return f"Read again: {given.reading} was not to be expected; off by {step} it would be {show(likely, unit)}."
    middle = (expected.low_mm + expected.high_mm) / 2
    if closed:
        off = show(abs(given.reading.mm - middle), unit)
        return f"Read again: {given.reading} lies {off} from {expected.words}."
    explained = f" {step[0].upper()}{step[1:]} would explain it." if step else ""
    return f"Read again: {given.reading} was not to be expected; {expected.words}.{explained}"


def _working(given: MisreadInput, expected: _Expected | None, step: str) -> list[Step]:
    unit = given.reading.unit
    if expected is None:
        return [
            Step(
                name="Nothing to hold it against",
                formula="no other place, no dial, no cut before, no limits",
                result="believed",
                source=COMMON_PRACTICE,
            )
        ]
    ends = " to ".join(both(mm, unit) if 0 < mm < FARTHEST_MM else "open" for mm in (expected.low_mm, expected.high_mm))
    steps = ", ".join(f"{one.step} {one.unit}" for one in misread_steps(given.instrument_unit))
    return [
        Step(
            name="Expected",
            formula=expected.words,
            values="allowances: three thou between places, six thou or three tenths of the cut for the dial",
            result=ends,
            source=COMMON_PRACTICE,
        ),
        Step(
            name="Steps an instrument is misread by",
            formula="reading ± a step, or two digits exchanged, against what was expected",
            values=f"{steps}; 1 in = {MM_PER_INCH} mm",
            result=step or "none fits",
            source=COMMON_PRACTICE,
        ),
    ]
