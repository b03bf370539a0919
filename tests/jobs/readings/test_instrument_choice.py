"""Which instruments are offered: what cannot reach a size is not, and the nearest of the job's unit is first."""

from decimal import Decimal
from typing import get_args
from uuid import uuid4

from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.quantity.length import Unit
from nomisma.jobs.readings.instrument_choice import InstrumentChoice, offered
from nomisma.store.models import Instrument


def made(name: str, kind: str, unit: str, ends: tuple[str, str] | None = None) -> Instrument:
    low, high = (Decimal(one) for one in ends) if ends else (None, None)
    return Instrument(id=uuid4(), name=name, kind=kind, unit=unit, range_from_mm=low, range_to_mm=high)


MIC_0 = made("0–1 in", "micrometer_tenths", "in", ("0", "25.4"))
MIC_3 = made("3–4 in", "micrometer_tenths", "in", ("76.2", "101.6"))
MIC_MM = made("75–100 mm", "micrometer_microns", "mm", ("75", "100"))
CALIPER = made("6 in caliper", "caliper", "in", ("0", "152.4"))
GAUGE = made("Telescoping gauges", "telescoping_gauge", "in", ("7.9375", "152.4"))
SLIPS = made("Slips", "slip_gauges", "mm", ("0.5", "100"))
EVERY = [InstrumentChoice(one) for one in (CALIPER, MIC_0, MIC_MM, MIC_3, SLIPS)] + [
    InstrumentChoice(MIC_0, GAUGE),
    InstrumentChoice(MIC_3, GAUGE),
]


def names(unit: Unit, *sizes: str) -> list[str]:
    return [one.name for one in offered(EVERY, unit, [Decimal(size) for size in sizes])]


def test_a_micrometer_that_is_too_small_is_not_offered_and_the_nearest_is_first() -> None:
    assert names("in", "91.44") == ["3–4 in", "6 in caliper", "Telescoping gauges → 3–4 in", "75–100 mm"]
    assert names("mm", "91.44")[:2] == ["75–100 mm", "Slips"]


def test_a_gauge_goes_into_no_hole_smaller_than_it_is_nor_to_a_micrometer_that_does_not_read_it() -> None:
    assert not [name for name in names("in", "3.175") if "Telescoping" in name]
    assert [name for name in names("in", "20") if "Telescoping" in name] == ["Telescoping gauges → 0–1 in"]


def test_one_whose_range_nobody_entered_stands_last_where_its_kind_does_not_reach() -> None:
    three_point = InstrumentChoice(made("Three-point", "three_point_bore", "mm"))
    own_kind = InstrumentChoice(made("Of our own", "", "mm"))
    assert three_point.reaches(Decimal("3.2")), "it is not refused: nobody knows its range"
    everything = [three_point, own_kind, InstrumentChoice(CALIPER)]
    assert [one.name for one in offered(everything, "mm", [Decimal("3.2")])] == [
        "Of our own",
        "6 in caliper",
        "Three-point",
    ]
    assert [one.name for one in offered(everything, "mm", [Decimal(25)])] == [
        "Of our own",
        "Three-point",
        "6 in caliper",
    ]


def test_slips_of_the_other_unit_are_not_offered() -> None:
    assert "Slips" not in names("in", "12")
    assert "Slips" in names("mm", "12")


@given(st.lists(st.decimals("1", "200", places=2), min_size=1, max_size=2), st.sampled_from(get_args(Unit)))
def test_what_is_offered_reaches_one_of_the_sizes_or_nothing_does(sizes: list[Decimal], unit: Unit) -> None:
    found = offered(EVERY, unit, sizes)
    reach = [one for one in EVERY if any(one.reaches(mm) for mm in sizes)]
    assert all(one in reach for one in found) or not [
        one for one in reach if one.unit == unit or one.instrument is not SLIPS
    ]
    assert [one.unit == unit for one in found] == sorted((one.unit == unit for one in found), reverse=True)
