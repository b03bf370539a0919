"""What the joint must do: the function guide, read from its data table."""

import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any, Literal

from nomisma.core.errors import NotDefined
from nomisma.core.fits.fit import FitKind

FunctionName = Literal[
    "turns_freely",
    "turns_slowly",
    "slides_by_hand",
    "locates_and_comes_apart",
    "wrings_on",
    "located_and_keyed",
    "pressed_for_good",
    "shrunk_for_torque",
    "bonded",
    "just_clears",
]


@dataclass(frozen=True)
class Function:
    """One thing a joint can be asked to do; the first fit, class and rule of each fit system is the one to
    try first.
    """

    name: str
    title: str
    reason: str
    watch: str
    iso_fits: tuple[str, ...]
    inch_fits: tuple[str, ...]
    rules: tuple[str, ...]
    kind: FitKind
    caution: str = ""


@cache
def functions() -> dict[str, Function]:
    """The guide by name. Source: ISO 286-1 annex B, ANSI B4.1 section 3; shop rules: common practice, no source.

    >>> functions()["turns_freely"].kind
    'clearance'
    """
    text = files("nomisma.core.fits").joinpath("functions.toml").read_text(encoding="utf-8")
    rows: list[dict[str, Any]] = tomllib.loads(text)["function"]
    lists = ("iso_fits", "inch_fits", "rules")
    return {row["name"]: Function(**{**row, **{name: tuple(row[name]) for name in lists}}) for row in rows}


def function_named(name: str) -> Function:
    """The function of that name. Raises NotDefined with the list.

    Source: functions.csv (common practice, no source).

    >>> function_named("turns_freely").title
    'Turns freely with oil'
    """
    try:
        return functions()[name]
    except KeyError:
        known = ", ".join(functions())
        raise NotDefined(
            f"“{name[:40]}” is not in the function guide.", f"Choose one of {known}.", field="function"
        ) from None
