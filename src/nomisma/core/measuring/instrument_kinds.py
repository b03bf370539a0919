"""Kinds of instrument: how each is read, and sensible defaults for one that is entered in the shop."""

from csv import DictReader
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal, cast

from nomisma.core.errors import NotDefined
from nomisma.core.quantity.length import Unit

How = Literal["reads", "transfer", "bracket"]
Measures = Literal["shaft", "bore", "both", "length"]
SOURCE = "common practice, no source; micrometers and calipers after ISO 3611 and ISO 13385-1 as recalled, to be checked"


@dataclass(frozen=True, slots=True)
class InstrumentKind:
    """One kind: lengths are text in `unit`; `unsure` names the values recalled without certainty.

    `how`: it reads a size, hands it to a micrometer (transfer), or brackets it between two pins. `points`: how many touch.
    """

    name: str
    title: str
    measures: Measures
    how: How
    unit: Unit
    resolution: str
    permitted_error: str
    repeatability: str
    range_from: str
    range_to: str
    points: int
    standard: str
    check_every_days: int
    unsure: tuple[str, ...]


@cache
def instrument_kinds() -> dict[str, InstrumentKind]:
    """Every kind by name. Source: instrument_kinds.csv, where each value's source stands."""
    lines = files("nomisma.core.measuring").joinpath("instrument_kinds.csv").read_text(encoding="utf-8").splitlines()
    return {row["name"]: _kind(row) for row in DictReader(line for line in lines if not line.startswith("#"))}


def _kind(row: dict[str, str]) -> InstrumentKind:
    text = {column: value.removesuffix("?") for column, value in row.items()}
    return InstrumentKind(
        name=text["name"],
        title=text["title"],
        measures=cast(Measures, text["measures"]),
        how=cast(How, text["how"]),
        unit=cast(Unit, text["unit"]),
        resolution=text["resolution"],
        permitted_error=text["permitted_error"],
        repeatability=text["repeatability"],
        range_from=text["range_from"],
        range_to=text["range_to"],
        points=int(text["points"]),
        standard=text["standard"],
        check_every_days=int(text["every"]),
        unsure=tuple(column for column, value in row.items() if value.endswith("?")),
    )


def instrument_kind(name: str, *, field: str = "instrument_kind") -> InstrumentKind:
    """The kind of that name. Raises NotDefined with the list.

    >>> instrument_kind("telescoping_gauge").how
    'transfer'
    """
    try:
        return instrument_kinds()[name]
    except KeyError:
        raise NotDefined(
            f"“{name[:40]}” is not a kind of instrument here.",
            f"Choose one of {', '.join(instrument_kinds())}.",
            field=field,
            value=name,
        ) from None
