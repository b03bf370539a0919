"""What the joint must do: the function guide, read from its data table, with the shop rule as a window."""

import tomllib
from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from importlib.resources import files
from typing import Any, Literal

from nomisma.core.errors import NotDefined
from nomisma.core.fits.fit import FitKind
from nomisma.core.quantity.display import both
from nomisma.core.quantity.length import MM_PER_INCH, Unit, in_unit
from nomisma.core.working import COMMON_PRACTICE, Step

FunctionName = Literal["turns_freely", "slides_by_hand", "locates_and_comes_apart", "pressed_for_good"]


@dataclass(frozen=True)
class Function:
    """One thing a joint can be asked to do; the first ISO fit is the one to try first."""

    name: str
    title: str
    reason: str
    watch: str
    iso_fits: tuple[str, ...]
    kind: FitKind
    shop_rule: dict[str, str]
    caution: str = ""


@cache
def functions() -> dict[str, Function]:
    """The guide by name. Source of every shop rule: common practice, no source."""
    text = files("nomisma.core.fits").joinpath("functions.toml").read_text(encoding="utf-8")
    rows: list[dict[str, Any]] = tomllib.loads(text)["function"]
    return {row["name"]: Function(**{**row, "iso_fits": tuple(row["iso_fits"])}) for row in rows}


def function_named(name: str) -> Function:
    """The function of that name. Raises NotDefined with the list."""
    try:
        return functions()[name]
    except KeyError:
        known = ", ".join(functions())
        raise NotDefined(
            f"“{name[:40]}” is not in the function guide.", f"Choose one of {known}.", field="function"
        ) from None


def shop_window(function: Function, diameter_mm: Decimal) -> tuple[Decimal, Decimal]:
    """Least and greatest clearance (mm, below zero = interference) by the shop rule at a diameter (mm).

    Source: common practice, no source; the figures stand in functions.toml.

    >>> low, high = shop_window(function_named("slides_by_hand"), Decimal("22.225")); in_unit(low, "in"), in_unit(high, "in")
    (Decimal('0.0005'), Decimal('0.0010'))
    """
    rule = {key: Decimal(value) for key, value in function.shop_rule.items() if _is_number(value)}
    diameter_in = in_unit(diameter_mm, "in")
    if function.shop_rule["scale"] == "cube_root":
        ratio = diameter_in / rule["reference_in"]
        scale = Decimal(1) if ratio == 1 else Decimal(repr(float(ratio) ** (1 / 3)))
        ends = [rule["least_in"] * scale, rule["most_in"] * scale]
    else:
        figure = rule["base_in"] + rule["per_inch"] * diameter_in
        ends = [figure * rule["low"], figure * rule["high"]]
    least, most = sorted(end * MM_PER_INCH for end in ends)
    return least, most


def _is_number(text: str) -> bool:
    return text.lstrip("-").replace(".", "", 1).isdigit()


def window_step(function: Function, diameter_mm: Decimal, unit: Unit) -> Step:
    """The working of the shop rule's window at a diameter (mm)."""
    least, most = shop_window(function, diameter_mm)
    decimals = 5 if unit == "in" else 4
    return Step(
        name=f"Clearance wanted: {function.title.lower()}",
        formula=function.shop_rule["text"],
        values=f"at {both(diameter_mm, unit)}; {function.shop_rule['spread']}",
        result=f"{both(least, unit, decimals=decimals)} to {both(most, unit, decimals=decimals)}",
        source=COMMON_PRACTICE,
        school="shop rule",
    )
