"""Kinds of instrument: each with usual figures that go together."""

import pytest

from nomisma.core.errors import NotDefined
from nomisma.core.measuring.instrument_kinds import instrument_kind, instrument_kinds


def test_names_and_titles_differ() -> None:
    kinds = instrument_kinds()
    assert len({kind.title for kind in kinds.values()}) == len(kinds)
    assert all(name == kind.name for name, kind in kinds.items())


def test_a_kind_that_is_none_is_refused_with_its_field() -> None:
    with pytest.raises(NotDefined) as refused:
        instrument_kind("divining_rod", field="kind")
    assert refused.value.field == "kind"
