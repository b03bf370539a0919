"""Planning against stock tables and textbook rings. Values from memory are marked so; each is a number of a published
table.
"""

from math import pi
from typing import Any

import pytest

from nomisma.core.planning.jaw_squeeze import ring_shares
from nomisma.core.registry import calculation_named


# Steel stock tables, kg/m at 7850 kg/m³ (recalled).
@pytest.mark.parametrize(
    ("shape", "across", "kg_per_m"),
    [("round", "20", 2.47), ("round", "25", 3.85), ("round", "50", 15.4), ("square", "20", 3.14),
        ("square", "25", 4.91),
    ("hexagon", "24", 3.92),
     ("hexagon", "30", 6.12)],
)  # fmt: skip
def test_a_metre_of_bar_weighs_what_the_stock_table_says(shape: str, across: str, kg_per_m: float) -> None:
    found: Any = calculation_named("blank").run(
        {
            "finished_length": "1000 mm",
            "facing": "0 mm",
            "finished_diameter": "5 mm",
            "shape": shape,
            "stock_across": f"{across} mm",
            "material": "mild_steel",
        }
    )
    assert found.weight_kg == pytest.approx(kg_per_m, rel=0.003)


# Rings in engineering handbooks (recalled): two loads 0.149 and 0.137 across the diameter, three 0.0159 and 0.0143 on
# radius, by F·R³/(E·I).
@pytest.mark.parametrize(("loads", "within", "out"), [(2, pi / 8 - 1 / pi, 1 / pi - 0.25), (3, 0.0159, 0.0143)])
def test_a_ring_under_equal_loads_is_the_handbooks(loads: int, within: float, out: float) -> None:
    assert ring_shares(loads) == (pytest.approx(within, abs=0.0001), pytest.approx(out, abs=0.0001))
