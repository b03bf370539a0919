"""The base of every input and result that passes a calculation's door."""

from collections.abc import Mapping
from typing import Any, Self

from pydantic import BaseModel, ConfigDict


class Model(BaseModel):
    """Frozen, and strict about field names: a misspelt field is an error, never ignored. Its errors do not repeat what
    was typed.
    """

    model_config = ConfigDict(
        frozen=True, extra="forbid", arbitrary_types_allowed=True, hide_input_in_errors=True, defer_build=True
    )

    @classmethod
    def as_kept(cls, said: Mapping[str, Any]) -> Self:
        """What was kept, maybe by another version: fields this one does not know are passed over. Raises pydantic's
        ValidationError.
        """
        return cls.model_validate(said, extra="ignore")
