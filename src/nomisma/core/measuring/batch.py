"""A batch: several pieces of one feature; chart, capability with its confidence, drift, and when it will leave the
limits.
"""

from dataclasses import dataclass
from decimal import Decimal
from math import inf, pi, sqrt
from statistics import NormalDist, fmean, stdev

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.measuring.control_chart import LARGEST_SUBGROUP, Chart, factors, individuals, means_and_ranges
from nomisma.core.measuring.control_chart import SOURCE as CHART_SOURCE
from nomisma.core.model import Model
from nomisma.core.part.feature import SEVERITY, Acceptance, Feature, State
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import Step

FEWEST_FOR_CAPABILITY = 5
LEVEL = 0.95


class Piece(Model):
    """One piece by its serial, with its readings (several places), in the order it was made."""

    serial: str = Field(min_length=1, max_length=40)
    sizes: list[Size] = Field(min_length=1, max_length=100)


class BatchInput(Model):
    """Pieces in the order made, their limits, what a reading is worth (k = 2). `subgroup`: 1 charts single pieces, 2 to
    10 consecutive pieces together."""

    kind: KindName
    pieces: list[Piece] = Field(min_length=1, max_length=1000)
    lower: Size
    upper: Size
    uncertainty: Difference = Length(Decimal(0))
    subgroup: int = Field(default=1, ge=1, le=LARGEST_SUBGROUP)
    acceptance: Acceptance = "guarded"


class JudgedPiece(Model):
    """One piece: its mean, the reading that decides, its state."""

    serial: str
    mean: Size
    deciding: Size
    state: State


class Capability(Model):
    """Capability by the spread within groups (Cp, Cpk) and performance by the overall spread (Pp, Ppk), each with its
    95 % interval.

    None of it promises the next piece; where the two differ, something moved between the groups. Source: ISO
    22514-2:2017.
    """

    within_mm: float
    cp: float
    cp_from: float
    cp_to: float
    cpk: float
    cpk_from: float
    cpk_to: float
    pp: float
    pp_from: float
    pp_to: float
    ppk: float
    ppk_from: float
    ppk_to: float


class Drift(Model):
    """Gain in size a piece (mm, 95 % interval); `leaves_in` how many pieces until the line crosses a limit, with its
    interval.
    """

    per_piece_mm: float
    from_mm: float
    to_mm: float
    is_real: bool
    leaves_in: float | None = None
    leaves_in_from: float | None = None
    leaves_in_to: float | None = None
    leaves_by: str = ""


class RunChart(Model):
    """The chart in mm: points, centre and limits, ranges, and which points (from 0) want a reason."""

    points_mm: list[float]
    centre_mm: float
    lower_mm: float
    upper_mm: float
    ranges_mm: list[float]
    range_centre_mm: float
    range_upper_mm: float
    range_lower_mm: float
    outside: list[int]


class BatchResult(Model):
    """Every piece judged, and what the batch says as a whole; chart, capability and drift only where there are enough
    pieces.
    """

    pieces: list[JudgedPiece]
    counts: dict[str, int]
    state: State
    mean: Size
    spread: Difference
    chart: RunChart | None = None
    capability: Capability | None = None
    drift: Drift | None = None
    sentence: str
    drift_sentence: str = ""
    working: list[Step]


@calculation(
    name="batch",
    title="A batch: chart, capability and drift",
    validity="Pieces of one feature in the order they were made; capability from five pieces on, and only as good as "
        "their number.",
    source=f"{CHART_SOURCE}; capability intervals: ISO 22514-2 and Bissell's approximation, as in textbooks",
    example={
        "kind": "shaft", "lower": "11.983 mm", "upper": "11.994 mm", "uncertainty": "0.0015 mm",
        "pieces": [{"serial": str(n + 1), "sizes": [f"11.9{85 + n} mm"]} for n in range(6)],
    },
)  # fmt: skip
def batch(given: BatchInput) -> BatchResult:
    """Judge every piece; chart limits, Cp, Cpk, Pp and Ppk with their intervals, drift and in how many pieces it leaves
    the limits.

    Raises OutOfRange, InputError. Source: ISO 7870-2 (chart); least squares and Student's t (drift); chi-squared and
    Bissell's intervals for the indices; Fieller's for the pieces left.
    """
    if given.lower.mm >= given.upper.mm:
        raise OutOfRange(
            f"The lower limit {given.lower} is not below the upper limit {given.upper}.",
            "Exchange them.",
            field="lower",
        )
    serials = [piece.serial for piece in given.pieces]
    if len(set(serials)) < len(serials):
        raise InputError("Two pieces have the same serial.", "Give each its own.", field="pieces")
    unit = given.pieces[0].sizes[0].unit
    judged = [_judged(given, piece, unit) for piece in given.pieces]
    values = [float(piece.mean.mm) for piece in judged]
    deviation = stdev(values) if len(values) > 1 else 0.0
    chart = _chart(values, given.subgroup)
    capability = _capability(values, float(given.lower.mm), float(given.upper.mm), deviation, chart, given.subgroup)
    drift = _drift(values, float(given.lower.mm), float(given.upper.mm))
    counts = {state.value: sum(piece.state is state for piece in judged) for state in State}
    worst = max((piece.state for piece in judged), key=SEVERITY.index)
    return BatchResult(
        pieces=judged,
        counts=counts,
        state=worst,
        mean=Length.from_mm(fmean(values), unit),
        spread=Length.from_mm(deviation, unit),
        chart=_as_run_chart(chart) if chart else None,
        capability=capability,
        drift=drift,
        sentence=_sentence(judged),
        drift_sentence=_drift_sentence(drift, unit),
        working=_working(values, deviation, chart, capability, drift, given, unit),
    )


def _judged(given: BatchInput, piece: Piece, unit: Unit) -> JudgedPiece:
    """The worst reading speaks for the piece; the mean goes on the chart."""
    feature = Feature(given.kind, given.lower.mm, given.upper.mm)
    found = [(feature.judge(size.mm, given.uncertainty.mm, given.acceptance), size) for size in piece.sizes]
    state, deciding = max(found, key=lambda pair: SEVERITY.index(pair[0]))
    mean = sum((size.mm for size in piece.sizes), Decimal(0)) / len(piece.sizes)
    return JudgedPiece(serial=piece.serial, mean=Length(mean, unit), deciding=deciding, state=state)


def _chart(values: list[float], subgroup: int) -> Chart | None:
    if subgroup == 1:
        return individuals(values) if len(values) > 2 else None
    groups = [values[start : start + subgroup] for start in range(0, len(values) - subgroup + 1, subgroup)]
    return means_and_ranges(groups) if len(groups) > 1 else None


def _as_run_chart(chart: Chart) -> RunChart:
    return RunChart(
        points_mm=chart.points,
        centre_mm=chart.centre,
        lower_mm=chart.lower,
        upper_mm=chart.upper,
        ranges_mm=chart.ranges,
        range_centre_mm=chart.range_centre,
        range_upper_mm=chart.range_upper,
        range_lower_mm=chart.range_lower,
        outside=chart.outside,
    )


def _capability(
    values: list[float], low: float, high: float, deviation: float, chart: Chart | None, subgroup: int
) -> Capability | None:
    if len(values) < FEWEST_FOR_CAPABILITY or chart is None or min(deviation, chart.sigma) < 1e-9:
        return None
    mean = fmean(values)
    cp, cpk = _index(low, high, mean, chart.sigma, within_freedom(len(values), subgroup))
    pp, ppk = _index(low, high, mean, deviation, len(values) - 1)
    return Capability(
        within_mm=chart.sigma,
        cp=cp[0],
        cp_from=cp[1],
        cp_to=cp[2],
        cpk=cpk[0],
        cpk_from=cpk[1],
        cpk_to=cpk[2],
        pp=pp[0],
        pp_from=pp[1],
        pp_to=pp[2],
        ppk=ppk[0],
        ppk_from=ppk[1],
        ppk_to=ppk[2],
    )


def within_freedom(count: int, subgroup: int) -> float:
    """Degrees of freedom of the spread found from ranges: of subgroups, or of moving ranges of two (`subgroup` 1).

    A mean range of k groups has the relative variance d3²/(k·d2²), and a standard deviation with ν degrees of freedom
    1/(2ν). Moving ranges overlap: var = ((2π/3 − 3 + √3)(n − 1) − π/6 + 2 − √3)/(n − 1)² of the variance. Source:
    Patnaik (1950); Cryer and Ryan (1990), both recalled; found by simulation too (tests).

    >>> round(within_freedom(25, 1), 1), round(within_freedom(25, 5), 1)
    (14.7, 18.1)
    """
    if subgroup == 1:
        ranges = count - 1
        relative = ((2 * pi / 3 - 3 + sqrt(3)) * ranges - pi / 6 + 2 - sqrt(3)) / ranges**2
        return 1 / (2 * relative)
    constant = factors()[subgroup]
    return (count // subgroup) * constant.d2**2 / (2 * constant.d3**2)


def _index(
    low: float, high: float, mean: float, deviation: float, freedom: float
) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
    """An index of width and one of nearness to a limit, each with its interval. Source: chi-squared; Bissell (1990)."""
    from scipy.special import chdtri

    width = (high - low) / (6 * deviation)
    near = min(high - mean, mean - low) / (3 * deviation)
    tail = (1 - LEVEL) / 2
    # chdtri takes the upper tail: the small chi-squared has 97.5 % above it.
    small, large = float(chdtri(freedom, 1 - tail)), float(chdtri(freedom, tail))
    half = NormalDist().inv_cdf(1 - tail) * sqrt(1 / (9 * (freedom + 1)) + near**2 / (2 * freedom))
    return (width, width * sqrt(small / freedom), width * sqrt(large / freedom)), (near, near - half, near + half)


@dataclass(frozen=True, slots=True)
class _Line:
    """Least squares over the piece number: size at the last piece, gain a piece, half its 95 % interval (mm).

    `scatter` is the residual standard deviation, `across` the sum of squares of the piece numbers, `t` Student's.
    """

    last: float
    slope: float
    half: float
    scatter: float
    across: float
    count: int
    t: float


def _line(values: list[float]) -> _Line | None:
    n = len(values)
    if n < 4:
        return None
    from scipy.special import stdtrit

    x_mean, y_mean = (n - 1) / 2, fmean(values)
    across = sum((x - x_mean) ** 2 for x in range(n))
    slope = sum((x - x_mean) * (y - y_mean) for x, y in enumerate(values)) / across
    left = sum((y - y_mean - slope * (x - x_mean)) ** 2 for x, y in enumerate(values))
    t, scatter = float(stdtrit(n - 2, 0.5 + LEVEL / 2)), sqrt(left / (n - 2))
    return _Line(y_mean + slope * (n - 1 - x_mean), slope, t * scatter / sqrt(across), scatter, across, n, t)


def _drift(values: list[float], low: float, high: float) -> Drift | None:
    line = _line(values)
    if line is None:
        return None
    is_real = abs(line.slope) > line.half and abs(line.slope) > 1e-9
    leaves = _leaves(line, low, high) if is_real else None
    return Drift(
        per_piece_mm=line.slope,
        from_mm=line.slope - line.half,
        to_mm=line.slope + line.half,
        is_real=is_real,
        leaves_in=leaves[0] if leaves else None,
        leaves_in_from=leaves[1] if leaves else None,
        leaves_in_to=leaves[2] if leaves and leaves[2] < inf else None,
        leaves_by=("upper" if line.slope > 0 else "lower") if leaves else "",
    )


def _leaves(line: _Line, low: float, high: float) -> tuple[float, float, float]:
    """Pieces until the fitted line crosses the limit it drifts to: likely, soonest, latest; 0 where it is past already.

    The interval is Fieller's: every crossing at which the line's own 95 % band still holds the limit. Source: Fieller
    (1954); inverse prediction in texts on regression.
    """
    way = high - line.last if line.slope > 0 else line.last - low
    slope = abs(line.slope)
    likely = max(way / slope, 0.0)
    # The crossing counted from the middle piece: |way_from_middle − slope·x| ≤ t·s·√(1/n + x²/across).
    from_middle = (line.count - 1) / 2
    size = way + slope * from_middle
    spread = (line.t * line.scatter) ** 2
    a = slope**2 - spread / line.across
    b = -2 * size * slope
    c = size**2 - spread / line.count
    root = b * b - 4 * a * c
    if a <= 0 or root < 0:
        return likely, 0.0, inf
    ends = sorted((-b + sign * sqrt(root)) / (2 * a) - from_middle for sign in (-1, 1))
    return likely, max(ends[0], 0.0), max(ends[1], 0.0)


def _sentence(judged: list[JudgedPiece]) -> str:
    inside = sum(piece.state is State.IN_LIMITS for piece in judged)
    bad = [piece.serial for piece in judged if piece.state is State.GONE_TOO_FAR]
    gone = f" Gone too far: {', '.join(bad[:8])}{' and more' if len(bad) > 8 else ''}." if bad else ""
    return f"{inside} of {len(judged)} in limits.{gone}"


def _drift_sentence(drift: Drift | None, unit: Unit) -> str:
    if drift is None:
        return ""
    if not drift.is_real:
        return "No drift that these pieces can show."
    gain = show_small(as_mm(drift.per_piece_mm), unit, signed=True)
    if drift.leaves_in is None or drift.leaves_in_from is None:
        return f"It drifts by {gain} a piece."
    latest = f"{drift.leaves_in_to:.0f}" if drift.leaves_in_to is not None else "never"
    return (
        f"It drifts by {gain} a piece: past the {drift.leaves_by} limit in about {drift.leaves_in:.0f} pieces "
        f"({drift.leaves_in_from:.0f} to {latest}). Reset the dial or change the tool before."
    )


def _working(
    values: list[float],
    deviation: float,
    chart: Chart | None,
    capability: Capability | None,
    drift: Drift | None,
    given: BatchInput,
    unit: Unit,
) -> list[Step]:
    steps = [
        Step(
            name="Mean and spread",
            formula="mean of the pieces' means; sample standard deviation s",
            values=f"{len(values)} pieces",
            result=f"{both(as_mm(fmean(values)), unit, decimals=5)}, s = {both(as_mm(deviation), unit, decimals=6)}",
            source="arithmetic",
        )
    ]
    if chart:
        how = (
            "mean ± 3·MR/1.128, moving range of two"
            if given.subgroup == 1
            else f"mean ± A2·R, subgroups of {given.subgroup} pieces"
        )
        steps.append(
            Step(
                name="Chart limits",
                formula=how,
                values=f"mean range {both(as_mm(chart.range_centre), unit, decimals=6)}",
                result=f"{both(as_mm(chart.lower), unit, decimals=5)} to {both(as_mm(chart.upper), unit, decimals=5)}",
                source=CHART_SOURCE,
            )
        )
    if capability:
        steps.append(
            Step(
                name="Capability",
                formula=(
                    "tolerance / 6s and nearest limit / 3s; Cp and Cpk by s within groups (mean range / d2), Pp and Ppk"
                    " by s overall"
                ),
                values=(
                    f"s within {both(as_mm(capability.within_mm), unit, decimals=6)}, overall"
                    f" {both(as_mm(deviation), unit, decimals=6)}"
                ),
                result=", ".join(
                    f"{name} {getattr(capability, key):.2f} ({getattr(capability, key + '_from'):.2f} to"
                    f" {getattr(capability, key + '_to'):.2f})"
                    for name, key in (("Cp", "cp"), ("Cpk", "cpk"), ("Pp", "pp"), ("Ppk", "ppk"))
                ),
                source="ISO 22514-2:2017; intervals by chi-squared and Bissell's approximation, at 95 %",
            )
        )
    if drift:
        steps.append(
            Step(
                name="Drift",
                formula="least squares over the piece number, Student's t for its interval",
                result=(
                    f"{show_small(as_mm(drift.per_piece_mm), unit, signed=True)} a piece"
                    f" ({show_small(as_mm(drift.from_mm), unit, signed=True)} to"
                    f" {show_small(as_mm(drift.to_mm), unit, signed=True)})"
                ),
                source="least squares; a straight line is the simplest model of tool wear",
            )
        )
    return steps
