"""The limits in force of a feature: where they come from, what lies between them, and one size held against them."""

from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.measuring.verdict import VerdictInput, VerdictResult, verdict
from nomisma.core.part.feature import Acceptance, Feature
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.part.requirement import LIMITS_FROM_WORDS
from nomisma.core.quantity.length import Length, Unit
from nomisma.store.models import Limits

LIMITS_FROM_TITLES: dict[str, str] = {
    "make_to_suit": "Make to suit", "shop_rule": "Shop rule", "iso": "ISO 286", "inch": "Inch classes",
    **{str(name): f"Limits by {words}" for name, words in LIMITS_FROM_WORDS.items() if name != "reference"},
    "bush_outside": "Bush, outside to press in", "bore_before_pressing": "Bush, bore before pressing",
    "bore_after_pressing": "Bush, bore after pressing", "reference": "For reference",
}  # fmt: skip
"""Where limits come from, in words: the fit system, or what else gave them."""


@dataclass(frozen=True, slots=True)
class Between:
    """Two limits and the aim between them, mm."""

    lower_mm: Decimal
    upper_mm: Decimal
    aim_mm: Decimal


def feature_within(kind: KindName, limits: Limits | None) -> Feature:
    """A feature of a kind with one version of its limits."""
    return Feature(kind, limits.lower_mm, limits.upper_mm, limits.aim_mm) if limits else Feature(kind)


def judged_against(
    limits: Limits | None,
    kind: KindName,
    size_mm: Decimal,
    uncertainty_mm: Decimal,
    unit: Unit,
    *,
    acceptance: Acceptance = "guarded",
    half_bracket_mm: Decimal | None = None,
) -> VerdictResult | None:
    """One size against a version of the limits; None without limits."""
    if limits is None or (limits.lower_mm is None and limits.upper_mm is None):
        return None
    lower, upper, aim = (
        Length(mm, unit) if mm is not None else None for mm in (limits.lower_mm, limits.upper_mm, limits.aim_mm)
    )
    return verdict(
        VerdictInput(
            kind=kind,
            reading=Length(size_mm, unit),
            lower=lower,
            upper=upper,
            aim=aim,
            uncertainty=Length(uncertainty_mm, unit),
            acceptance=acceptance,
            half_bracket=Length(half_bracket_mm, unit) if half_bracket_mm is not None else None,
        )
    )
