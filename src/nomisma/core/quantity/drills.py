"""Number and letter drill sizes, in inches."""

from csv import DictReader
from decimal import Decimal
from functools import cache
from importlib.resources import files


@cache
def drill_sizes_in() -> dict[str, Decimal]:
    """Diameter in inches by name: "1" to "80" and "A" to "Z".

    Source: ASME B94.11M table of number and letter sizes, recalled; checked for order and for the
    steps between neighbours in tests/standards.
    """
    lines = files("nomisma.core.quantity").joinpath("drill_sizes.csv").read_text(encoding="utf-8").splitlines()
    rows = DictReader(line for line in lines if not line.startswith("#"))
    return {row["name"]: Decimal(row["diameter_in"]) for row in rows}
