"""The drills of a shop in one row, smallest first, each found again by its size."""

import pytest

from nomisma.core.quantity.drills import DrillSystem, drill_table, drills_of_size


@pytest.mark.parametrize("system", ["inch", "metric", "both"])
def test_the_table_goes_from_the_smallest_to_the_largest(system: DrillSystem) -> None:
    sizes = [mm for _, mm in drill_table(system)]
    assert sizes == sorted(sizes)


def test_both_systems_together_are_all_the_drills_there_are() -> None:
    assert sorted(drill_table("both")) == sorted([*drill_table("inch"), *drill_table("metric")])


def test_every_drill_is_found_by_its_size() -> None:
    assert [name for name, mm in drill_table("metric") if not drills_of_size(mm)] == []
