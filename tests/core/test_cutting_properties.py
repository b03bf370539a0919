"""What must hold for every dial, drill, overhang and piece of stock, whatever the numbers."""

from decimal import Decimal
from itertools import pairwise
from math import pi
from typing import Any, Literal

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from nomisma.core.cutting.amount import line_on_diameter
from nomisma.core.cutting.depth import Next
from nomisma.core.cutting.dial import wind
from nomisma.core.cutting.hole import HoleInput, hole
from nomisma.core.cutting.learned import CutSeen, learned
from nomisma.core.cutting.speeds import machine_speed, speed_list
from nomisma.core.quantity.drills import drill_table
from nomisma.core.quantity.length import Length
from nomisma.core.registry import calculation_named

MM = Decimal("0.001")
sizes = st.integers(2_000, 200_000).map(lambda n: n * MM)
lines = st.sampled_from([Decimal("0.01"), Decimal("0.02"), Decimal("0.05"), Decimal("0.0254")])
Reads = Literal["diameter", "radius"]


def run(name: str, **values: Any) -> Any:
    return calculation_named(name).run({key: value for key, value in values.items() if value is not None})


@given(st.integers(1, 400), lines, st.sampled_from(["diameter", "radius"]), st.integers(20, 200))
def test_turns_and_lines_are_the_whole_cut(count: int, line: Decimal, reads: Reads, around: int) -> None:
    dialled = count * line_on_diameter(line, reads)
    found = wind(
        dialled_mm=dialled,
        size_mm=Decimal(100),
        to_aim_mm=dialled,
        kind="shaft",
        line_mm=line,
        turn_mm=line * around,
        reads=reads,
        method="count_in",
        unit="mm",
    )
    assert found.turns * around + found.lines == count
    assert 0 <= found.to_line < around


@given(st.integers(1, 400), st.integers(0, 400), lines, st.integers(20, 200))
def test_zero_at_size_ends_as_far_before_zero_as_is_left(count: int, more: int, line: Decimal, around: int) -> None:
    found = wind(
        dialled_mm=count * line,
        size_mm=Decimal(100),
        to_aim_mm=(count + more) * line,
        kind="shaft",
        line_mm=line,
        turn_mm=line * around,
        reads="diameter",
        method="zero_at_size",
        unit="mm",
    )
    assert (found.to_line + more) % around == 0


@given(sizes, st.integers(0, 3000), st.integers(0, 1000), st.sampled_from(["shaft", "bore"]))
def test_stock_cleans_up_exactly_where_something_is_to_spare(stock: Decimal, over: int, runout: int, kind: str) -> None:
    sign = 1 if kind == "shaft" else -1
    wanted = stock - sign * over * MM
    assume(wanted > 1)
    found = run(
        "clean_up", kind=kind, stock=Length(stock), wanted=Length(wanted), runout=Length(runout * MM), unit="mm"
    )
    assert found.cleans_up == (over >= runout) == (found.spare.mm >= 0)
    assert found.spare.mm == (over - runout) * MM
    assert bool(found.gives) != found.cleans_up


@given(sizes, st.integers(1, 400), st.integers(0, 400))
def test_more_runout_never_leaves_more(stock: Decimal, less: int, more: int) -> None:
    clean = [
        run(
            "clean_up", stock=Length(stock), wanted=Length(stock / 2), runout=Length(one * MM), unit="mm"
        ).clean_diameter.mm
        for one in (less, less + more)
    ]
    assert clean[0] >= clean[1]


@given(st.integers(60, 2000).map(lambda n: Decimal(n) / 1000), st.sampled_from(["ream", "bore"]))
def test_the_drill_leaves_what_it_should_and_the_next_larger_would_not(finished_in: Decimal, method: Any) -> None:
    finished = finished_in * Decimal("25.4")
    found = hole(HoleInput(finished=Length(finished, "in"), method=method))
    drill, leave = found.drill.size.mm, found.leave.mm
    assert drill <= finished - leave + Decimal("0.0001")
    larger = next((size for _, size in drill_table("inch") if size > drill), None)
    assert larger is None or larger > finished - leave
    assert [one.size.mm for one in found.smaller] == sorted((one.size.mm for one in found.smaller), reverse=True)


def test_the_drill_table_is_in_order_without_a_gap_of_more_than_a_32nd() -> None:
    table = [size for _, size in drill_table()]
    assert table == sorted(table)
    assert len({name for name, _ in drill_table()}) == len(table)
    gaps = [float(b - a) for a, b in pairwise(table)]
    assert max(gaps) <= 25.4 / 64 + 1e-9


@given(
    st.floats(2, 100),
    st.floats(1.1, 20),
    st.sampled_from(["chuck", "chuck_and_centre", "between_centres", "boring_bar"]),
)
def test_twice_as_far_out_bends_eight_times_as_much(diameter: float, ratio: float, hold: str) -> None:
    def bend(overhang: float) -> float:
        found = run(
            "deflection",
            hold=hold,
            diameter=f"{diameter:.3f} mm",
            overhang=f"{overhang:.3f} mm",
            force_n=50_000,
            unit="mm",
        )
        return float(found.deflection.mm)

    short = bend(diameter * ratio)
    assume(short > 0.05)  # what is shown is rounded to a tenth of a µm
    assert bend(2 * diameter * ratio) / short == pytest.approx(8, rel=0.01)


@given(st.floats(3, 400), st.lists(st.integers(20, 3000), min_size=1, max_size=9, unique=True), st.integers(200, 3000))
def test_no_speed_above_the_chucks_and_none_the_machine_has_not(diameter: float, listed: list[int], most: int) -> None:
    text = " ".join(str(one) for one in listed)
    assume(min(listed) <= most)
    found = run(
        "speeds",
        diameter=f"{diameter:.2f} mm",
        material="aluminium",
        tool="carbide",
        speeds=text,
        most_rpm=most,
        unit="mm",
    )
    assert found.rpm <= most
    assert found.rpm in listed
    assert found.surface_m_min == pytest.approx(pi * round(diameter, 2) * found.rpm / 1000)


@given(st.floats(1, 5000), st.integers(10, 500), st.integers(501, 4000))
def test_a_range_of_speeds_gives_any_between_its_ends(wanted: float, low: int, high: int) -> None:
    found = machine_speed(wanted, f"{low}-{high}")
    assert low <= found <= high
    assert found == wanted or found in (low, high)
    assert speed_list(f"{low} to {high}") == ([], (float(low), float(high)))


@given(
    st.lists(st.tuples(st.floats(0.3, 1), st.floats(0.97, 1.03)), min_size=2, max_size=7),
    st.sampled_from([0.5, 1.0, 2.0]),
)
def test_the_kind_of_dial_is_known_from_the_cuts(cuts: list[tuple[float, float]], factor: float) -> None:
    seen = [CutSeen(dialled, dialled * factor * ratio, n == 0) for n, (dialled, ratio) in enumerate(cuts)]
    assert learned(seen).factor == factor


histories = st.lists(
    st.tuples(st.floats(0, 3), st.one_of(st.floats(0.8, 1.3), st.floats(0, 3), st.floats(-0.05, 0.05))), max_size=8
)


@given(
    histories, st.floats(-0.05, 4), st.floats(0.005, 0.2), st.sampled_from([0.01, 0.02, 0.05, 0.0254]),
    st.sampled_from(["equal_cuts", "creep", "polish"]), st.sampled_from(["shaft", "bore"]),
)  # fmt: skip
def test_whatever_the_cuts_were_no_part_grows_and_every_plan_ends(
    cuts: list[tuple[float, float]], over: float, width: float, line: float, approach: Any, kind: str
) -> None:
    """Any history, honest or spoilt: the size moves the way of the cut, intervals hold possible sizes, the plan ends
    inside or says why.
    """
    sign = 1 if kind == "shaft" else -1
    low, high = 30.0, 30.0 + width
    size = (high + over) if kind == "shaft" else (low - over)
    start, taken = size + sign * sum(dialled * ratio for dialled, ratio in cuts), []
    for dialled, ratio in cuts:
        end = start - sign * dialled * ratio
        assume(min(start, end) > 0.001)  # there is work in the chuck
        taken.append({"dialled": f"{dialled:.4f} mm", "before": f"{start:.4f} mm", "after": f"{end:.4f} mm"})
        start = end
    found = run(
        "next_cut",
        kind=kind,
        size=f"{size:.4f} mm",
        lower=f"{low} mm",
        upper=f"{high:.4f} mm",
        cuts=taken,
        dial_line=f"{line} mm",
        approach=approach,
        if_dialled="0.1 mm",
    )
    before = size
    for one in found.plan:
        ends = sorted(sign * float(end.mm) for end in (one.after_low, one.after_high))
        assert ends[0] - 2e-3 <= sign * float(one.after.mm) <= ends[1] + 2e-3
        assert ends[1] <= sign * before + 2e-3
        assert sign * float(one.after.mm) <= sign * before + 2e-3
        before = float(one.after.mm)
    assert sign * float(found.tried.after.mm) <= sign * size + 2e-3
    assert len(found.plan) <= 12
    if found.plan and not low - 1e-3 <= before <= high + 1e-3:
        assert found.plan_note.startswith("The passes ")


SIZES_UM = st.integers(20_000, 90_000)


@given(
    SIZES_UM,
    st.integers(5, 60),
    st.integers(-60, 120),
    st.sampled_from(["0 mm", "0.002 mm"]),
    st.sampled_from(["0.05 mm", "0.02 mm"]),
)
def test_a_bore_is_advised_as_the_shaft_it_mirrors(low: int, width: int, over: int, guard: str, line: str) -> None:
    """What speaks for a shaft speaks for the bore that mirrors it, stone and cloth apart."""
    lower, upper = Decimal(low) / 1000, Decimal(low + width) / 1000
    size = upper + Decimal(over) / 1000
    common = {
        "lower": f"{lower} mm",
        "upper": f"{upper} mm",
        "dial_line": line,
        "dial_reads": "radius",
        "unit": "mm",
        "guard": guard,
    }
    shaft, bore = (
        calculation_named("next_cut").run({"kind": kind, "size": f"{at} mm", **common})
        for kind, at in (("shaft", size), ("bore", lower + upper - size))
    )
    states = {one.next for one in (shaft, bore)}
    assert len(states) == 1 or states == {Next.POLISH, Next.TOO_THIN}
    assert (shaft.lines, shaft.between_lines) == (bore.lines, bore.between_lines)


@given(SIZES_UM, st.integers(10, 80), st.integers(1, 900), st.sampled_from(["0.05 mm", "0.02 mm", "0.01 mm"]))
def test_what_is_said_to_land_lies_inside(low: int, width: int, over: int, line: str) -> None:
    lower, upper = Decimal(low) / 1000, Decimal(low + width) / 1000
    found = calculation_named("next_cut").run(
        {
            "kind": "shaft",
            "size": f"{upper + Decimal(over) / 1000} mm",
            "lower": f"{lower} mm",
            "upper": f"{upper} mm",
            "dial_line": line,
            "unit": "mm",
        }
    )
    for one in found.plan:
        if one.why.endswith("lands it") or one.why.endswith("lands"):
            assert lower <= one.after.mm <= upper
