"""Every field of every worksheet tried with 0, left empty, and in the other unit: an answer, or a sentence at
a field.
"""

from collections.abc import Iterator
from decimal import Decimal
from typing import Any

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.quantity.length import Length, Unit, in_unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.registry import calculation_named
from nomisma.web.worksheets.catalog import TOOLS
from nomisma.web.worksheets.tool import Tool

OTHER: dict[Unit, Unit] = {"in": "mm", "mm": "in"}
FIELDS = [(tool, one) for tool in TOOLS.values() for one in tool.fields if one.is_typed]


def answer(tool: Tool, asked: dict[str, str], unit: Unit) -> Any:
    """What it answers, or the fields it says something about."""
    try:
        return calculation_named(tool.calculation).run(tool.inputs(asked, unit))
    except BadInput as error:
        return {one.field.split(".")[0] for one in error.errors}
    except InputError as error:
        return {error.field}


def own_unit(tool: Tool) -> Unit:
    """The unit its example is answered in."""
    return next(unit for unit in OTHER if not isinstance(answer(tool, tool.examples, unit), set))


@pytest.mark.parametrize(
    ("tool", "one"), FIELDS, ids=lambda each: getattr(each, "calculation", getattr(each, "name", ""))
)
@pytest.mark.parametrize("typed", ["0", ""])
def test_a_zero_and_an_empty_field_are_answered_or_asked_about(tool: Tool, one: Any, typed: str) -> None:
    unit = own_unit(tool)
    asked = {**tool.examples, one.name: typed}
    found = answer(tool, asked, unit)
    if isinstance(found, set):
        assert found <= {each.name for each in tool.fields} | {""}, found
    else:
        tool.picture(found, unit)


def in_the_other_unit(text: str, unit: Unit) -> str:
    """A size as it would be typed in the other unit: exact from inch, to a millionth from mm; an empty field is one."""
    if not text:
        return ""
    other = OTHER[parse_length(text, unit, positive=False).unit]
    return f"{in_unit(parse_length(text, unit, positive=False).mm, other):.9f} {other}"


def lengths_in(found: Any) -> Iterator[Decimal]:
    """Every length an answer holds, mm, in the order it says them."""
    if isinstance(found, Length):
        yield found.mm
    elif isinstance(found, list):
        for one in found:
            yield from lengths_in(one)
    elif hasattr(found, "model_fields_set"):
        for name in type(found).model_fields:
            yield from lengths_in(getattr(found, name))


@pytest.mark.parametrize("tool", TOOLS.values(), ids=lambda tool: tool.calculation)
def test_sizes_typed_in_the_other_unit_are_the_same_sizes(tool: Tool) -> None:
    unit = own_unit(tool)
    sizes = {one.name for one in tool.fields if one.kind in ("size", "difference")}
    other = {name: in_the_other_unit(text, unit) if name in sizes else text for name, text in tool.examples.items()}
    first, second = (list(lengths_in(answer(tool, asked, unit))) for asked in (tool.examples, other))
    assert len(first) == len(second)
    assert [float(one) for one in second] == pytest.approx([float(one) for one in first], abs=1e-4)


@pytest.mark.parametrize(
    ("tool", "one"),
    [(tool, one) for tool, one in FIELDS if one.kind in ("size", "difference") and not tool.examples[one.name]],
    ids=lambda each: getattr(each, "calculation", getattr(each, "name", "")),
)
def test_a_field_without_an_example_takes_either_unit_alike(tool: Tool, one: Any) -> None:
    unit = own_unit(tool)
    first, second = (answer(tool, {**tool.examples, one.name: typed}, unit) for typed in ("0.508 mm", "0.020 in"))
    if isinstance(first, set):
        assert second == first
    else:
        assert [float(mm) for mm in lengths_in(second)] == pytest.approx(
            [float(mm) for mm in lengths_in(first)], abs=1e-4
        )
