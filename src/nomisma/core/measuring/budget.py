"""An uncertainty budget: components combined as the GUM has it, with effective degrees of freedom."""

from dataclasses import dataclass
from decimal import Decimal
from math import inf, isfinite

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError
from nomisma.core.measuring.combination import DIVISORS, Distribution, combined
from nomisma.core.model import Model
from nomisma.core.quantity.coverage import coverage_factor
from nomisma.core.working import Step

SOURCE = "JCGM 100:2008 (GUM), 4.3, 5.1.2, G.4.1 and G.6.4"


class Component(Model):
    """One cause: its value (standard uncertainty if normal, else a half-width) in its own unit, and what it moves the
    result by.

    `sensitivity`: result's unit per unit of the cause. `degrees_of_freedom`: left out where it is as good as endless.
    """

    name: str = Field(min_length=1, max_length=80)
    value: float = Field(ge=0)
    distribution: Distribution = "normal"
    sensitivity: float = 1.0
    degrees_of_freedom: float | None = Field(default=None, gt=0)


class BudgetInput(Model):
    """Components of one result, all brought to its unit by their sensitivities, and the level of confidence wanted."""

    components: list[Component] = Field(min_length=1, max_length=40)
    confidence_percent: float = Field(default=95.45, gt=50, lt=100)
    result_unit: str = Field(default="", max_length=20)


class BudgetRow(Model):
    """One line of the table: its part of the result (standard uncertainty, result's unit) and its share of the
    variance.
    """

    name: str
    distribution: str
    contribution: float
    share_percent: float


class BudgetResult(Model):
    """Standard and expanded uncertainty in the result's unit, effective degrees of freedom (none: endless), coverage
    factor.
    """

    rows: list[BudgetRow]
    standard_uncertainty: float
    effective_degrees_of_freedom: float | None
    coverage_factor: float
    expanded_uncertainty: float
    working: list[Step]


@dataclass(frozen=True, slots=True)
class Combined:
    """Components combined: rows, standard uncertainty, effective degrees of freedom (inf where endless)."""

    rows: list[BudgetRow]
    standard: float
    freedom: float


def combine(components: list[Component]) -> Combined:
    """Root sum of squares and Welch–Satterthwaite. Source: JCGM 100:2008, 5.1.2 and G.4.1.

    >>> round(combine([Component(name="a", value=3), Component(name="b", value=4)]).standard, 6)
    5.0
    """
    parts = [Decimal(repr(abs(one.sensitivity) * one.value)) / DIVISORS[one.distribution] for one in components]
    found = combined(parts)
    rows = [
        BudgetRow(name=one.name, distribution=one.distribution, contribution=float(part), share_percent=float(share))
        for one, part, share in zip(components, parts, found.shares_percent, strict=True)
    ]
    below = sum(
        (
            part**4 / Decimal(repr(one.degrees_of_freedom))
            for one, part in zip(components, parts, strict=True)
            if one.degrees_of_freedom
        ),
        Decimal(0),
    )
    return Combined(rows, float(found.standard), float(found.variance**2 / below) if below else inf)


@calculation(
    name="uncertainty_budget",
    title="An uncertainty budget",
    validity="Independent causes, small enough that the result moves in proportion to each.",
    source=SOURCE,
    example={
        "components": [
            {"name": "standard", "value": 0.5, "distribution": "rectangular"},
            {"name": "repeats", "value": 0.3, "degrees_of_freedom": 4},
        ],
        "result_unit": "µm",
    },
)
def uncertainty_budget(given: BudgetInput) -> BudgetResult:
    """Combine causes into one expanded uncertainty at a level of confidence. Raises InputError where nothing
    contributes.

    Source: JCGM 100:2008, 5.1.2 (combination), G.4.1 (degrees of freedom), G.6.4 (coverage factor).
    """
    found = combine(given.components)
    if not found.standard:
        raise InputError(
            "No component contributes anything.", "Give at least one value above zero.", field="components"
        )
    factor = float(coverage_factor(Decimal(repr(given.confidence_percent)), found.freedom))
    unit = f" {given.result_unit}" if given.result_unit else ""
    endless = not isfinite(found.freedom)
    return BudgetResult(
        rows=found.rows,
        standard_uncertainty=found.standard,
        effective_degrees_of_freedom=None if endless else found.freedom,
        coverage_factor=factor,
        expanded_uncertainty=factor * found.standard,
        working=[
            *(
                Step(
                    name=row.name,
                    formula=(
                        f"{one.value:g} × {one.sensitivity:g} / {DIVISORS[one.distribution]:.3f} ({row.distribution})"
                    ),
                    result=f"{row.contribution:.4g}{unit}, {row.share_percent:.0f} % of the variance",
                    source="JCGM 100:2008, 4.3",
                )
                for one, row in zip(given.components, found.rows, strict=True)
            ),
            Step(
                name="Combined",
                formula="√(sum of squares)",
                result=f"{found.standard:.4g}{unit}",
                source="JCGM 100:2008, 5.1.2",
            ),
            Step(
                name="Expanded",
                formula="k × combined; k is Student's t for the effective degrees of freedom",
                values=(
                    f"{'endless' if endless else f'{found.freedom:.1f}'} degrees, {given.confidence_percent:g} %: k ="
                    f" {factor:.2f}"
                ),
                result=f"{factor * found.standard:.4g}{unit}",
                source="JCGM 100:2008, G.4.1 and G.6.4",
            ),
        ],
    )
