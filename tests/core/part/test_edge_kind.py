"""An edge's leg or radius: limits, a range as wide as it is written, at most, bare; too small for the standard, for
reference.
"""

import pytest

from tests.core.part.kinds.reading import read


@pytest.mark.parametrize(
    ("line", "limits", "by"),
    [
        ("cham 0.5 ±0.1 x 45", ("0.4 mm", "0.6 mm"), "line"), ("break edges 0.2-0.5", ("0.2 mm", "0.5 mm"), "line"),
        ("cham 0.5 max", (None, "0.5 mm"), "line"), ("cham 1 x 30", ("0.8 mm", "1.2 mm"), "general"),
        ("break edges 0.3", (None, None), "reference"),
    ],
)  # fmt: skip
def test_what_an_edge_may_differ_by(line: str, limits: tuple[str | None, str | None], by: str) -> None:
    """By hand, ISO 2768-1, Table 2, class m: from 0.5 to 3 an edge is ±0.2; below it has none."""
    (edge,) = read(line)
    assert (tuple(str(end) if end else None for end in (edge.lower, edge.upper)), edge.limits_from) == (limits, by)
