"""The function guide: every function has something to try first in each fit system, and its fits are fits."""

from typing import get_args

import pytest

from nomisma.core.errors import NotDefined
from nomisma.core.fits.b41 import inch_tables
from nomisma.core.fits.functions import FunctionName, function_named, functions
from nomisma.core.fits.shop_rules import shop_rules
from nomisma.core.registry import calculation_named


def test_the_names_of_the_type_are_those_of_the_table() -> None:
    assert set(functions()) == set(get_args(FunctionName))


@pytest.mark.parametrize("name", get_args(FunctionName))
def test_what_a_function_names_exists(name: str) -> None:
    found = function_named(name)
    assert set(found.rules) <= set(shop_rules())
    assert set(found.inch_fits) <= set(inch_tables())
    assert found.title
    assert found.reason


@pytest.mark.parametrize("name", [name for name, one in functions().items() if one.kind != "transition"])
def test_the_fit_to_try_first_is_of_the_functions_own_kind(name: str) -> None:
    found = function_named(name)
    for fit in found.iso_fits[:1]:
        result = calculation_named("fit").run({"callout": f"25 {fit}"})
        assert result.model_dump(mode="json")["kind"] == found.kind


def test_a_function_that_is_none_names_those_there_are() -> None:
    with pytest.raises(NotDefined, match="turns_freely"):
        function_named("flies")
