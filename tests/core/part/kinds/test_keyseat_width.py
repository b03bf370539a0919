"""A keyseat: width, depth and length in one line, in a diameter by its letter or its size."""

import pytest

from nomisma.core.errors import InputError
from tests.core.part.kinds.reading import again, read


@pytest.mark.parametrize(
    ("line", "kinds", "along"),
    [
        ("keyway 8 P9 x 4 +0.2/0 x 32 on A", ["keyseat_width", "keyseat_depth", "keyseat_length"], "on A"),
        ("keyseat 8 x 4", ["keyseat_width", "keyseat_depth"], ""),
        ("keyway 8 x 4 x 20 in 40", ["keyseat_width", "keyseat_depth", "keyseat_length"], "on A"),
    ],
)
def test_up_to_three_sizes(line: str, kinds: list[str], along: str) -> None:
    found = read(line)
    assert ([one.kind for one in found], found[0].along) == (kinds, along)


def test_it_is_said_again_in_one_line() -> None:
    assert again("keyway 8 P9 x 4 +0.2/0 x 32 on A") == ["keyway 8 P9 x 4 +0.2/0 x 32 on A"]


@pytest.mark.parametrize("line", ["keyway 8 x 4 x 3 x 2", "keyway 8 x 4 x 20 in 41", "keyway x 4"])
def test_what_cannot_be_is_refused(line: str) -> None:
    with pytest.raises(InputError):
        read(line)
