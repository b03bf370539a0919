"""Both members against the zero line: the partner as measured, and each fit system's zone for the member to be made."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from markupsafe import Markup

from nomisma.core.fits.fit import FitResult, MemberLimits
from nomisma.core.fits.options import FitOption, OptionsResult
from nomisma.core.fits.partner import Partner
from nomisma.core.part.feature import cut_direction
from nomisma.core.part.member import MemberKind
from nomisma.core.quantity.display import show_exact, show_small
from nomisma.core.quantity.length import Unit
from nomisma.web.drawings.svg import Axis, along, both_units, figure, join, label, line, node

WIDTH, HEIGHT = 400, 340
TOP, BOTTOM = 40, 268
ZONE_WIDTH = 48


@dataclass(frozen=True, slots=True)
class Column:
    """One zone in the picture: deviations from the nominal in mm, what it is, and marks on it."""

    title: str
    kind: MemberKind
    lower_mm: Decimal
    upper_mm: Decimal
    class_: str
    uncertainty_mm: Decimal = Decimal(0)
    aim_mm: Decimal | None = None
    safe_side: bool = False


def fit_picture(partner: Partner, result: OptionsResult, chosen: FitOption | None, unit: Unit) -> Markup:
    """The partner, then the fit systems' zones, the one looked at in brass with its aim and its metal-safe side."""
    nominal = result.nominal.mm
    origin = "measured" if partner.origin == "measured" else "called out"
    columns = [
        Column(
            f"{partner.kind}, {origin}",
            partner.kind,
            partner.smallest_mm - nominal,
            partner.largest_mm - nominal,
            "partner",
            partner.uncertainty_mm,
        )
    ]
    for option in _worth_drawing(result, chosen):
        assert option.lower is not None
        assert option.upper is not None
        assert option.aim is not None
        on = chosen is not None and option.name == chosen.name
        name = option.name if option.fit_system in ("iso", "inch") else option.name.split(":")[0].lower()
        columns.append(
            Column(
                f"{result.made_kind}, {name}",
                result.made_kind,
                option.lower.mm - nominal,
                option.upper.mm - nominal,
                "chosen" if on else "other",
                aim_mm=option.aim.mm - nominal if on else None,
                safe_side=on,
            )
        )
    return _picture(columns, nominal, unit, f"{result.made_kind} to be made against its partner")


def _worth_drawing(result: OptionsResult, chosen: FitOption | None) -> list[FitOption]:
    """One of each fit system: the one looked at, or the one to try first."""
    possible = [option for option in result.options if option.possible]
    drawn = []
    for fit_system in ("make_to_suit", "shop_rule", "iso", "inch"):
        own = [option for option in possible if option.fit_system == fit_system]
        looked_at = [option for option in own if chosen and option.name == chosen.name]
        first = [option for option in own if option.recommended or fit_system == "shop_rule"]
        drawn += [*looked_at, *first][:1]
    return drawn


def _members(result: FitResult) -> tuple[tuple[MemberKind, str, str, MemberLimits | None], ...]:
    """Each member of a code: what it is, its word, how it is drawn."""
    return ("bore", "hole", "partner", result.hole), ("shaft", "shaft", "chosen", result.shaft)


def code_picture(result: FitResult, unit: Unit) -> Markup:
    """Hole and shaft of a code against the zero line."""
    columns = [
        Column(
            member.code if " " in member.code else f"{word} {member.code}",
            kind,
            member.lower_limit.mm - result.nominal.mm,
            member.upper_limit.mm - result.nominal.mm,
            class_,
        )
        for kind, word, class_, member in _members(result)
        if member
    ]
    return _picture(
        columns, result.nominal.mm, unit, f"{' and '.join(column.title for column in columns)} against the zero line"
    )


def _picture(columns: Sequence[Column], nominal_mm: Decimal, unit: Unit, title: str) -> Markup:
    low, high = _span(columns)

    def y(deviation_mm: Decimal) -> float:
        return along(deviation_mm, high, low, TOP, BOTTOM)

    step = (WIDTH - 20) / len(columns)
    drawn = [_column(column, 10 + step * (index + 0.5), y) for index, column in enumerate(columns)]
    zero = join(
        line(4, y(Decimal(0)), WIDTH - 4, y(Decimal(0)), "zero-line"),
        both_units(
            4,
            14,
            f"zero line {show_exact(nominal_mm, 'in')}",
            f"zero line {show_exact(nominal_mm, 'mm')}",
            "scale zero",
            "start",
        ),
    )
    words = " ".join(
        f"{column.title}: {show_exact(nominal_mm + column.lower_mm, unit)} to"
        f" {show_exact(nominal_mm + column.upper_mm, unit)}."
        for column in columns
    )
    return figure(WIDTH, HEIGHT, title, words, zero, *drawn, class_="fit-picture")


def _span(columns: Sequence[Column]) -> tuple[Decimal, Decimal]:
    """Lowest and highest deviation to show, the zero line always in."""
    low = min(Decimal(0), *(column.lower_mm - column.uncertainty_mm for column in columns))
    high = max(Decimal(0), *(column.upper_mm + column.uncertainty_mm for column in columns))
    room = (high - low or Decimal("0.01")) * Decimal("0.06")
    return low - room, high + room


def _column(column: Column, x: float, y: Axis) -> Markup:
    top, bottom = y(column.upper_mm), y(column.lower_mm)
    height = max(bottom - top, 3.0)
    shapes = [
        node(
            "rect",
            x=float(x - ZONE_WIDTH / 2),
            y=float(top),
            width=ZONE_WIDTH,
            height=float(height),
            class_=f"zone {column.class_}",
        ),
        _end_label(
            x,
            y(column.upper_mm + column.uncertainty_mm) - (15 if column.safe_side and _metal_above(column.kind) else 7),
            column.upper_mm,
        ),
    ]
    if column.upper_mm != column.lower_mm:
        shapes.append(
            _end_label(
                x,
                y(column.lower_mm - column.uncertainty_mm)
                + (25 if column.safe_side and not _metal_above(column.kind) else 16),
                column.lower_mm,
            )
        )
    if column.uncertainty_mm:
        ends = (y(column.upper_mm + column.uncertainty_mm), y(column.lower_mm - column.uncertainty_mm))
        shapes.extend(line(x - 12, end, x + 12, end, "whisker") for end in ends)
        shapes.append(
            line(
                x, y(column.upper_mm + column.uncertainty_mm), x, y(column.lower_mm - column.uncertainty_mm), "whisker"
            )
        )
    if column.aim_mm is not None:
        shapes.append(
            line(x - ZONE_WIDTH / 2 - 8, y(column.aim_mm), x + ZONE_WIDTH / 2 + 8, y(column.aim_mm), "aim-line")
        )
        shapes.append(label(x + ZONE_WIDTH / 2 + 10, y(column.aim_mm) + 4, "aim", "scale aim", "start"))
    if column.safe_side:
        shapes.append(_safe_side(column.kind, x, top, top + height))
    for row, words in enumerate(column.title.split(", ")):
        shapes.append(label(x, HEIGHT - 26 + row * 17, words, f"column-title {column.class_}"))
    return node("g", join(*shapes))


def _end_label(x: float, y: float, deviation_mm: Decimal) -> Markup:
    return both_units(
        x, y, show_small(deviation_mm, "in", signed=True), show_small(deviation_mm, "mm", signed=True), "scale"
    )


def _metal_above(kind: MemberKind) -> bool:
    """Whether metal is left above its zone: larger than the upper limit."""
    return cut_direction(kind) == 1


def _safe_side(kind: MemberKind, x: float, top: float, bottom: float) -> Markup:
    """A hatched edge with a word on the side where metal is left."""
    edge, tick, word_down = (top, -6, 0) if _metal_above(kind) else (bottom, 6, 8)
    left = x - ZONE_WIDTH / 2
    ticks = [
        line(left + 4 + step, edge, left + 10 + step, edge + tick, "safe-tick") for step in range(0, ZONE_WIDTH - 6, 8)
    ]
    word = label(left - 6, edge + word_down, "metal side", "scale safe", "end")
    return join(line(left, edge, left + ZONE_WIDTH, edge, "safe-line"), *ticks, word)
