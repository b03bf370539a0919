"""Which lathe: what a piece of work needs, against what each machine has room for; fits, does not, or nobody said."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal
from math import pi
from typing import Literal

from nomisma.core.cutting.speeds import speed_list
from nomisma.core.errors import InputError
from nomisma.core.quantity.display import show_sawn, show_surface_speed
from nomisma.core.quantity.length import Unit
from nomisma.core.quantity.writing import parse_length

Mounting = Literal["chuck", "between_centres"]
Verdict = Literal["fits", "does_not", "not_said"]
VERDICT_WORDS: dict[Verdict, str] = {"fits": "fits", "does_not": "does not fit", "not_said": "not said"}
ROOM_WORDS = {
    "swing_over_bed": "Swing over the bed", "swing_over_gap": "Swing in the gap",
    "gap_length": "Length of the gap before the chuck",
    "swing_over_cross_slide": "Swing over the cross-slide",
    "cross_slide_back": "Cross-slide comes back to a diameter of",
    "between_centres": "Between centres", "spindle_bore": "Spindle bore", "tailstock_travel": "Tailstock travel",
    "set_over_room": "Tailstock goes over by", "grips_from": "Chuck grips from", "grips_to": "Chuck grips to",
    "grips_to_reversed": "Chuck grips to, jaws turned round", "steady_from": "Steady from", "steady_to": "Steady to",
    "compound_line": "One line of the compound", "carriage_line": "One line of the carriage handwheel",
    "carriage_turn": "One turn of the carriage handwheel", "tailstock_turn": "One turn of the tailstock handwheel",
    "leadscrew_pitch": "Lead of the leadscrew",
}  # fmt: skip
"""What a machine has room for, by name, as the shop enters it."""


BACK_FOR_CERTAIN = Decimal("0.5")
"""Up to this share of the swing over the bed any cross-slide comes back far enough. Source: common practice, no source.
"""
_NO_LENGTH = "how long the work is nobody said."


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkSize:
    """A piece of work as it goes on a lathe, mm: what it swings in, how long that is, its length (none: not known),
    what is held, how far a drill goes in.

    `cutting_m_min`: the surface speed wanted at its largest diameter; `steadied_mm`: the diameter a steady would run
    on.
    """

    swings_mm: Decimal
    length_mm: Decimal | None
    held_mm: Decimal
    holding: Mounting = "chuck"
    large_length_mm: Decimal = Decimal(0)
    beyond_chuck_mm: Decimal = Decimal(0)
    drilled_mm: Decimal = Decimal(0)
    steadied_mm: Decimal | None = None
    cutting_m_min: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class MachineRoom:
    """A lathe by name: its room by the names of `ROOM_WORDS` (mm), its speeds as entered, the speed marked on its
    chuck.
    """

    name: str
    room_mm: Mapping[str, Decimal]
    speeds: str = ""
    most_rpm: int | None = None


@dataclass(frozen=True, slots=True)
class Check:
    """One thing the work asks of a machine, how it stands, and a sentence with both figures."""

    asked: str
    verdict: Verdict
    sentence: str


def room_mm(texts: Mapping[str, str]) -> dict[str, Decimal]:
    """A machine's room as it was entered, in mm; what cannot be read is left out. Source: shop writing, common
    practice, no source.

    >>> room_mm({"spindle_bore": "1.5 in"})
    {'spindle_bore': Decimal('38.10')}
    """
    found = {}
    for name, text in texts.items():
        try:
            found[name] = parse_length(text, "mm").mm
        except InputError:
            continue
    return found


def checks(work: WorkSize, machine: MachineRoom, unit: Unit) -> list[Check]:
    """Everything the work asks of the machine, mm within. Source: common practice, no source.

    >>> lathe = MachineRoom(name="Long lathe", room_mm={"swing_over_bed": Decimal(300)})
    >>> checks(WorkSize(swings_mm=Decimal(320), length_mm=Decimal(80), held_mm=Decimal(320)), lathe, "mm")[0].verdict
    'does_not'
    """
    found = [
        _swing(work, machine, unit),
        _cross_slide(work, machine, unit),
        _back(work, machine, unit),
        *_held(work, machine, unit),
        *_steady(work, machine, unit),
        *_drill(work, machine, unit),
        *_speed(work, machine, unit),
    ]
    return [one for one in found if one is not None]


def fits(found: list[Check]) -> Verdict:
    """What all checks of a machine come to: one that does not is enough. Source: arithmetic.

    >>> fits([Check("swing", "fits", ""), Check("centres", "not_said", "")])
    'not_said'
    """
    verdicts = {one.verdict for one in found}
    return "does_not" if "does_not" in verdicts else "not_said" if "not_said" in verdicts else "fits"


def _against(asked: str, needs_mm: Decimal, has_mm: Decimal | None, unit: Unit, *, words: str) -> Check:
    if has_mm is None:
        return Check(asked, "not_said", f"{words}: nobody entered it; {show_sawn(needs_mm, unit)} is needed.")
    verdict: Verdict = "fits" if has_mm >= needs_mm else "does_not"
    return Check(asked, verdict, f"{words} {show_sawn(has_mm, unit)}, needed {show_sawn(needs_mm, unit)}.")


def _swing(work: WorkSize, machine: MachineRoom, unit: Unit) -> Check:
    room = machine.room_mm
    over_bed = _against("swing", work.swings_mm, room.get("swing_over_bed"), unit, words=ROOM_WORDS["swing_over_bed"])
    gap = room.get("swing_over_gap")
    if over_bed.verdict != "does_not" or gap is None or gap < work.swings_mm:
        return over_bed
    long, gap_long = work.large_length_mm or work.length_mm, room.get("gap_length")
    if long is None:
        return Check("swing", "not_said", f"Only in the gap, {show_sawn(gap, unit)}; {_NO_LENGTH}")
    if gap_long is None:
        unknown = f"Only in the gap, {show_sawn(gap, unit)}; how long the gap is nobody entered"
        return Check("swing", "not_said", f"{unknown}: {show_sawn(long, unit)} is needed.")
    verdict: Verdict = "fits" if gap_long >= long else "does_not"
    return Check(
        "swing",
        verdict,
        f"In the gap, {show_sawn(gap, unit)}: it is {show_sawn(gap_long, unit)} long, needed {show_sawn(long, unit)}.",
    )


def _cross_slide(work: WorkSize, machine: MachineRoom, unit: Unit) -> Check | None:
    """Work that stands far out of the chuck runs over the cross-slide."""
    over = machine.room_mm.get("swing_over_cross_slide")
    if not work.beyond_chuck_mm or work.beyond_chuck_mm <= work.swings_mm:
        return None
    return _against("over the cross-slide", work.swings_mm, over, unit, words=ROOM_WORDS["swing_over_cross_slide"])


def _back(work: WorkSize, machine: MachineRoom, unit: Unit) -> Check | None:
    back, bed = machine.room_mm.get("cross_slide_back"), machine.room_mm.get("swing_over_bed")
    if back is None:
        if bed is not None and work.swings_mm <= BACK_FOR_CERTAIN * bed:
            return None
        unknown = "How far the cross-slide comes back nobody entered"
        return Check(
            "cross-slide back", "not_said", f"{unknown}: a diameter of {show_sawn(work.swings_mm, unit)} is turned."
        )
    return _against("cross-slide back", work.swings_mm, back, unit, words=ROOM_WORDS["cross_slide_back"])


def _held(work: WorkSize, machine: MachineRoom, unit: Unit) -> Iterator[Check]:
    room = machine.room_mm
    if work.holding == "between_centres" and work.length_mm is None:
        yield Check("between centres", "not_said", f"{ROOM_WORDS['between_centres']}: {_NO_LENGTH}")
        return
    if work.holding == "between_centres" and work.length_mm is not None:
        yield _against(
            "between centres", work.length_mm, room.get("between_centres"), unit, words=ROOM_WORDS["between_centres"]
        )
        return
    least, most, turned = (room.get(name) for name in ("grips_from", "grips_to", "grips_to_reversed"))
    if most is None:
        yield Check(
            "chuck", "not_said", f"What the chuck grips nobody entered; {show_sawn(work.held_mm, unit)} is needed."
        )
    elif least is not None and work.held_mm < least:
        thin = f"The chuck grips from {show_sawn(least, unit)}; the work is {show_sawn(work.held_mm, unit)}"
        yield Check("chuck", "does_not", f"{thin}: a collet, or a bush.")
    elif work.held_mm <= most:
        yield Check(
            "chuck", "fits", f"The chuck grips to {show_sawn(most, unit)}, needed {show_sawn(work.held_mm, unit)}."
        )
    elif turned is not None and work.held_mm <= turned:
        yield _against("chuck", work.held_mm, turned, unit, words=ROOM_WORDS["grips_to_reversed"])
    else:
        short = f"The chuck grips to {show_sawn(turned or most, unit)}, needed {show_sawn(work.held_mm, unit)}"
        yield Check("chuck", "does_not", f"{short}: a faceplate, or another lathe.")
    if (bore := room.get("spindle_bore")) is not None:
        passes = bore >= work.held_mm
        what = (
            "the bar goes through, and the piece is parted off"
            if passes
            else "it does not go through: saw the blank first"
        )
        yield Check("through the spindle", "fits", f"Spindle bore {show_sawn(bore, unit)}: {what}.")


def _steady(work: WorkSize, machine: MachineRoom, unit: Unit) -> Iterator[Check]:
    if work.steadied_mm is None:
        return
    least, most = machine.room_mm.get("steady_from"), machine.room_mm.get("steady_to")
    if most is None:
        yield Check(
            "steady",
            "not_said",
            f"What the steady takes nobody entered; {show_sawn(work.steadied_mm, unit)} is needed.",
        )
        return
    inside = (least or Decimal(0)) <= work.steadied_mm <= most
    range_said = f"{show_sawn(least or Decimal(0), unit)} to {show_sawn(most, unit)}"
    yield Check(
        "steady",
        "fits" if inside else "does_not",
        f"The steady takes {range_said}, needed {show_sawn(work.steadied_mm, unit)}.",
    )


def _drill(work: WorkSize, machine: MachineRoom, unit: Unit) -> Iterator[Check]:
    if work.drilled_mm and (travel := machine.room_mm.get("tailstock_travel")) is not None:
        found = _against("drilling", work.drilled_mm, travel, unit, words=ROOM_WORDS["tailstock_travel"])
        if found.verdict == "does_not":
            found = Check(
                "drilling", "fits", f"{found.sentence} In several goes: move the tailstock up, or drill from both ends."
            )
        yield found


def _speed(work: WorkSize, machine: MachineRoom, unit: Unit) -> Iterator[Check]:
    """The slowest speed against the largest diameter, and what is marked on the chuck."""
    if work.cutting_m_min is None or not machine.speeds:
        return
    listed, ends = speed_list(machine.speeds)
    slowest = ends[0] if ends else listed[0]
    rim = pi * float(work.swings_mm) / 1000 * slowest
    verdict: Verdict = "fits" if rim <= work.cutting_m_min else "does_not"
    wanted, runs = (show_surface_speed(speed, unit) for speed in (work.cutting_m_min, rim))
    yield Check(
        "slowest speed", verdict, f"At its slowest, {slowest:g} rpm, the rim runs at {runs}; wanted at most {wanted}."
    )
