"""An undercut: form, radius and depth are one; each at its own shoulder."""

import pytest

from nomisma.core.errors import InputError
from tests.core.part.kinds.reading import again, read


def test_each_lies_at_its_shoulder() -> None:
    found = read("undercut F 0.6 x 0.3 at 10 and 30")
    assert [(one.text, one.along) for one in found] == [
        ("F 0.6 x 0.3", "at 10 mm from the left"),
        ("F 0.6 x 0.3", "at 30 mm from the left"),
    ]
    assert "form F, radius 0.6 mm, 0.3 mm deep" in found[0].sentence
    assert again("undercut .8 x .3 at 10") == ["undercut .8 x .3 at 10 mm from the left"]


@pytest.mark.parametrize("line", ["undercut deep", "undercut F 0.6", "undercut Z 0.6 x 0.3"])
def test_radius_and_depth_must_be_said(line: str) -> None:
    with pytest.raises(InputError):
        read(line)
