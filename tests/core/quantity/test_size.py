"""A size as it is read out, in both units, with the drill it is."""

from nomisma.core.cutting.drill_sizes import DrillSizesResult
from nomisma.core.quantity.size import SizeResult
from nomisma.core.registry import calculation_named


def drill(size: str, **more: object) -> DrillSizesResult:
    found = calculation_named("drill_sizes").run({"size": size, **more})
    assert isinstance(found, DrillSizesResult)
    return found


def test_a_quarter_inch_stands_beside_its_letter_and_a_decimal_says_its_drill() -> None:
    assert drill("0.25 in").sentence.startswith("0.25 in is 1/4 in and letter E.")
    result = calculation_named("size").run({"text": "0.116", "unit": "in"})
    assert isinstance(result, SizeResult)
    assert result.drills == ["#32"]
