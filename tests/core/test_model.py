"""Models of the core: frozen, and strict about the names of their fields."""

import pytest
from pydantic import ValidationError

from nomisma.core.model import Model


class Pin(Model):
    """A pin of so many millimetres."""

    diameter_mm: float


def test_a_misspelt_field_is_an_error() -> None:
    with pytest.raises(ValidationError, match="diametre_mm"):
        Pin.model_validate({"diameter_mm": 3, "diametre_mm": 4})


def test_what_was_made_is_not_changed() -> None:
    pin, field = Pin(diameter_mm=3), "diameter_mm"
    with pytest.raises(ValidationError, match="frozen"):
        setattr(pin, field, 4)
    assert pin.diameter_mm == 3


def test_what_was_typed_is_not_in_an_error() -> None:
    with pytest.raises(ValidationError) as refused:
        Pin.model_validate({"diameter_mm": "a private word"})
    assert "a private word" not in str(refused.value)
