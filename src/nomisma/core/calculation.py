"""The one shape of a calculation, and the decorator that puts it in the registry."""

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from itertools import islice
from typing import Any, TypeVar, get_type_hints

from pydantic import BaseModel, ValidationError

from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.number import sane

I = TypeVar("I", bound=Model)  # noqa: E741 - I and R stand for the input and the result
R = TypeVar("R", bound=Model)


@dataclass(frozen=True)
class Calculation:
    """A pure function from a frozen input model to a frozen result model, with its validity and source."""

    name: str
    title: str
    validity: str
    source: str
    example: dict[str, Any]
    function: Callable[[Any], Model]
    input_model: type[Model]
    result_model: type[Model]

    def run(self, values: dict[str, Any]) -> Model:
        """Validate `values` and compute. Raises BadInput with a sentence for each field that is wrong."""
        try:
            check_text(values)
            given = self.input_model.model_validate(values)
        except ValidationError as error:
            raise _bad_input(error) from None
        except InputError as error:
            raise BadInput([error]) from error
        try:
            check_bounds(given)
            return self.function(given)
        except InputError as error:
            raise BadInput([error]) from error
        except (ArithmeticError, ValidationError) as error:
            raise BadInput(
                [InputError("These values lie too far apart to be worked together.", "Check each of them.")]
            ) from error


class BadInput(Exception):
    """All that is wrong with one set of inputs, a sentence per field."""

    def __init__(self, errors: list[InputError]) -> None:
        super().__init__(
            " ".join(
                f"{error.field}: {error.sentence}" if error.field and len(errors) > 1 else error.sentence
                for error in errors
            )
        )
        self.errors = errors

    def as_dicts(self) -> list[dict[str, str]]:
        """For JSON: field, value as typed (cut at 80 characters), sentence."""
        return [{"field": e.field, "value": str(e.value)[:80], "sentence": e.sentence} for e in self.errors]


MOST_ERRORS = 20
"""So many sentences are told of one input; how many more there are is said in one more."""
DEEPEST = 20


def _bad_input(error: ValidationError) -> BadInput:
    """A sentence per field, the first twenty of them, without the inputs of all the others."""
    told = [_sentence(item) for item in islice(error.errors(include_url=False), MOST_ERRORS)]
    more = error.error_count() - len(told)
    if more > 0:
        told.append(InputError(f"And {more} more fields cannot be used.", "Correct these first.", field="input"))
    return BadInput(told)


def check_text(values: Any, field: str = "", depth: int = 0) -> None:
    """Raises InputError for raw input no door takes: nested without end, or text with signs that are no text (U+0000,
    half a pair).

    Source: none, bookkeeping.

    >>> check_text({"bore": "25 H7"})  # nothing to say
    """
    if depth > DEEPEST:
        raise InputError("This is nested deeper than any input here.", "See the field's example.", field=field)
    if isinstance(values, str):
        if "\x00" in values or not (values.isascii() or _is_text(values)):
            raise InputError("That holds a sign that is no text.", "Type it again.", field=field)
    elif isinstance(values, dict):
        for name, inner in values.items():
            check_text(name, field, depth)
            check_text(inner, f"{field}.{name}" if field else str(name), depth + 1)
    elif isinstance(values, (list, tuple)):
        for index, inner in enumerate(values):
            check_text(inner, f"{field}.{index}", depth + 1)


def _is_text(value: str) -> bool:
    try:
        value.encode()
    except UnicodeEncodeError:
        return False
    return True


def check_bounds(given: Any, field: str = "") -> None:
    """Raises OutOfRange for the first number in an input, however deep, that no shop knows: not finite, or absurdly
    large or long.

    Source: none, bookkeeping.

    >>> check_bounds({"diameter_mm": 25.0})  # nothing to say
    """
    if isinstance(given, BaseModel):
        for name in type(given).model_fields:
            check_bounds(getattr(given, name), f"{field}.{name}" if field else name)
    elif isinstance(given, (list, tuple)):
        for index, one in enumerate(given):
            check_bounds(one, f"{field}.{index}")
    elif isinstance(given, (Decimal, float, int)) and not isinstance(given, bool):
        try:
            sane(Decimal(given))
        except OutOfRange as error:
            raise error.at(field) from None


_PLAIN = {
    "missing": ("This is needed.", "Give it a value."),
    "extra_forbidden": ("There is no such field.", "Check its spelling."),
    "finite_number": ("This is not a finite number.", "Write it like 12.5."),
    "greater_than": ("It must be above {gt}.", "Give a larger one."),
    "greater_than_equal": ("It must be {ge} or more.", "Give a larger one."),
    "less_than": ("It must be below {lt}.", "Give a smaller one."),
    "less_than_equal": ("It must be {le} or less.", "Give a smaller one."),
    "too_short": ("This needs at least {min_length}.", "Give more of them."),
    "too_long": ("There are more than {max_length} here.", "Give fewer of them."),
    "string_too_long": ("It is longer than {max_length} characters.", "Shorten it."),
}
_KINDS = {
    "bool": ("This is neither yes nor no.", "Give true or false."),
    "decimal": ("This is not a number.", "Write it like 12.5."),
    "float": ("This is not a number.", "Write it like 12.5."),
    "int": ("This is not a whole number.", "Write it like 3."),
    "list": ("This is not a list.", "Write it like [1, 2]."),
    "model": ("This is not an object of named values.", 'Write it like {{"kind": "shaft"}}.'),
    "string": ("This is not text.", "Put it in quotation marks."),
}


def _sentence(item: Any) -> InputError:
    """One Pydantic error as an InputError with the field's dotted name."""
    field = ".".join(str(part) for part in item["loc"]) or "input"
    cause = item.get("ctx", {}).get("error")
    if isinstance(cause, CarriedError):
        return cause.error.at(field)
    value = "" if item["type"] == "missing" else item.get("input", "")
    known = _PLAIN.get(item["type"]) or _KINDS.get(
        item["type"].split("_")[0], ("This cannot be used here.", "See the field's example.")
    )
    problem, remedy = (words.format(**item.get("ctx", {})) for words in known)
    if item["type"] == "literal_error":
        problem, remedy = f"“{str(value)[:40]}” is not one of the choices.", f"Choose {item['ctx']['expected']}."
    return InputError(problem, remedy, field=field, value=value)


class CarriedError(ValueError):
    """An InputError carried through Pydantic, which only takes ValueErrors."""

    def __init__(self, error: InputError) -> None:
        super().__init__(error.sentence)
        self.error = error


_registered: dict[str, Calculation] = {}


def calculation(
    *, name: str, title: str, validity: str, source: str, example: dict[str, Any]
) -> Callable[[Callable[[I], R]], Callable[[I], R]]:
    """Register a function under `name`; its type hints give the input and the result model. Source: none,
    bookkeeping.
    """

    def register(function: Callable[[I], R]) -> Callable[[I], R]:
        hints = get_type_hints(function)
        result_model = hints.pop("return")
        (input_model,) = hints.values()
        _registered[name] = Calculation(name, title, validity, source, example, function, input_model, result_model)
        return function

    return register


def registered() -> dict[str, Calculation]:
    """Every calculation registered so far, by name. Source: none, bookkeeping.

    >>> import nomisma.core.registry
    >>> "fit" in registered()
    True
    """
    return dict(sorted(_registered.items()))
