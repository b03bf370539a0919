"""The shop's rules by diameter: a rule and a diameter to a window of clearance."""

import tomllib
from decimal import Decimal
from functools import cache
from importlib.resources import files
from typing import Any, Literal

from pydantic import Field, model_validator

from nomisma.core.calculation import CarriedError
from nomisma.core.errors import InputError
from nomisma.core.model import Model
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Unit
from nomisma.core.working import COMMON_PRACTICE, Step

Growth = Literal["fixed", "cube_root", "linear"]
_POWER: dict[Growth, float] = {"fixed": 0.0, "cube_root": 1 / 3, "linear": 1.0}
LONGEST_TEXT = 200


class ShopRule(Model):
    """A rule by diameter: base + value × (diameter / reference) ^ growth, for the least and the greatest clearance.

    Below zero is interference. `from_size` to `to_size` is the range of use. Source: common practice, no source.
    """

    name: str = Field(max_length=40)
    title: str = Field(max_length=80)
    text: str = Field(max_length=LONGEST_TEXT)
    growth: Growth
    reference: Size
    base_least: Difference
    base_most: Difference
    least: Difference
    most: Difference
    from_size: Size
    to_size: Size
    note: str = Field(default="", max_length=LONGEST_TEXT)

    @model_validator(mode="after")
    def _in_order(self) -> "ShopRule":
        if self.from_size.mm >= self.to_size.mm:
            raise CarriedError(
                InputError("The range of use ends before it begins.", "Exchange its two sizes.", field="from_size")
            )
        for size in (self.from_size, self.to_size):
            least, most = self.window_mm(size.mm)
            if least >= most:
                raise CarriedError(
                    InputError(
                        f"At {size} this rule's least clearance is not below its greatest.",
                        "An interference is a clearance below zero, so the tighter figure is the least.",
                        field="least",
                    )
                )
        return self

    def window_mm(self, diameter_mm: Decimal) -> tuple[Decimal, Decimal]:
        """Least and greatest clearance (mm, below zero = interference) at a diameter (mm > 0).

        >>> rule = shop_rules()["slip"]; rule.window_mm(Decimal("22.225"))
        (Decimal('0.01270'), Decimal('0.02540'))
        """
        ratio = diameter_mm / self.reference.mm
        scale = (
            Decimal(1) if ratio == 1 or self.growth == "fixed" else Decimal(repr(float(ratio) ** _POWER[self.growth]))
        )
        if self.growth == "linear":
            scale = ratio
        return self.base_least.mm + self.least.mm * scale, self.base_most.mm + self.most.mm * scale

    def outside_sentence(self, diameter_mm: Decimal, unit: Unit) -> str:
        """What to say where a diameter (mm) is outside the rule's range of use; empty inside."""
        if self.from_size.mm <= diameter_mm <= self.to_size.mm:
            return ""
        return f"{both(diameter_mm, unit)} is outside this rule's range of use, {self.from_size} to {self.to_size}."


@cache
def shop_rules() -> dict[str, ShopRule]:
    """The rules a shop starts with, by name. Source: common practice, no source; the figures stand in shop_rules.toml.

    >>> len(shop_rules()) > 5
    True
    """
    text = files("nomisma.core.fits").joinpath("shop_rules.toml").read_text(encoding="utf-8")
    rows: list[dict[str, Any]] = tomllib.loads(text)["rule"]
    return {row["name"]: ShopRule.model_validate(row) for row in rows}


def window_step(rule: ShopRule, purpose: str, diameter_mm: Decimal, unit: Unit) -> Step:
    """The working of a rule's window at a diameter (mm). Source: common practice, no source.

    >>> rule = next(iter(shop_rules().values()))
    >>> window_step(rule, "clearance", Decimal(20), "mm").name
    'Clearance wanted: clearance'
    """
    least, most = rule.window_mm(diameter_mm)
    decimals = 5 if unit == "in" else 4
    return Step(
        name=f"Clearance wanted: {purpose.lower()}",
        formula=rule.text,
        values=f"at {both(diameter_mm, unit)}" + (f"; {rule.note}" if rule.note else ""),
        result=f"{both(least, unit, decimals=decimals)} to {both(most, unit, decimals=decimals)}",
        source=COMMON_PRACTICE,
        school="shop rule",
    )
