"""Shorthands of the entry line for the lathe itself: `speed 1 in mild steel`, `face 1.030 to 1.000`, `true 0 .010 .016
.006`, `drill 7.2 mm`.
"""

from difflib import get_close_matches
from typing import Any

from nomisma.core.cutting.speeds import cutting_speeds
from nomisma.core.errors import InputError, UnreadableLength
from nomisma.core.quantity.length import Unit
from nomisma.core.quantity.writing import parse_length, split_sizes
from nomisma.core.shorthand import SIZE, Understood, written
from nomisma.core.threads.designation import thread_named

USUAL_TRUING: dict[Unit, dict[str, str]] = {
    "in": {"target": "0.0005 in", "screw_lead": "0.125 in", "graduation": "0.0005 in"},
    "mm": {"target": "0.01 mm", "screw_lead": "3 mm", "graduation": "0.01 mm"},
}
"""What a round is trued to, and with which jaw screw and dial, until it is said. Source: common practice, no source."""
_SAID_FOR = {
    "steel": "mild_steel",
    "iron": "grey_iron",
    "stainless": "stainless_304",
    "nylon": "acetal",
    "aluminum": "aluminium",
}


def _speed(parts: dict[str, str], unit: Unit | None) -> Understood:
    diameter = parse_length(parts["diameter"], unit)
    name = _material(parts["material"])
    inputs: dict[str, Any] = {"diameter": str(diameter), "material": name, "unit": diameter.unit}
    return "speeds", inputs, f"speed and feed, {cutting_speeds()[name].title.lower()} of {diameter}"


def _material(words: str) -> str:
    """The material of the table that is meant. Raises UnreadableLength."""
    said = " ".join(words.lower().split())
    known = (
        {name: name for name in cutting_speeds()}
        | {one.title.lower(): name for name, one in cutting_speeds().items()}
        | _SAID_FOR
    )
    found = (
        known.get(said.replace(" ", "_")) or known.get(said) or next(iter(get_close_matches(said, known, 1, 0.7)), "")
    )
    if found not in cutting_speeds():
        found = known.get(found, "")
    if not found:
        named = ", ".join(name.replace("_", " ") for name in cutting_speeds())
        raise UnreadableLength(f"“{words[:40]}” is no material whose speed is known here.", f"Write one of {named}.")
    return found


def _face(parts: dict[str, str], unit: Unit | None) -> Understood:
    wanted = parse_length(parts["wanted"], unit)
    measured = parse_length(parts["measured"], wanted.unit)
    return (
        "facing",
        {"measured": str(measured), "wanted": str(wanted), "by": "readout", "unit": wanted.unit},
        f"face from {measured} to {wanted}",
    )


def _true(parts: dict[str, str], unit: Unit | None) -> Understood:
    own = unit or "in"
    readings = [parse_length(text, own, positive=False) for text in split_sizes(parts["readings"])]
    usual = USUAL_TRUING[own]
    inputs: dict[str, Any] = {"readings": [str(one) for one in readings], **usual, "unit": own}
    return (
        "true_up",
        inputs,
        f"true up a round of {len(readings)}; a jaw screw of {usual['screw_lead']}, to {usual['target']}",
    )


def _drill(parts: dict[str, str], unit: Unit | None) -> Understood:
    """What a drill is asked for: a thread's where it reads as one, else which drill is that size."""
    text = parts["what"]
    try:
        thread = thread_named(text)
    except InputError:
        size = parse_length(text, unit)
        return "drill_sizes", {"size": str(size), "unit": size.unit}, f"the drills near {size}"
    return _tapping(thread.name, unit)


def _thread(parts: dict[str, str], unit: Unit | None) -> Understood:
    return _tapping(thread_named(parts["thread"]).name, unit)


def _tapping(name: str, unit: Unit | None) -> Understood:
    return "tapping", {"thread": name, **({"unit": unit} if unit else {})}, f"a drill for {name}"


def _pile(parts: dict[str, str], unit: Unit | None) -> Understood:
    target = parse_length(parts["target"], unit)
    return (
        "slips",
        {"target": str(target), "set": "in81" if target.unit == "in" else "m88", "unit": target.unit},
        f"a pile of slips of {target}",
    )


def _named_taper(parts: dict[str, str], unit: Unit | None) -> Understood:
    return "taper", {"taper": parts["taper"], **({"unit": unit} if unit else {})}, f"a taper of {parts['taper']}"


_INCH_THREAD = r"(?:#?[0-9]{1,2}|[0-9]+/[0-9]+|[0-9]+-[0-9]+/[0-9]+)\s*-\s*[1-9][0-9]?(?:\s*(?:UNC|UNF|UNEF|UNS|UN))?"
LATHE_SHORTHANDS = (
    written("speed 1 in mild steel",
        rf"speeds?\s+(?:for\s+)?(?P<diameter>{SIZE})\s+(?:in\s+)?(?P<material>[a-z][a-z0-9 _-]+)", _speed),
    written("face 1.030 to 1.000", r"face\s+(?P<measured>.+?)\s+to\s+(?P<wanted>.+)", _face),
    written("true 0 .010 .016 .006", rf"true(?:\s+up)?\s+(?P<readings>-?{SIZE}(?:\s+-?{SIZE}){{2,}})", _true),
    written("drill for 1/4-20", r"drill\s+(?:for\s+)?(?P<what>.+)", _drill),
    written("M8", r"(?P<thread>M[0-9.]+(?:\s*[x×]\s*[0-9.]+)?)", _thread),
    written("1/4-20", rf"(?P<thread>{_INCH_THREAD})", _thread),
    written(".8374 slips", r"(?P<target>[0-9]*\.[0-9]+(?:\s?(?:mm|in))?|[0-9]+\s?mm)\s+slips", _pile),
    written("MT3", r"(?P<taper>(?:MT|morse|jarno)\s*[0-9]{1,2}|7/24\s*(?:no\.?\s*)?[0-9]{2})", _named_taper),
)  # fmt: skip
"""Every shorthand of the lathe itself."""
