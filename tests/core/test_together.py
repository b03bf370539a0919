"""Will it go together, and do the faces seat."""

from decimal import Decimal
from math import sqrt

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import integrate, stats
from uncertainties import ufloat

from nomisma.core.calculation import BadInput
from nomisma.core.fits.seating import CornerResult, DepthResult
from nomisma.core.fits.together import TogetherResult
from nomisma.core.registry import calculation_named


def together(bore: dict[str, object], shaft: dict[str, object], **more: object) -> TogetherResult:
    result = calculation_named("together").run(
        {"bore": {"kind": "bore", **bore}, "shaft": {"kind": "shaft", **shaft}, **more}
    )
    assert isinstance(result, TogetherResult)
    return result


def called(bore: str, shaft: str, **more: object) -> TogetherResult:
    return together({"callout": bore}, {"callout": shaft}, **more)


def test_a_bore_over_on_a_boss_under_can_meet_at_nothing() -> None:
    """+0.004/0 on +0/−0.004: zero clearance at the worst. Source: common practice, no source."""
    found = called("2.000/2.004 in", "1.996/2.000 in")
    assert (str(found.clearance_min), str(found.clearance_max)) == ("0 in", "0.008 in")
    assert found.kind == "clearance"
    assert "always goes together" in found.sentence


def test_chances_agree_with_a_simulation() -> None:
    """Source: 400,000 drawn pairs (JCGM 101:2008, Monte Carlo)."""
    rng = np.random.default_rng(7)
    for spread in ("centred", "anywhere"):
        found = called("25 H7", "25 k6", spread=spread, clearance_min="-5 um", clearance_max="5 um")
        if spread == "centred":
            gaps = rng.normal(10.5, 3.5, 400_000) - rng.normal(8.5, 13 / 6, 400_000)
        else:
            gaps = rng.uniform(0, 21, 400_000) - rng.uniform(2, 15, 400_000)
        assert float(found.goes_together_percent) == pytest.approx(100 * np.mean(gaps > 0), abs=0.4)
        assert float(found.in_window_percent or 0) == pytest.approx(100 * np.mean(np.abs(gaps) < 5), abs=0.4)


def test_readings_propagate_as_the_library_does() -> None:
    """Two sizes each worth ± U: the clearance's deviation is √(u² + u²). Source: the `uncertainties` library."""
    bore, shaft = ufloat(25.012, 0.0015), ufloat(24.995, 0.0010)
    gap = bore - shaft
    found = together(
        {"readings": ["25.012 mm"], "uncertainty": "0.003 mm"}, {"readings": ["24.995 mm"], "uncertainty": "0.002 mm"}
    )
    assert float(found.mean.mm) == pytest.approx(gap.n, abs=1e-9)
    assert float(found.likely_max.mm - found.likely_min.mm) == pytest.approx(2 * 1.96 * gap.s, abs=2e-6)


def test_a_measured_pair_with_even_form_agrees_with_a_simulation() -> None:
    rng = np.random.default_rng(11)
    found = together(
        {"readings": ["25.004 mm", "25.010 mm"], "uncertainty": "0.004 mm"},
        {"callout": "25 k6"},
        clearance_min="0 mm",
        clearance_max="10 um",
    )
    gaps = rng.uniform(4, 10, 400_000) + rng.normal(0, 2, 400_000) - rng.normal(8.5, 13 / 6, 400_000)
    assert float(found.goes_together_percent) == pytest.approx(100 * np.mean(gaps > 0), abs=0.4)


@settings(max_examples=30)
@given(st.integers(0, 30), st.integers(1, 40), st.integers(-40, 30), st.integers(1, 40))
def test_worst_case_bounds_the_likely_and_the_chance_is_a_chance(low: int, bore: int, start: int, shaft: int) -> None:
    found = called(
        f"{Decimal(25000 + low) / 1000}/{Decimal(25000 + low + bore) / 1000} mm",
        f"{Decimal(25000 + start) / 1000}/{Decimal(25000 + start + shaft) / 1000} mm",
        spread="anywhere",
    )
    assert found.clearance_min.mm <= found.likely_min.mm <= found.likely_max.mm <= found.clearance_max.mm
    assert 0 <= found.goes_together_percent <= 100
    if found.clearance_min.mm > 0:
        assert found.goes_together_percent == 100


def test_two_parts_that_are_no_pair_are_refused() -> None:
    with pytest.raises(BadInput, match="are no pair. Check the unit of each"):
        called("0.875/0.876 in", "0.873/0.874 mm")
    with pytest.raises(BadInput, match="The shaft is entered as a bore"):
        calculation_named("together").run(
            {"bore": {"kind": "bore", "callout": "25 H7"}, "shaft": {"kind": "bore", "callout": "25 H7"}}
        )


def depths(recess: str, boss: str) -> DepthResult:
    result = calculation_named("depths").run({"recess_depth": recess, "boss_height": boss, "unit": "in"})
    assert isinstance(result, DepthResult)
    return result


def test_a_boss_must_not_bottom_in_its_recess() -> None:
    assert depths("0.500/0.504", "0.492/0.496").bottoms == "never"
    assert depths("0.500/0.504", "0.498/0.502").bottoms == "sometimes"
    assert depths("0.500/0.504", "0.506/0.510").bottoms == "always"
    assert "hold the faces 2.00 thou apart" in depths("0.500/0.504", "0.498/0.502").sentence


def test_root_sum_square_is_narrower_than_the_worst_case() -> None:
    found = depths("0.500/0.504", "0.492/0.496")
    half = (found.gap_rss_max.mm - found.gap_rss_min.mm) / 2 / Decimal("25.4")
    assert float(half) == pytest.approx(sqrt(0.004**2 + 0.004**2) / 2)
    assert found.gap_min.mm < found.gap_rss_min.mm < found.gap_rss_max.mm < found.gap_max.mm


def corner(radius: str, edge: str, size: str | None = None, gap: str = "0 mm") -> CornerResult:
    given = {"fillet_radius": radius, "edge": edge, "radial_clearance": gap, **({"edge_size": size} if size else {})}
    result = calculation_named("corner").run(given)
    assert isinstance(result, CornerResult)
    return result


def test_a_sharp_edge_never_seats_in_a_corner_with_a_radius() -> None:
    found = corner("0.8 mm", "sharp")
    assert not found.seats
    assert str(found.stand_off) == "0.8 mm"


def test_an_edge_of_more_than_an_inch_is_refused() -> None:
    with pytest.raises(BadInput, match="An edge broken by 26 mm is no edge. Check the unit."):
        corner("0.8 mm", "chamfer", "26 mm")


def test_an_edge_broken_at_least_by_the_radius_seats() -> None:
    assert corner("0.8 mm", "chamfer", "0.8 mm").seats
    assert corner("0.8 mm", "radius", "0.8 mm").seats
    assert not corner("0.8 mm", "chamfer", "0.5 mm").seats


@given(st.integers(10, 200), st.integers(1, 220), st.integers(0, 60), st.sampled_from(["chamfer", "radius"]))
def test_the_stand_off_is_where_the_edge_first_touches(radius: int, size: int, gap: int, edge: str) -> None:
    """Pushed in by the stand-off the edge clears the fillet; a hair further and it does not. Source: points on both
    curves.
    """
    r, c, g = radius / 100, size / 100, gap / 100
    found = corner(f"{r} mm", edge, f"{c} mm", f"{g} mm")
    off = float(found.stand_off.mm)
    if edge == "chamfer":
        points = [(g + c * t, c * (1 - t)) for t in np.linspace(0, 1, 200)]
    else:
        points = [(g + c * (1 - np.cos(t)), c * (1 - np.sin(t))) for t in np.linspace(0, np.pi / 2, 400)]

    def clear(shift: float) -> bool:
        fillet = [0.0 if x >= r else r - sqrt(max(r**2 - (r - x) ** 2, 0.0)) for x, _ in points]
        return all(y + shift >= height - 2e-5 for (_, y), height in zip(points, fillet, strict=True))

    assert clear(off)
    assert off < 1e-9 or not clear(off - 0.02 * r - 1e-3)


def test_a_corner_that_is_no_tools_is_refused() -> None:
    with pytest.raises(BadInput, match="is no tool's"):
        corner("30 mm", "sharp")
    with pytest.raises(BadInput, match="The chamfer has no size"):
        corner("0.8 mm", "chamfer")


@given(st.integers(0, 30), st.integers(1, 12))
@settings(max_examples=30, deadline=None)
def test_an_even_spread_and_a_doubtful_reading_give_what_integration_gives(over: int, doubt: int) -> None:
    """A bore anywhere in 0 to 21 µm on a shaft read at 25 mm + `over`. Source: the convolution integrated by scipy
    (JCGM 101:2008).
    """
    shaft = {"readings": [f"{25 + over / 1000:.3f} mm"], "uncertainty": f"{doubt} um"}
    found = together({"callout": "25 H7"}, shaft, spread="anywhere")
    chance, _ = integrate.quad(
        lambda bore: stats.norm.cdf((bore - over) / (doubt / 2)) / 21, 0, 21, points=[min(max(over, 0), 21)]
    )
    assert float(found.goes_together_percent) == pytest.approx(100 * chance, abs=0.011)
    assert found.goes_together_percent < 100
