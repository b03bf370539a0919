"""A countersink: the diameter it opens to, and its included angle."""

import pytest

from nomisma.core.errors import InputError
from tests.core.part.kinds.reading import again, read


@pytest.mark.parametrize(
    ("line", "angle", "upper"),
    [
        ("csk 12 ±0.2 x 90°", 90, "12.2 mm"), ("countersink 12 ±0.2", 90, "12.2 mm"),
        ("csk 82° to 12 ±0.2", 82, "12.2 mm"),
        ("⌵ ⌀12 ±0.2 x 120", 120, "12.2 mm"),
    ],
)  # fmt: skip
def test_diameter_and_angle_are_read_in_either_order(line: str, angle: int, upper: str) -> None:
    (sunk,) = read(line)
    assert (sunk.kind, sunk.angle_deg, str(sunk.upper)) == ("countersink", angle, upper)


@pytest.mark.parametrize("angle", ["0", "180"])
def test_an_angle_that_is_none_is_refused(angle: str) -> None:
    with pytest.raises(InputError, match="is not one"):
        read(f"csk 12 x {angle}")


def test_it_is_said_again() -> None:
    assert again("csk 12 ±0.2 x 82") == ["csk 12 ±0.2 x 82"]
