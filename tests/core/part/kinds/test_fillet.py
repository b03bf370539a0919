"""A fillet: its radius, and the shoulder it belongs to."""

import pytest

from nomisma.core.operations.surfaces import surfaces_of
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from tests.core.part.kinds.reading import again, read

SHAFT = "od 20 h7 from 0 to 30\nod 30 from 30 to 50\n"


@pytest.mark.parametrize(
    ("line", "limits"),
    [
        ("fillet 0.4 max", (None, "0.4 mm")), ("fillet 0.8 ±0.2", ("0.6 mm", "1 mm")),
        ("R 0.6 in the corner", ("0.4 mm", "0.8 mm")), ("fillet 0.3", (None, None)),
    ],
)  # fmt: skip
def test_its_limits_are_as_written_or_by_the_general_tolerance(
    line: str, limits: tuple[str | None, str | None]
) -> None:
    (fillet,) = read(line)
    assert fillet.kind == "fillet"
    assert tuple(str(end) if end else None for end in (fillet.lower, fillet.upper)) == limits


@pytest.mark.parametrize(
    ("line", "made_with"), [("fillet 0.8", "A"), ("fillet 0.8 on A", "A"), ("fillet 0.8 on B", None)]
)
def test_the_tool_that_finishes_the_smaller_diameter_makes_it(line: str, made_with: str | None) -> None:
    parts = [lettered(one) for one in feature_lines(FeatureLinesInput(text=SHAFT + line, unit="mm")).features]
    section = section_of(parts)
    assert section is not None
    made = [one.letter for one in surfaces_of(parts, section) if "C" in one.letters]
    assert made == ([made_with] if made_with else [])


def test_it_is_said_again() -> None:
    assert again("fillet 0.4 max") == ["fillet 0.4 max"]
