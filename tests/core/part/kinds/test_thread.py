"""An outside thread: the limits of its pitch diameter, and a size over wires that is of it."""

import pytest

from nomisma.core.errors import InputError
from nomisma.core.part.feature_kinds import feature_kind
from tests.core.part.kinds.reading import read

KIND = feature_kind("thread")


def test_its_size_is_its_pitch_diameter() -> None:
    """Source: ISO 965-2 (recalled): M20x1.5 6g."""
    crest, _, thread = read("M20x1.5 6g x 30")
    assert (str(crest.upper), str(thread.lower), str(thread.upper)) == ("19.968 mm", "18.854 mm", "18.994 mm")


@pytest.mark.parametrize(
    ("typed", "kept"),
    [
        ("wires 20.24 on .89", "wires 20.24 on .89 for M20x1.5 6g"),
        ("over wires 20.24 on .89 for M20 x 1.5", "over wires 20.24 on .89 for M20x1.5 6g"),
        ("18.9", "18.9"),
    ],
)  # fmt: skip
def test_a_size_over_wires_says_of_which_thread(typed: str, kept: str) -> None:
    assert KIND.reading_text(typed, "M20x1.5 6g") == kept


def test_one_of_another_thread_is_refused() -> None:
    with pytest.raises(InputError, match="read of M24x2, and this is M20x1.5 6g"):
        KIND.reading_text("wires 20.24 on .89 for M24x2", "M20x1.5 6g")
