"""An instrument on its standard: what it is off by, and whether it may be used."""

from typing import Any

import pytest

from nomisma.core.registry import calculation_named


def checked(*readings: str, permitted: str = "0.002 mm") -> dict[str, Any]:
    asked = {"standard": "25 mm", "readings": list(readings), "permitted_error": permitted}
    return calculation_named("zero_check").run(asked).model_dump(mode="json")


def test_it_is_off_by_the_mean_of_what_it_reads_less_its_standard() -> None:
    found = checked("25.001 mm", "25.002 mm", "25.000 mm")
    assert (found["zero_error"], found["passed"]) == ("0.001 mm", True)


@pytest.mark.parametrize(("reading", "passed"), [("25.002 mm", True), ("25.003 mm", False), ("24.997 mm", False)])
def test_it_passes_up_to_what_is_permitted(reading: str, passed: bool) -> None:
    assert checked(reading)["passed"] is passed
