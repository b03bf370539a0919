"""Shrink and cool assembly: how hot, how cold, and about how long there is to work."""

from decimal import Decimal
from math import pi
from typing import Literal

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.joints.cylinders import Cylinders
from nomisma.core.joints.hub_on_shaft import HubOnShaft
from nomisma.core.materials.material import SOURCE as MATERIAL_SOURCE
from nomisma.core.materials.material import Material
from nomisma.core.model import Model
from nomisma.core.quantity.display import both
from nomisma.core.quantity.fields import Celsius, Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import COMMON_PRACTICE, Step

DRY_ICE_C, NITROGEN_C = -78.0, -196.0
"""Sublimation of carbon dioxide and boiling of nitrogen at 1 atm, °C. Source: physical constants."""
STILL_AIR_W_M2_K = 15.0
"""Heat given to still air and the room by a hot part, W/(m²·K); an estimate. Source: common practice, no source."""
ALLOWANCE_SHARE = Decimal("0.001")
"""Clearance while it goes together: a thousandth of the diameter. Source: DIN 7190-1:2017 (recommended)."""
AIR_W_M_K = 0.03
"""Heat conducted by warm air, W/(m·K). Source: handbook value, rounded."""
THINNEST_FILM_M = 3e-6
"""The film is never thinner than the finish, 3 µm. Source: common practice, no source."""
LONGEST_S = 3600.0

Method = Literal["heat_hub", "dry_ice", "nitrogen", "heat_and_dry_ice", "heat_and_nitrogen"]
TITLES: dict[Method, str] = {
    "heat_hub": "Heat the hub",
    "dry_ice": "Cool the shaft in dry ice",
    "nitrogen": "Cool the shaft in liquid nitrogen",
    "heat_and_dry_ice": "Heat the hub, shaft in dry ice",
    "heat_and_nitrogen": "Heat the hub, shaft in liquid nitrogen",
}
COLD_C: dict[Method, float | None] = {
    "heat_hub": None, "dry_ice": DRY_ICE_C, "nitrogen": NITROGEN_C, "heat_and_dry_ice": DRY_ICE_C,
    "heat_and_nitrogen": NITROGEN_C,
}  # fmt: skip
CAUTIONS = (
    "Heat: gloves and a face shield, tongs ready, an oven or oil bath rather than a flame on one side, no quenching.",
    (
        "Cold: dry ice and nitrogen burn skin and push the air out of a room: open the doors, never in a closed box or"
        " a pit."
    ),
    "One shot: it grabs in seconds once it touches. Rehearse it dry, stop and square ready, then let go and leave it.",
    "Local rules, the suppliers' sheets and licensed practice come first.",
)


class ShrinkInput(HubOnShaft):
    """A hub to go over a shaft that is larger: its greatest interference, materials, and what heat it stands.

    `allowance` is the clearance wanted while it goes together (a thousandth of the diameter if left out). `hub_limit_c`
    lowers the material's own limit: a bearing 120, a coating or a seal as its maker says.
    """

    interference_max: Size
    allowance: Difference | None = None
    room_c: Celsius = Decimal(20)
    hub_limit_c: Celsius | None = None


class ShrinkMethod(Model):
    """One way to do it. Temperatures are absent where it cannot be done; `sentence` says why.

    `seconds`: in still air, before the clearance is gone; `seconds_in_place`: once one part is over the other.
    Estimates.
    """

    method: Method
    title: str
    possible: bool
    sentence: str
    hub_c: float | None = None
    shaft_c: float | None = None
    clearance_at_start: Difference | None = None
    seconds: float | None = None
    seconds_in_place: float | None = None


class ShrinkResult(Model):
    """Every way, the first that can be done, and the cautions. Times are estimates."""

    interference_max: Size
    allowance: Difference
    opening: Difference
    hub_limit_c: float
    methods: list[ShrinkMethod]
    recommended: str
    sentence: str
    cautions: list[str]
    working: list[Step]


@calculation(
    name="shrink",
    title="Shrink and cool assembly: temperatures and time to work",
    validity="Uniform temperatures; mean expansion over the range; the time is a lumped estimate in still air.",
    source="expansion: handbook values; allowance: DIN 7190-1:2017; time: Newton's cooling, an estimate",
    example={"interface_diameter": "40 mm", "hub_outer": "80 mm", "length": "50 mm", "interference_max": "0.060 mm"},
)
def shrink(given: ShrinkInput) -> ShrinkResult:
    """Temperatures for heating, cooling and both, and the time until it grabs. Raises InputError, OutOfRange or
    NotDefined.

    Source: ΔT = (greatest interference + allowance)/(α·d); DIN 7190-1:2017.

    >>> found = shrink(ShrinkInput(interface_diameter="40 mm", hub_outer="80 mm", length="50 mm",
    ...     interference_max="0.06 mm"))
    >>> round(found.methods[0].hub_c)
    237
    """
    unit = given.shown_unit
    joint = given.cylinders
    if given.interference_max.mm > given.interface_diameter.mm / 100:
        raise OutOfRange(
            f"An interference of {given.interference_max} on {given.interface_diameter} is more than any heat or cold"
            " opens.",
            "Check the unit: a shrink fit takes about 0.0015 to 0.002 of the diameter.",
            field="interference_max",
            value=str(given.interference_max),
        )
    if given.hub_limit_c is not None and not 30 <= given.hub_limit_c <= 600:
        raise OutOfRange(
            "What the hub stands lies between 30 and 600 °C.",
            "Check it.",
            field="hub_limit_c",
            value=str(given.hub_limit_c),
        )
    if not -30 <= given.room_c <= 50:
        raise OutOfRange(
            "The room lies between −30 and 50 °C.", "Check its temperature.", field="room_c", value=str(given.room_c)
        )
    allowance = given.interface_diameter.mm * ALLOWANCE_SHARE if given.allowance is None else given.allowance.mm
    if allowance < 0:
        raise InputError(
            "The clearance to go together is below zero.",
            "Leave it out to take a thousandth of the diameter.",
            field="allowance",
        )
    limit = min(joint.hub.limit_c, float(given.hub_limit_c) if given.hub_limit_c is not None else joint.hub.limit_c)
    opening = given.interference_max.mm + allowance
    methods = [_method(method, given, joint, float(opening), limit, unit) for method in TITLES]
    best = next((found for found in methods if found.possible), None)
    return ShrinkResult(
        interference_max=given.interference_max,
        allowance=Length(allowance, unit),
        opening=Length(opening, unit),
        hub_limit_c=limit,
        methods=methods,
        recommended=best.method if best else "",
        sentence=best.sentence if best else _nothing_works(limit),
        cautions=_cautions(joint, limit),
        working=_working(given, joint, allowance, opening, methods, limit, unit),
    )


def _nothing_works(limit_c: float) -> str:
    return (
        f"No way opens it far enough within the hub's {limit_c:g} °C: take less interference, less allowance, "
        "or a hub that stands more heat."
    )


def _shrunk_mm(material: Material, diameter_mm: float, room_c: float, cold_c: float) -> float:
    """What a diameter loses from the room to the cold, with the mean coefficient over that range."""
    mean = material.alpha_dry_ice_per_k if cold_c == DRY_ICE_C else material.alpha_nitrogen_per_k
    return diameter_mm * mean * (room_c - cold_c)


def _method(
    method: Method, given: ShrinkInput, joint: Cylinders, opening: float, limit_c: float, unit: Unit
) -> ShrinkMethod:
    room, cold = float(given.room_c), COLD_C[method]
    shrunk = 0.0 if cold is None else _shrunk_mm(joint.inner, joint.interface_mm, room, cold)
    left = opening - shrunk
    needs = joint.interface_mm * joint.hub.alpha_per_k
    title = TITLES[method]
    if method in ("dry_ice", "nitrogen"):
        if left > 0:
            return ShrinkMethod(
                method=method,
                title=title,
                possible=False,
                sentence=f"Cold alone opens {shrunk * 1000:.0f} µm of the {opening * 1000:.0f} µm needed.",
            )
        hub_c = room
    elif left <= 0 and cold is not None:
        return ShrinkMethod(
            method=method, title=title, possible=False, sentence="The cold alone is enough; no heat is needed."
        )
    else:
        hub_c = room + left / needs
    if hub_c > limit_c:
        return ShrinkMethod(
            method=method,
            title=title,
            possible=False,
            sentence=f"The hub would need {hub_c:.0f} °C; {joint.hub.title} stands about {limit_c:g} °C here.",
        )
    start = needs * (hub_c - room) + shrunk - float(given.interference_max.mm)
    times = _seconds(given, joint, hub_c, cold if cold is not None else room, shrunk)
    cold_words = "" if cold is None else f"shaft at {cold:g} °C".replace("-", "−")
    hub_words = "" if hub_c == room else f"hub at {hub_c:.0f} °C"
    at = " and ".join(filter(None, (hub_words, cold_words)))
    return ShrinkMethod(
        method=method,
        title=title,
        possible=True,
        sentence=(
            f"{at[0].upper()}{at[1:]}: about {_time(times[0])} to carry it in still air, about {_time(times[1])} once"
            " one is over the other. Estimates."
        ),
        hub_c=hub_c,
        shaft_c=cold if cold is not None else room,
        clearance_at_start=Length(Decimal(f"{start:.6f}"), unit),
        seconds=times[0],
        seconds_in_place=times[1],
    )


def _time(seconds: float) -> str:
    return f"{seconds:.0f} s" if seconds < 120 else f"{seconds / 60:.0f} min"


def _seconds(
    given: ShrinkInput, joint: Cylinders, hub_c: float, shaft_c: float, shrunk_mm: float
) -> tuple[float, float]:
    """Seconds until the clearance is gone: carried apart through still air, and once one is over the other.

    Each part is one lump. Apart, both drift to the room by Newton's cooling; in place, heat also crosses the gap
    through its air. Stepped in time. Source: lumped capacity; conduction through an air film; both estimates.
    """
    length, d, big = float(given.length.mm) / 1000, joint.interface_mm / 1000, joint.outer_mm / 1000
    bore = joint.bore_mm / 1000
    rings = (joint.hub, big, d), (joint.inner, d, bore)
    heat = [m.density_kg_m3 * m.heat_j_kg_k * pi / 4 * (o**2 - i**2) * length for m, o, i in rings]
    loss = [STILL_AIR_W_M2_K * (pi * o * length + pi / 2 * (o**2 - i**2)) for _, o, i in rings]
    room, interference = float(given.room_c), float(given.interference_max.mm)
    shaft_rate = shrunk_mm / (room - shaft_c) if shaft_c != room else joint.interface_mm * joint.inner.alpha_per_k
    hub_rate = joint.interface_mm * joint.hub.alpha_per_k

    def until_it_grabs(film: bool) -> float:
        hub, shaft, clock = hub_c, shaft_c, 0.0
        step = 0.02 if film else 2.0
        while clock < LONGEST_S:
            clearance = hub_rate * (hub - room) + shaft_rate * (room - shaft) - interference
            if clearance <= 0:
                return clock
            across = AIR_W_M_K * pi * d * length / max(clearance / 2000, THINNEST_FILM_M) if film else 0.0
            flow = across * (hub - shaft)
            hub -= step * (flow + loss[0] * (hub - room)) / heat[0]
            shaft += step * (flow - loss[1] * (shaft - room)) / heat[1]
            clock += step
        return LONGEST_S

    return until_it_grabs(False), until_it_grabs(True)


def _cautions(joint: Cylinders, limit_c: float) -> list[str]:
    found = list(CAUTIONS)
    if joint.hub.name in ("hardened_steel", "alloy_steel"):
        found.append(
            f"Heat draws the temper of {joint.hub.title.lower()}: stay below {limit_c:g} °C, and below its own"
            " tempering heat."
        )
    if joint.inner.name == "hardened_steel":
        found.append("Hardened steel can crack and grow in deep cold: ask its maker before nitrogen.")
    return found


def _working(
    given: ShrinkInput,
    joint: Cylinders,
    allowance: Decimal,
    opening: Decimal,
    methods: list[ShrinkMethod],
    limit: float,
    unit: Unit,
) -> list[Step]:
    unsure = "; not sure of the cold coefficients" if "alpha_nitrogen" in joint.inner.unsure else ""
    heat = methods[0]
    return [
        Step(
            name="How far it must open",
            formula="greatest interference + clearance to go together",
            values=f"{given.interference_max} + {both(allowance, unit, decimals=5)}",
            result=both(opening, unit, decimals=5),
            source="DIN 7190-1:2017: a thousandth of the diameter" if given.allowance is None else "as entered",
        ),
        Step(
            name="Heat the hub alone",
            formula="t = room + opening/(α·d)",
            values=(
                f"α = {joint.hub.alpha_per_k * 1e6:.1f} µm/(m·K), {joint.hub.title}; room {given.room_c} °C; limit"
                f" {limit:g} °C"
            ),
            result=f"{heat.hub_c:.0f} °C" if heat.hub_c is not None else heat.sentence,
            source=f"{MATERIAL_SOURCE}; limit: {COMMON_PRACTICE}",
        ),
        Step(
            name="What the cold opens",
            formula="d·α(mean, room to cold)·(room − cold)",
            values=f"dry ice −78 °C, nitrogen −196 °C; {joint.inner.title}",
            result=" and ".join(
                f"{_shrunk_mm(joint.inner, joint.interface_mm, float(given.room_c), cold) * 1000:.0f} µm"
                for cold in (DRY_ICE_C, NITROGEN_C)
            ),
            source=f"{MATERIAL_SOURCE}{unsure}",
        ),
        Step(
            name="Time before it grabs, an estimate",
            formula="ρ·c·V/(h·A)·ln(start above room / grip above room), h = 15 W/(m²·K) in still air",
            result="; ".join(
                f"{found.title.lower()}: {found.seconds:.0f} s" for found in methods if found.seconds is not None
            )
            or "none",
            source="Newton's cooling; h: common practice, no source",
        ),
    ]
