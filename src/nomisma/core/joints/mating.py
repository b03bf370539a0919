"""Will it go together, from readings of both members: clearance with its own doubt, feel, where it binds, and warm."""

from decimal import Decimal
from statistics import NormalDist

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import AmbiguousLength, InputError, OutOfRange
from nomisma.core.joints.feel import SOURCE as FEEL_SOURCE
from nomisma.core.joints.feel import feel_of
from nomisma.core.materials.material import material_named
from nomisma.core.materials.temperature import COLDEST_C, WARMEST_C
from nomisma.core.measuring.form import PlacedReading
from nomisma.core.measuring.place import parse_place
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Celsius, Difference, Number
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step


class MeasuredMember(Model):
    """One member's readings at 20 °C with their places, what one is worth (k = 2), the part of that the instrument
    brings to every reading (k = 2), and what it is made of and how warm it runs."""

    readings: list[PlacedReading] = Field(min_length=1, max_length=200)
    uncertainty: Difference = Length(Decimal(0))
    shared_uncertainty: Difference = Length(Decimal(0))
    material: str = "carbon_steel"
    working_c: Celsius = Decimal(20)


class MatingInput(Model):
    """A bore and a shaft as measured; `same_instrument`: one instrument took both sizes, so its shared part cancels."""

    bore: MeasuredMember
    shaft: MeasuredMember
    same_instrument: bool = False


class MatingResult(Model):
    """Clearance at the tightest and the loosest place, its uncertainty (k = 2), the chance that it goes on by hand, the
    feel, and where it binds first; below zero is interference."""

    clearance_min: Difference
    clearance_max: Difference
    uncertainty: Difference
    goes_on_percent: Number
    feel: str
    feel_words: str
    feel_loosest: str
    binds_bore_at: str
    binds_shaft_at: str
    turn_by_deg: int | None = None
    warm_min: Difference
    warm_max: Difference
    feel_warm: str
    sentence: str
    advice: list[str]
    working: list[Step]


@calculation(
    name="mating",
    title="Will it go together, from readings of both",
    validity="A measured bore and a measured shaft, both at 20 °C or brought to it; working temperatures −50 to 150 "
        "°C.",
    source=f"arithmetic; JCGM 100:2008, 5.2 (shared errors cancel in a difference); feel: {FEEL_SOURCE}",
    example={
        "bore": {"readings": [{"place": "mouth 0°", "size": "0.8756 in"}, {"place": "deep 0°", "size": "0.8754 in"}],
                 "uncertainty": "0.0002 in", "shared_uncertainty": "0.00012 in"},
        "shaft": {"readings": [{"place": "near end 0°", "size": "0.8747 in"},
                {"place": "far end 0°", "size": "0.8748 in"}],
                  "uncertainty": "0.0002 in", "shared_uncertainty": "0.00012 in"},
        "same_instrument": True,
    },
)  # fmt: skip
def mating(given: MatingInput) -> MatingResult:
    """Clearance from smallest bore to largest shaft, doubt of the difference, feel, binding place, and the same warm.

    Raises InputError, AmbiguousLength. Source: arithmetic; JCGM 100:2008, 5.2; common practice (feel).
    """
    bore, shaft = _members(given)
    unit = given.bore.readings[0].size.unit
    low_b, high_b = min(bore, key=_size), max(bore, key=_size)
    low_s, high_s = min(shaft, key=_size), max(shaft, key=_size)
    least, greatest = low_b.size.mm - high_s.size.mm, high_b.size.mm - low_s.size.mm
    diameter = (low_b.size.mm + high_s.size.mm) / 2
    if abs(least) > diameter / 10:
        raise AmbiguousLength(
            f"A bore of {low_b.size} and a shaft of {high_s.size} are no pair.",
            "Check the unit of each.",
            field="shaft",
        )
    uncertainty = _uncertainty(given)
    gain = _warm_gain(given, diameter)
    chance = _chance_above_zero(least, uncertainty)
    feel, loosest = feel_of(least, diameter), feel_of(greatest, diameter)
    warm = feel_of(least + gain, diameter)
    turn = _turn(bore, shaft, unit)
    return MatingResult(
        clearance_min=Length(least, unit),
        clearance_max=Length(greatest, unit),
        uncertainty=Length(uncertainty, unit),
        goes_on_percent=Decimal(f"{100 * chance:.1f}"),
        feel=feel.name,
        feel_words=feel.title,
        feel_loosest=loosest.name,
        binds_bore_at=low_b.place,
        binds_shaft_at=high_s.place,
        turn_by_deg=turn,
        warm_min=Length(least + gain, unit),
        warm_max=Length(greatest + gain, unit),
        feel_warm=warm.name,
        sentence=_sentence(least, uncertainty, feel.title, low_b.place, high_s.place, unit),
        advice=_advice(least, uncertainty, turn, feel.name, warm.name, warm.title),
        working=_working(given, low_b, high_s, (least, greatest), uncertainty, chance, gain, unit),
    )


def _size(one: PlacedReading) -> Decimal:
    return one.size.mm


def _members(given: MatingInput) -> tuple[list[PlacedReading], list[PlacedReading]]:
    for name, member in (("bore", given.bore), ("shaft", given.shaft)):
        if not 0 <= member.shared_uncertainty.mm <= member.uncertainty.mm:
            raise InputError(
                "The shared part of the uncertainty is not within the whole.",
                "It is what the instrument brings to every reading: at most the uncertainty itself.",
                field=f"{name}.shared_uncertainty",
            )
        if not COLDEST_C <= member.working_c <= WARMEST_C:
            raise OutOfRange(
                f"Working temperatures go from {COLDEST_C} to {WARMEST_C} °C here.",
                "Correct it.",
                field=f"{name}.working_c",
            )
    return given.bore.readings, given.shaft.readings


def _uncertainty(given: MatingInput) -> Decimal:
    """Doubt of the difference, k = 2: shared parts cancel where one instrument took both. Source: JCGM
    100:2008, 5.2.
    """
    own = given.bore.uncertainty.mm**2 + given.shaft.uncertainty.mm**2
    if given.same_instrument:
        own -= given.bore.shared_uncertainty.mm**2 + given.shaft.shared_uncertainty.mm**2
        # What one instrument brings to both differs only where its shared part was stated differently.
        own += (given.bore.shared_uncertainty.mm - given.shaft.shared_uncertainty.mm) ** 2
    return max(own, Decimal(0)).sqrt()


def _warm_gain(given: MatingInput, diameter_mm: Decimal) -> Decimal:
    """What the clearance gains from 20 °C to the working temperatures, mm."""
    alphas = [Decimal(repr(material_named(m.material).alpha_per_k)) for m in (given.bore, given.shaft)]
    return diameter_mm * (alphas[0] * (given.bore.working_c - 20) - alphas[1] * (given.shaft.working_c - 20))


def _chance_above_zero(least: Decimal, uncertainty: Decimal) -> float:
    if uncertainty == 0:
        return 1.0 if least > 0 else 0.0
    return NormalDist(0, float(uncertainty) / 2).cdf(float(least))


def _turn(bore: list[PlacedReading], shaft: list[PlacedReading], unit: Unit) -> int | None:
    """Degrees to turn the shaft so that its large direction lies in the bore's; None where either shows no
    direction.
    """
    large = []
    for readings in (bore, shaft):
        by_direction: dict[int, list[Decimal]] = {}
        for one in readings:
            direction = parse_place(one.place, unit).direction_deg
            if direction is not None:
                by_direction.setdefault(direction % 180, []).append(one.size.mm)
        means = {key: sum(sizes, Decimal(0)) / len(sizes) for key, sizes in by_direction.items()}
        if len(means) < 2 or max(means.values()) == min(means.values()):
            return None
        large.append(max(means, key=lambda key: means[key]))
    return (large[0] - large[1]) % 180


def _sentence(least: Decimal, uncertainty: Decimal, feel: str, bore_at: str, shaft_at: str, unit: Unit) -> str:
    amount = show_small(least, unit, signed=True)
    if abs(least) <= uncertainty:
        head = f"Tightest {amount} ± {show_small(uncertainty, unit)}: too close to say whether it goes on"
    elif least > 0:
        head = f"Tightest {amount}: it {feel}"
    else:
        head = f"Tightest {amount}: it {feel}, it does not go on by hand"
    return f"{head}. Bore at its {bore_at} against shaft at its {shaft_at} binds first."


def _advice(least: Decimal, uncertainty: Decimal, turn: int | None, feel: str, warm: str, warm_words: str) -> list[str]:
    """What to do at the bench. Source: common practice, no source."""
    found = []
    if abs(least) <= uncertainty:
        found.append("Measure both again with one instrument, or try it on before it leaves the machine.")
    if turn:
        found.append(f"Both are oval: turn the shaft by {turn}° so that large lies in large, and mark it.")
    if warm != feel:
        found.append(f"At working temperature it {warm_words}.")
    return found


def _working(
    given: MatingInput,
    bore: PlacedReading,
    shaft: PlacedReading,
    ends: tuple[Decimal, Decimal],
    uncertainty: Decimal,
    chance: float,
    gain: Decimal,
    unit: Unit,
) -> list[Step]:
    decimals = 5 if unit == "in" else 4
    how = (
        "√(Ub² + Us² − shared parts²): one instrument took both"
        if given.same_instrument
        else "√(Ub² + Us²): two instruments"
    )
    return [
        Step(
            name="Clearance",
            formula="smallest bore − largest shaft; largest bore − smallest shaft",
            values=f"{both(bore.size.mm, unit)} at {bore.place}, {both(shaft.size.mm, unit)} at {shaft.place}",
            result=f"{both(ends[0], unit, decimals=decimals)} to {both(ends[1], unit, decimals=decimals)}",
            source=ARITHMETIC,
        ),
        Step(
            name="Doubt of the clearance",
            formula=how,
            values=(
                f"Ub {show_small(given.bore.uncertainty.mm, unit)}, Us {show_small(given.shaft.uncertainty.mm, unit)}"
            ),
            result=show_small(uncertainty, unit),
            source="JCGM 100:2008, 5.2",
        ),
        Step(
            name="Goes on by hand",
            formula="chance that the tightest clearance is above zero",
            result=f"{100 * chance:.1f} %",
            source="JCGM 106:2012, 7",
        ),
        Step(
            name="Feel",
            formula="by the tightest clearance and the diameter",
            result=feel_of(ends[0], bore.size.mm).title,
            source=COMMON_PRACTICE,
        ),
        Step(
            name="At working temperature",
            formula="d·(α of bore × its rise − α of shaft × its rise) added",
            values=f"bore {given.bore.working_c} °C, shaft {given.shaft.working_c} °C",
            result=show_small(gain, unit, signed=True),
            source="ISO 1; handbook expansion",
        ),
    ]
