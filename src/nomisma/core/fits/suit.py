"""Make to suit: limits for the other member from the partner as it is, with the uncertainty carried through."""

from dataclasses import dataclass, replace
from decimal import Decimal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError
from nomisma.core.fits.aim import AimCosts, AimMethod, aim_size, aim_step, round_inward
from nomisma.core.fits.fit import FitKind, kind_of
from nomisma.core.fits.partner import Partner, PartnerInput, partner_from
from nomisma.core.model import Model
from nomisma.core.part.member import MemberKind, of_member
from nomisma.core.quantity.coverage import coverage_factor
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, Step

SOURCE = "arithmetic on the partner's extremes; uncertainty as in JCGM 100:2008, 6.2.1"


class SuitInput(Model):
    """Partner and the clearance window wanted (below zero is interference); `unit` is what the limits are
    rounded in.
    """

    partner: PartnerInput
    clearance_min: Difference
    clearance_max: Difference
    aim: AimMethod = "middle"
    unit: Unit = Field(description="in or mm: the unit the shop works in")
    confidence_percent: Number = Decimal(95)
    same_instrument: bool = False


class SuitResult(Model):
    """Limits and aim for the member to be made, or `possible` false with what stands in the way and what would help.

    `confidence_percent` is what the window is kept with at each place of the partner, as far as its reading goes; at
    several places at once it is a little less (of two or three at 95 %, 89 to 94 %).
    """

    made_kind: MemberKind
    possible: bool
    sentence: str
    lower: Size | None = None
    upper: Size | None = None
    aim: Size | None = None
    clearance_min: Difference | None = None
    clearance_max: Difference | None = None
    kind: FitKind | None = None
    confidence_percent: Number = Decimal(95)
    help: list[str] = Field(default=[])
    working: list[Step]


@dataclass(frozen=True, slots=True)
class Window:
    """A clearance window, mm; below zero is interference."""

    least_mm: Decimal
    greatest_mm: Decimal


def window_of(least: Length, greatest: Length) -> Window:
    """A window as entered. Raises InputError where its ends are out of order. Source: arithmetic.

    >>> window_of(Length.of(5, "mm"), Length.of(8, "mm")).least_mm
    Decimal('5')
    """
    if least.mm >= greatest.mm:
        raise InputError(
            f"The least clearance {least} is not below the greatest {greatest}.",
            "Exchange them; an interference is a clearance below zero, so the tighter one is the least.",
            field="clearance_min",
            value=str(least),
        )
    return Window(least.mm, greatest.mm)


def suit_limits(partner: Partner, window: Window) -> tuple[Decimal, Decimal]:
    """Limits (mm) of the made member that keep the window at the partner's worst places, ± its uncertainty.

    They cross (lower ≥ upper) where the window cannot be kept. Source: arithmetic.

    >>> from nomisma.core.fits.partner import PartnerInput, partner_from
    >>> bore = partner_from(PartnerInput(kind="bore", callout="25.000/25.010 mm"))
    >>> suit_limits(bore, Window(Decimal("0.005"), Decimal("0.025")))
    (Decimal('24.985'), Decimal('24.995'))
    """
    small, large = partner.smallest_mm - partner.uncertainty_mm, partner.largest_mm + partner.uncertainty_mm
    return of_member(
        partner.kind,
        bore=(large - window.greatest_mm, small - window.least_mm),
        shaft=(large + window.least_mm, small + window.greatest_mm),
    )


def clearance_with(partner: Partner, lower_mm: Decimal, upper_mm: Decimal) -> tuple[Decimal, Decimal]:
    """Least and greatest clearance (mm) of a member between two limits on this partner, ± its uncertainty.

    Source: arithmetic; worst case both ways.

    >>> from nomisma.core.fits.partner import PartnerInput, partner_from
    >>> clearance_with(partner_from(PartnerInput(kind="bore", callout="25 H7")), Decimal("24.98"), Decimal("24.99"))
    (Decimal('0.010'), Decimal('0.041'))
    """
    small, large = partner.smallest_mm - partner.uncertainty_mm, partner.largest_mm + partner.uncertainty_mm
    return of_member(
        partner.kind, bore=(small - upper_mm, large - lower_mm), shaft=(lower_mm - large, upper_mm - small)
    )


@calculation(
    name="make_to_suit",
    title="Limits for a member made to suit its partner",
    validity="Diametral clearance or interference; partner measured at one or more places, or given by a callout.",
    source=SOURCE,
    example={
        "partner": {"kind": "shaft", "readings": ["0.8752 in", "0.8751 in"], "uncertainty": "0.00012 in"},
        "clearance_min": "0.0005 in", "clearance_max": "0.0015 in", "unit": "in",
    },
)  # fmt: skip
def make_to_suit(given: SuitInput) -> SuitResult:
    """Limits (in the shop's unit, rounded inward), aim and worst-case clearances from partner and window.

    Raises InputError for a window out of order or a partner that cannot be read. Source: arithmetic; JCGM 100:2008,
    6.2.1.

    >>> result = make_to_suit(SuitInput(partner={"kind": "bore", "readings": ["25.012 mm"], "uncertainty": "0.002 mm"},
    ...     clearance_min="0.007 mm", clearance_max="0.027 mm", unit="mm"))
    >>> str(result.lower), str(result.upper)
    ('24.987 mm', '25.003 mm')
    """
    window = window_of(given.clearance_min, given.clearance_max)
    partner = trusted_to(partner_from(given.partner), given.confidence_percent, same_instrument=given.same_instrument)
    found = suit_for(partner, window, given.aim, given.unit)
    return found.model_copy(update={"confidence_percent": given.confidence_percent})


USUAL_CONFIDENCE = Decimal(95)
"""Percent: what an expanded uncertainty (k = 2) is about worth, so that nothing is widened. Source: JCGM 100:2008,
6.3.3.
"""


def trusted_to(partner: Partner, confidence_percent: Decimal, *, same_instrument: bool = False) -> Partner:
    """The partner with its uncertainty widened to a confidence, less what the same instrument for both would cancel.

    Source: JCGM 100:2008, 5.2 (a common error cancels in a difference) and 6.3.

    >>> from nomisma.core.fits.partner import PartnerInput, partner_from
    >>> bore = partner_from(PartnerInput(kind="bore", readings=["25.004 mm"], uncertainty="0.002 mm"))
    >>> round(trusted_to(bore, Decimal(99)).uncertainty_mm, 5)
    Decimal('0.00258')
    """
    factor = Decimal(1) if confidence_percent == USUAL_CONFIDENCE else coverage_factor(confidence_percent) / 2
    own = partner.uncertainty_mm
    if same_instrument:
        own = max(partner.uncertainty_mm**2 - partner.shared_mm**2, Decimal(0)).sqrt()
    if own == partner.uncertainty_mm and factor == 1:
        return partner
    step = Step(
        name="What the partner's readings are worth here",
        formula=("√(U² − shared²)" if same_instrument else "U") + f" × k/2, k for {confidence_percent} %",
        values=(
            f"U = {both(partner.uncertainty_mm, partner.unit, decimals=5)}, shared"
            f" {both(partner.shared_mm, partner.unit, decimals=5)}"
        )
        + (
            "; the same instrument reads both, so what it is off by cancels: the limits are as that instrument reads"
            if same_instrument
            else ""
        ),
        result=f"± {both(own * factor, partner.unit, decimals=5)}",
        source="JCGM 100:2008, 5.2 and 6.3",
    )
    return replace(partner, uncertainty_mm=own * factor, coverage=2 * factor, working=(*partner.working, step))


def suit_for(partner: Partner, window: Window, aim: AimMethod, unit: Unit, costs: AimCosts | None = None) -> SuitResult:
    """`make_to_suit` on a partner that is already understood. Source: arithmetic."""
    low, high = suit_limits(partner, window)
    working = [*partner.working, _partner_step(partner, unit), _limits_step(partner, window, low, high, unit)]
    if low >= high:
        return SuitResult(
            made_kind=partner.made_kind,
            possible=False,
            sentence=_cannot(partner, window, unit),
            help=what_would_help(partner, window, unit),
            working=working,
        )
    low, high = round_inward(low, high, unit)
    least, greatest = clearance_with(partner, low, high)
    working += [_rounding_step(low, high, unit), aim_step(partner.made_kind, low, high, aim, unit, costs)]
    return SuitResult(
        made_kind=partner.made_kind,
        possible=True,
        sentence=_kept(least, greatest, unit),
        lower=Length(low, unit),
        upper=Length(high, unit),
        aim=Length(aim_size(partner.made_kind, low, high, aim, unit, costs), unit),
        clearance_min=Length(least, unit),
        clearance_max=Length(greatest, unit),
        kind=kind_of(least, greatest),
        working=working,
    )


def _kept(least: Decimal, greatest: Decimal, unit: Unit) -> str:
    span = f"{show_small(least, unit)} to {show_small(greatest, unit)}"
    return f"Clearance {span} on this partner, the uncertainty of each place counted by itself."


def _cannot(partner: Partner, window: Window, unit: Unit) -> str:
    wide = show_small(window.greatest_mm - window.least_mm, unit)
    form = partner.largest_mm - partner.smallest_mm
    uncertainty = 2 * partner.uncertainty_mm
    called_out = partner.origin == "callout"
    takes = "the partner's tolerance" if called_out else "the partner's own form"
    help_ = (
        f"Ask for a wider window, or {'measure the partner' if called_out else 'correct the form of the partner'}"
        " first."
        if form >= uncertainty
        else "A finer instrument on the partner, or a wider window, would make room."
    )
    return (
        f"This window cannot be promised: it is {wide} wide, {takes} takes {show_small(form, unit)} "
        f"and the doubt in its readings {show_small(uncertainty, unit)}. {help_}"
    )


# Limits left to work to should not be narrower than this share of the window, or nobody hits them.
ROOM_SHARE = Decimal("0.3")


def what_would_help(partner: Partner, window: Window, unit: Unit) -> list[str]:
    """Ways to make room for limits, each with its figure: finer readings, one instrument for both, a wider window.

    Source: arithmetic; that three tenths of the window should be left to work to is common practice, no source.

    >>> from nomisma.core.fits.partner import PartnerInput, partner_from
    >>> bore = partner_from(PartnerInput(kind="bore", readings=["25.004 mm"], uncertainty="0.010 mm"))
    >>> len(what_would_help(bore, Window(Decimal("0.005"), Decimal("0.020")), "mm")) > 0
    True
    """
    wide, form = window.greatest_mm - window.least_mm, partner.largest_mm - partner.smallest_mm
    found = []
    # Said with k = 2, as instruments and the field are: the confidence asked for is laid on top of it again.
    to_two = 2 / partner.coverage
    needed, has = (wide * (1 - ROOM_SHARE) - form) / 2 * to_two, partner.uncertainty_mm * to_two
    if partner.origin == "measured" and 0 < needed < has:
        found.append(
            f"A partner reading worth ± {show_small(needed, unit)} or better (k = 2) instead of ±"
            f" {show_small(has, unit)}."
        )
    alone = max(partner.uncertainty_mm**2 - partner.shared_mm**2, Decimal(0)).sqrt()
    if 0 < partner.shared_mm <= partner.uncertainty_mm and wide - form - 2 * alone > 0:
        left = wide - form - 2 * alone
        found.append(
            f"The same instrument for both: what it is off by cancels, and {show_small(left, unit)} is left to work to."
        )
    enough = (form + 2 * partner.uncertainty_mm) / (1 - ROOM_SHARE)
    low, high = _widened(window, enough)
    found.append(
        f"A window at least {show_small(enough, unit)} wide: clearance {show_small(low, unit)} to"
        f" {show_small(high, unit)} would do."
    )
    if partner.origin == "measured" and form > wide / 2:
        found.append(f"A partner corrected in form: its own {show_small(form, unit)} takes most of the window.")
    if partner.origin == "callout":
        found.append("The partner measured: its own size takes less room than its tolerance.")
    return found


def _widened(window: Window, enough: Decimal) -> tuple[Decimal, Decimal]:
    """The window made so wide (mm): a clearance on its loose side, an interference on its tight one, what may be either
    on both.
    """
    missing = enough - (window.greatest_mm - window.least_mm)
    if window.least_mm >= 0:
        return window.least_mm, window.greatest_mm + missing
    if window.greatest_mm <= 0:
        return window.least_mm - missing, window.greatest_mm
    return window.least_mm - missing / 2, window.greatest_mm + missing / 2


def _partner_step(partner: Partner, unit: Unit) -> Step:
    return Step(
        name=f"Partner ({partner.kind}), {partner.origin}",
        formula="smallest and largest, each ± the expanded uncertainty",
        values=f"{both(partner.smallest_mm, unit)} to {both(partner.largest_mm, unit)}",
        result=f"± {both(partner.uncertainty_mm, unit, decimals=5)}",
        source="JCGM 100:2008, 6.2.1" if partner.uncertainty_mm else ARITHMETIC,
    )


def _limits_step(partner: Partner, window: Window, low: Decimal, high: Decimal, unit: Unit) -> Step:
    formula = of_member(
        partner.kind,
        bore="lower = largest bore + U − greatest clearance; upper = smallest bore − U − least clearance",
        shaft="lower = largest shaft + U + least clearance; upper = smallest shaft − U + greatest clearance",
    )
    decimals = 5 if unit == "in" else 4
    return Step(
        name=f"Limits of the {partner.made_kind}",
        formula=formula,
        values=(
            f"clearance {both(window.least_mm, unit, decimals=decimals)} to"
            f" {both(window.greatest_mm, unit, decimals=decimals)}"
        ),
        result=f"{both(low, unit, decimals=decimals)} to {both(high, unit, decimals=decimals)}",
        source=ARITHMETIC,
        school="make to suit",
    )


def _rounding_step(low: Decimal, high: Decimal, unit: Unit) -> Step:
    decimals = 5 if unit == "in" else 4
    return Step(
        name="Rounded inward",
        formula="lower limit up, upper limit down, so that nothing outside is let in",
        result=f"{both(low, unit, decimals=decimals)} to {both(high, unit, decimals=decimals)}",
        source=ARITHMETIC,
    )
