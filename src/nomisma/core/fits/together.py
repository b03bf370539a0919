"""Will it go together: worst case and probability of a clearance from both members' limits or readings."""

from dataclasses import dataclass
from decimal import Decimal
from math import sqrt
from statistics import NormalDist
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import AmbiguousLength, InputError
from nomisma.core.fits.fit import FitKind, kind_of
from nomisma.core.fits.partner import Partner, PartnerInput, partner_from
from nomisma.core.fits.suit import window_of
from nomisma.core.model import Model
from nomisma.core.part.member import MemberKind
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Difference, Number
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import ARITHMETIC, Step

Spread = Literal["centred", "anywhere"]
CURVE_POINTS = 81


class TogetherInput(Model):
    """Both members, each by its callout or its readings, and the window wanted (any clearance above zero if left out).

    `spread` says how sizes lie between called-out limits: `centred` (normal, limits three standard deviations from the
    middle) or `anywhere` (every size between the limits alike, the cautious view).
    """

    bore: PartnerInput
    shaft: PartnerInput
    clearance_min: Difference | None = None
    clearance_max: Difference | None = None
    spread: Spread = "centred"
    unit: Unit | None = None


class DensityPoint(Model):
    """Relative likelihood (greatest = 1) of a clearance in mm."""

    clearance_mm: float
    density: float


class TogetherResult(Model):
    """Worst case, likely range and chances of the clearance; below zero is interference."""

    clearance_min: Difference
    clearance_max: Difference
    likely_min: Difference
    likely_max: Difference
    mean: Difference
    kind: FitKind
    goes_together_percent: Number
    wanted_min: Difference | None = None
    wanted_max: Difference | None = None
    in_window_percent: Number | None = None
    curve: list[DensityPoint] = Field(default=[])
    sentence: str
    working: list[Step]


@dataclass(frozen=True, slots=True)
class _Spread:
    """Clearance as a sum of two members: half-widths of even spreads (mm) and the standard deviation of the rest."""

    mean: float
    even_halves: tuple[float, ...]
    normal: float

    @property
    def deviation(self) -> float:
        return sqrt(self.normal**2 + sum(half**2 / 3 for half in self.even_halves))

    def below(self, clearance: float) -> float:
        """Probability that the clearance is below a value (mm)."""
        x = clearance - self.mean
        if self.normal == 0 and not self.even_halves:
            return 1.0 if x > 0 else 0.0
        if self.normal == 0:
            return _even_sum(x, self.even_halves)
        if not self.even_halves:
            return NormalDist(0, self.normal).cdf(x)
        return _even_and_normal(x, self.even_halves, self.normal)


def _even_sum(x: float, halves: tuple[float, ...]) -> float:
    """Distribution function of a sum of one or two centred even spreads."""
    if len(halves) == 1:
        return min(max((x / halves[0] + 1) / 2, 0.0), 1.0)
    a, b = halves

    def ramp(value: float) -> float:
        return max(value, 0.0) ** 2 / 2

    return min(max((ramp(x + a + b) - ramp(x + a - b) - ramp(x - a + b) + ramp(x - a - b)) / (4 * a * b), 0.0), 1.0)


def _even_and_normal(x: float, halves: tuple[float, ...], normal: float) -> float:
    """Distribution function of one or two centred even spreads and a normal one, in closed form.

    The normal distribution integrated once over each even spread: ∫Φ = zΦ + φ, ∫∫Φ = ((z² + 1)Φ + zφ)/2. Source: JCGM
    101:2008 (convolution); calculus.
    """
    standard = NormalDist()

    def once(value: float) -> float:
        z = value / normal
        return normal * (z * standard.cdf(z) + standard.pdf(z))

    def twice(value: float) -> float:
        z = value / normal
        return normal**2 * ((z * z + 1) * standard.cdf(z) + z * standard.pdf(z)) / 2

    if len(halves) == 1:
        (a,) = halves
        found = (once(x + a) - once(x - a)) / (2 * a)
    else:
        a, b = halves
        found = (twice(x + a + b) - twice(x + a - b) - twice(x - a + b) + twice(x - a - b)) / (4 * a * b)
    return min(max(found, 0.0), 1.0)


@calculation(
    name="together",
    title="Will it go together: worst case and probability",
    validity="Diametral clearance of one bore on one shaft; sizes independent of each other.",
    source="arithmetic; JCGM 101:2008 (propagation of distributions)",
    example={
        "bore": {"kind": "bore", "callout": "0.8755/0.8762 in"},
        "shaft": {"kind": "shaft", "callout": "0.8745/0.8750 in"},
    },
)  # fmt: skip
def together(given: TogetherInput) -> TogetherResult:
    """Worst-case and likely clearance and the chance of a window, from both members. Raises InputError.

    Source: arithmetic (worst case); JCGM 101:2008 (sum of two independent distributions).

    >>> found = together(TogetherInput(bore={"kind": "bore", "callout": "25 H7"}, shaft={"kind": "shaft",
    ...     "callout": "25 k6"}))
    >>> found.kind, round(float(found.goes_together_percent), 1)
    ('transition', 68.7)
    """
    bore, shaft = _member(given.bore, "bore"), _member(given.shaft, "shaft")
    if abs(bore.mean_mm - shaft.mean_mm) > max(bore.mean_mm, shaft.mean_mm) * Decimal("0.1"):
        raise AmbiguousLength(
            f"A bore of {Length(bore.mean_mm, bore.unit)} and a shaft of {Length(shaft.mean_mm, shaft.unit)} are no"
            " pair.",
            "Check the unit of each.",
            field="shaft",
        )
    unit = given.unit or bore.unit
    least = bore.smallest_mm - bore.uncertainty_mm - shaft.largest_mm - shaft.uncertainty_mm
    greatest = bore.largest_mm + bore.uncertainty_mm - shaft.smallest_mm + shaft.uncertainty_mm
    spread = _spread_of(bore, shaft, given.spread)
    window = _window(given)
    in_window = None if window is None else _chance(spread, window)
    goes = 1 - spread.below(0.0)
    likely = _likely(spread)
    return TogetherResult(
        clearance_min=Length(least, unit),
        clearance_max=Length(greatest, unit),
        likely_min=Length.from_mm(likely[0], unit),
        likely_max=Length.from_mm(likely[1], unit),
        mean=Length.from_mm(spread.mean, unit),
        kind=kind_of(least, greatest),
        goes_together_percent=_percent(goes),
        wanted_min=given.clearance_min,
        wanted_max=given.clearance_max,
        in_window_percent=None if in_window is None else _percent(in_window),
        curve=_curve(spread, least, greatest),
        sentence=_sentence(least, greatest, goes, in_window),
        working=_working(given, bore, shaft, spread, goes, (least, greatest), likely, unit),
    )


def _member(given: PartnerInput, kind: MemberKind) -> Partner:
    if given.kind != kind:
        raise InputError(f"The {kind} is entered as a {given.kind}.", "Exchange the two members.", field=f"{kind}.kind")
    try:
        return partner_from(given)
    except InputError as error:
        error.field = error.field.replace("partner", kind)
        raise


def _window(given: TogetherInput) -> tuple[float, float] | None:
    if given.clearance_min is None and given.clearance_max is None:
        return None
    if given.clearance_min is None or given.clearance_max is None:
        missing = "clearance_min" if given.clearance_min is None else "clearance_max"
        raise InputError("A window needs both its ends.", "Give the least and the greatest clearance.", field=missing)
    window = window_of(given.clearance_min, given.clearance_max)
    return float(window.least_mm), float(window.greatest_mm)


def _spread_of(bore: Partner, shaft: Partner, spread: Spread) -> _Spread:
    """Called-out limits: by the spread chosen; readings: even between their extremes, each worth U/2 (standard)."""
    evens: list[float] = []
    variance = 0.0
    for member in (bore, shaft):
        half = float(member.largest_mm - member.smallest_mm) / 2
        if member.origin == "callout" and spread == "centred":
            variance += (half / 3) ** 2
        elif half:
            evens.append(half)
        variance += float(member.uncertainty_mm / 2) ** 2
    return _Spread(float(bore.mean_mm - shaft.mean_mm), tuple(evens), sqrt(variance))


def _chance(spread: _Spread, window: tuple[float, float]) -> float:
    return max(spread.below(window[1]) - spread.below(window[0]), 0.0)


def _likely(spread: _Spread) -> tuple[float, float]:
    """The middle 95 % by the standard deviation, no wider than the even spreads allow. Source: JCGM 101:2008, 5.3.4."""
    reach = 1.96 * spread.deviation
    if spread.normal == 0:
        reach = min(reach, sum(spread.even_halves))
    return spread.mean - reach, spread.mean + reach


def _curve(spread: _Spread, least: Decimal, greatest: Decimal) -> list[DensityPoint]:
    low, high = float(least), float(greatest)
    if spread.deviation == 0 or high <= low:
        return []
    low, high = min(low, spread.mean - 3.2 * spread.deviation), max(high, spread.mean + 3.2 * spread.deviation)
    step = (high - low) / CURVE_POINTS
    slices = [
        spread.below(low + step * (index + 1)) - spread.below(low + step * index) for index in range(CURVE_POINTS)
    ]
    top = max(slices) or 1.0
    return [
        DensityPoint(clearance_mm=low + step * (i + 0.5), density=max(value, 0.0) / top)
        for i, value in enumerate(slices)
    ]


def _percent(chance: float) -> Decimal:
    """To a hundredth, never rounded up to certainty nor down to nothing: those are only claimed where nothing is left
    over.
    """
    percent = Decimal(f"{min(max(chance, 0.0), 1.0) * 100:.2f}")
    if percent == 100 and chance < 1:
        return Decimal("99.99")
    return Decimal("0.01") if percent == 0 and chance > 0 else percent


def _sentence(least: Decimal, greatest: Decimal, goes: float, in_window: float | None) -> str:
    if least >= 0:
        first = "It always goes together, even at the worst of both members."
    elif greatest <= 0:
        first = "It never goes together by hand: every pair interferes. Press it, or shrink it."
    else:
        first = f"{goes * 100:.1f} of 100 pairs go together with clearance; the others interfere."
    if in_window is None:
        return first
    return f"{first} {in_window * 100:.1f} of 100 land in the window wanted."


def _working(
    given: TogetherInput,
    bore: Partner,
    shaft: Partner,
    spread: _Spread,
    goes: float,
    ends: tuple[Decimal, Decimal],
    likely: tuple[float, float],
    unit: Unit,
) -> list[Step]:
    decimals = 5 if unit == "in" else 4
    members = "; ".join(
        f"{member.kind} {both(member.smallest_mm, unit)} to {both(member.largest_mm, unit)} ±"
        f" {both(member.uncertainty_mm, unit, decimals=5)}"
        for member in (bore, shaft)
    )
    how = (
        "limits three standard deviations from the middle"
        if given.spread == "centred"
        else "every size between the limits alike"
    )
    return [
        *bore.working,
        *shaft.working,
        Step(
            name="Worst case",
            formula="smallest bore − largest shaft; largest bore − smallest shaft; doubt of readings counted",
            values=members,
            result=f"{both(ends[0], unit, decimals=decimals)} to {both(ends[1], unit, decimals=decimals)}",
            source=ARITHMETIC,
        ),
        Step(
            name="Spread of the clearance",
            formula="√(s² of bore + s² of shaft)",
            values=f"called-out members: {how}; measured members: their readings and half their expanded uncertainty",
            result=(
                f"mean {both(as_mm(spread.mean), unit, decimals=decimals)}, s ="
                f" {both(as_mm(spread.deviation), unit, decimals=5)}"
            ),
            source="JCGM 101:2008; independent members",
        ),
        Step(
            name="Likely clearance, 95 of 100 pairs",
            formula="mean ± 1.96·s",
            result=(
                f"{both(as_mm(likely[0]), unit, decimals=decimals)} to"
                f" {both(as_mm(likely[1]), unit, decimals=decimals)}"
            ),
            source="JCGM 101:2008",
        ),
        Step(
            name="Goes together",
            formula="P(clearance above zero)",
            result=f"{goes * 100:.2f} %",
            source="JCGM 101:2008",
        ),
    ]
