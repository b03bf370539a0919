"""The base of every input and result that passes a calculation's door."""

from pydantic import BaseModel, ConfigDict


class Model(BaseModel):
    """Frozen, and strict about field names: a misspelt field is an error, never ignored. Its errors do not repeat what was typed."""

    model_config = ConfigDict(frozen=True, extra="forbid", arbitrary_types_allowed=True, hide_input_in_errors=True)
