"""The one shape of a calculation, and the decorator that puts it in the registry."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeVar, get_type_hints

from pydantic import ValidationError

from nomisma.core.errors import InputError
from nomisma.core.model import Model

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
            given = self.input_model.model_validate(values)
        except ValidationError as error:
            raise BadInput([_sentence(item) for item in error.errors()]) from error
        try:
            return self.function(given)
        except InputError as error:
            raise BadInput([error]) from error


class BadInput(Exception):
    """All that is wrong with one set of inputs, a sentence per field."""

    def __init__(self, errors: list[InputError]) -> None:
        super().__init__(" ".join(error.sentence for error in errors))
        self.errors = errors

    def as_dicts(self) -> list[dict[str, str]]:
        """For JSON: field, value as typed (cut at 80 characters), sentence."""
        return [{"field": e.field, "value": str(e.value)[:80], "sentence": e.sentence} for e in self.errors]


_PLAIN = {
    "missing": ("This is needed.", "Give it a value."),
    "extra_forbidden": ("There is no such field.", "Check its spelling."),
}


def _sentence(item: Any) -> InputError:
    """One Pydantic error as an InputError with the field's dotted name."""
    field = ".".join(str(part) for part in item["loc"]) or "input"
    cause = item.get("ctx", {}).get("error")
    if isinstance(cause, CarriedError):
        return cause.error.at(field)
    value = "" if item["type"] == "missing" else item.get("input", "")
    problem, remedy = _PLAIN.get(item["type"], (f"{item['msg']}.", "Change it and try again."))
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
    """Register a function under `name`; its type hints give the input and the result model."""

    def register(function: Callable[[I], R]) -> Callable[[I], R]:
        hints = get_type_hints(function)
        result_model = hints.pop("return")
        (input_model,) = hints.values()
        _registered[name] = Calculation(name, title, validity, source, example, function, input_model, result_model)
        return function

    return register


def registered() -> dict[str, Calculation]:
    """Every calculation registered so far, by name."""
    return dict(sorted(_registered.items()))
