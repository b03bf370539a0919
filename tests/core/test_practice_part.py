"""The simulated part: the same seed and cuts give the same sizes; what the coach's advice alone is worth on every
level.
"""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.cutting.dialled import Dialled
from nomisma.core.cutting.next_cut import next_cut
from nomisma.core.practice.lathe_levels import LatheLevel, lathe_level_named, lathe_levels
from nomisma.core.practice.part import PracticePart, coach_input, coached_part
from nomisma.core.quantity.length import Length

lines = st.lists(st.integers(0, 30), max_size=6)
names = st.sampled_from(sorted(lathe_levels()))


def part(name: str = "plain_pin", seed: int = 5) -> PracticePart:
    return PracticePart(lathe_level_named(name), seed)


def inside(level: LatheLevel, size_mm: float) -> bool:
    return float(level.lower.mm) <= size_mm <= float(level.upper.mm)


@given(names, st.integers(0, 10**6), lines)
def test_the_same_seed_and_the_same_cuts_are_the_same_part(name: str, seed: int, cuts: list[int]) -> None:
    first, second = part(name, seed), part(name, seed)
    for one in cuts:
        first.cut(Decimal(one))
        second.cut(Decimal(one))
    assert (first.true_mm, str(first.reading)) == (second.true_mm, str(second.reading))


@given(names, st.integers(0, 10**6), lines)
def test_metal_never_comes_back(name: str, seed: int, cuts: list[int]) -> None:
    held = part(name, seed)
    sizes = [held.true_mm]
    for one in cuts:
        held.cut(Decimal(one))
        sizes.append(held.true_mm)
    assert sizes == sorted(sizes, reverse=held.level.kind == "shaft")


def test_looking_twice_at_the_micrometer_says_the_same_and_to_its_vernier() -> None:
    held = part("unknown_dial")
    assert str(held.reading) == str(held.reading)
    assert len(str(held.reading).split()[0].partition(".")[2]) <= 4


def test_a_dial_that_reads_radius_takes_twice() -> None:
    held = part("unknown_dial")
    before = held.true_mm
    held.cut(Decimal(10))
    held.cut(Decimal(10))
    held.cut(Decimal(0))
    assert (before - held.true_mm) / (20 * 0.0254) == pytest.approx(2.0, abs=0.35)


def test_a_warm_part_reads_larger_until_it_has_cooled() -> None:
    for seed in range(20):
        held = part("warm_bronze", seed)
        held.cut(Decimal(5))
        if not held.cooled:
            warm = held.reading.mm
            held.cool()
            assert warm > held.reading.mm
            return
    raise AssertionError("no part of twenty was warm")


def test_stone_takes_a_tenth_or_two() -> None:
    held = part()
    before = held.true_mm
    held.stone()
    assert 0.001 < before - held.true_mm < 0.006


@pytest.mark.parametrize("name", sorted(lathe_levels()))
def test_the_coachs_advice_alone_brings_every_level_home(name: str) -> None:
    level = lathe_level_named(name)
    done = [coached_part(level, seed) for seed in range(60)]
    assert sum(inside(level, one.true_mm) for one in done) >= 57


def test_the_coach_is_asked_with_the_cuts_in_order() -> None:
    level = lathe_level_named("springy_bore")
    sizes = [Length.of(text, "mm") for text in ("28.0", "28.5", "29.0")]
    asked = coach_input(level, sizes, [Dialled(Length.of("0.6", "mm")), Dialled(Length.of("0.5", "mm"))])
    assert [(str(cut.before), str(cut.after)) for cut in asked.cuts] == [("28 mm", "28.5 mm"), ("28.5 mm", "29 mm")]
    assert asked.kind == "bore"
    assert next_cut(asked).dialled is not None
