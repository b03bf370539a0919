"""What every public function of the core says of itself: where it is from, one running example, and the unit of each
bare number.
"""

import importlib
import inspect
import pkgutil
import typing
from collections.abc import Callable
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest

import nomisma.core
from nomisma.core.part.kind import FeatureKind
from nomisma.core.registry import calculations

PREFIX = "nomisma.core."


def public_functions() -> dict[str, Callable[..., Any]]:
    found = {}
    for module in pkgutil.walk_packages(nomisma.core.__path__, PREFIX):
        for name, value in vars(importlib.import_module(module.name)).items():
            function = inspect.unwrap(value) if callable(value) else value
            if inspect.isfunction(function) and not name.startswith("_") and function.__module__ == module.name:
                found[f"{module.name.removeprefix(PREFIX)}.{name}"] = function
    return found


FUNCTIONS = public_functions()
WHOLE_MODELS = {
    "calculation.calculation",
    "cutting.coach_words.headline",
    "cutting.coach_words.sentence",
    "cutting.coach_words.plan_note",
    "cutting.coach_words.coach_working",
    "cutting.depth.next_depth",
    "cutting.findings.findings",
    "cutting.next_cut.predicted",
    "fits.suit.suit_for",
    "joints.bush_working.rule_of",
    "joints.bush_working.press_rule",
    "joints.bush_working.run_rule",
    "joints.bush_working.bush_sentence",
    "joints.bush_working.warm_cautions",
    "joints.bush_working.bush_cautions",
    "joints.bush_working.bush_working",
    "joints.close_in.close_in",
    "joints.close_in.check_housing",
    "joints.interference.joint_of",
    "joints.interference.interference_range",
    "joints.interference.check_temperature",
    "practice.follow.make_move",
    "practice.follow.follow",
    "practice.part.coach_input",
    "practice.part.coached_part",
    "practice.turned.coached",
    "practice.turned.by_hand",
    "practice.turned.by_careful_hand",
    "practice.turned.many",
    "quantity.fields.text_by",
    "truing.course.advise",
    "truing.course.judged_rounds",
    "truing.course.phase_of",
}
"""Functions that take a whole model of their room: the calculation beside them, or their test, is their example. None
may be added.
"""


def has_example(name: str) -> bool:
    registered = {
        f"{one.function.__module__.removeprefix(PREFIX)}.{one.function.__name__}" for one in calculations().values()
    }
    return ">>>" in (FUNCTIONS[name].__doc__ or "") or name in registered


@pytest.mark.parametrize("name", FUNCTIONS)
def test_a_public_function_names_its_source(name: str) -> None:
    assert "ource:" in (FUNCTIONS[name].__doc__ or "")


def test_a_public_function_has_a_running_example() -> None:
    without = {name for name in FUNCTIONS if not has_example(name)}
    assert without - WHOLE_MODELS == set()
    assert WHOLE_MODELS - without == set()


UNITS = {
    "mm",
    "um",
    "deg",
    "rad",
    "thou",
    "percent",
    "um_m",
    "in",
    "lines",
    "line",
    "k",
    "c",
    "n",
    "nm",
    "mpa",
    "gpa",
    "rpm",
    "m_min",
    "hz",
    "s",
    "minutes",
    "hours",
    "per_k",
    "kg",
    "n_mm2",
    "j",
    "w",
    "turns",
    "degrees",
    "ppm",
    "newtons",
    "megapascals",
    "newton_metres",
    "micrometres",
    "mm2",
    "turn",
}
BARE = {
    "count",
    "shares",
    "share",
    "factor",
    "ratio",
    "index",
    "number",
    "n",
    "seed",
    "times",
    "decimals",
    "denominator",
    "parts",
    "places",
    "teeth",
    "last",
    "most",
    "least",
    "at",
    "chance",
    "wanted",
    "standard",
    "value",
    "sense",
    "repeats",
    "piece",
    "pieces",
    "length",
    "level",
    "z",
    "k",
    "batch",
    "subgroup",
    "near",
    "depth",
    "start",
    "power",
    "drift_x",
    "drift_y",
    "spread",
    "fraction",
    "risk",
    "readings",
    "pieces_left",
    "most_rounds",
    "longest",
    "rework",
    "scrap",
    "rate",
    "freedom",
    "harmonic",
}
"""Numbers without a unit: counts, shares, chances, and values whose unit is any one of their caller's."""


def bare_numbers(function: Callable[..., Any]) -> list[str]:
    hints = typing.get_type_hints(function)
    numbers = (float, int, Decimal, float | None, int | None, Decimal | None)
    return [name for name in inspect.signature(function).parameters if hints.get(name) in numbers]


@pytest.mark.parametrize("name", [name for name, function in FUNCTIONS.items() if bare_numbers(function)])
def test_a_bare_number_has_its_unit_in_its_name_or_none(name: str) -> None:
    said = FUNCTIONS[name].__doc__ or ""
    unsaid = [
        one
        for one in bare_numbers(FUNCTIONS[name])
        if not one.endswith(tuple(f"_{unit}" for unit in UNITS)) and one not in UNITS | BARE and f"`{one}`" not in said
    ]
    assert unsaid == []


def is_only_data(module: str) -> bool:
    """Whether it is a kind of feature that does nothing of its own."""
    return ".part.kinds." in module and type(importlib.import_module(module).KIND) is FeatureKind


def test_every_module_of_the_core_has_a_test_module_of_its_name() -> None:
    """A kind of feature that only says data is tested with all the others, by what every kind has to hold
    (test_said_lines.py).
    """
    modules = {
        module.name.rpartition(".")[2]
        for module in pkgutil.walk_packages(nomisma.core.__path__, PREFIX)
        if not module.ispkg and not is_only_data(module.name)
    }
    tested = {path.stem.removeprefix("test_") for path in Path(__file__).parents[1].rglob("test_*.py")}
    assert modules - tested == set()
