"""Shorthands of the entry line for lengths and angles: `slips 1.3725`, `sine 16.5° on 5`, `tap M8`, and so on."""

from typing import Any

from nomisma.core.quantity.length import Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.shorthand import Understood, written


def _slips(parts: dict[str, str], unit: Unit | None) -> Understood:
    target = parse_length(parts["target"], unit)
    inputs: dict[str, Any] = {
        "target": str(target),
        "set": "in81" if target.unit == "in" else "m88",
        "unit": target.unit,
    }
    return "slips", inputs, f"a pile of slips of {target}"


def _taper(parts: dict[str, str], unit: Unit | None) -> Understood:
    inputs: dict[str, Any] = {"taper": parts["taper"], **({"unit": unit} if unit else {})}
    for name in ("large", "length"):
        if parts[name]:
            inputs[name] = str(parse_length(parts[name], unit))
    return "taper", inputs, f"a taper of {parts['taper']}"


def _between(parts: dict[str, str], unit: Unit | None) -> Understood:
    large, small, length = (parse_length(parts[name], unit) for name in ("large", "small", "length"))
    inputs = {"large": str(large), "small": str(small), "length": str(length), "unit": large.unit}
    return "taper", inputs, f"a taper from {large} to {small} over {length}"


def _sine(parts: dict[str, str], unit: Unit | None) -> Understood:
    inputs: dict[str, Any] = {"angle": parts["angle"], "set": "m88" if unit == "mm" else "in81", "unit": unit or "in"}
    if parts["apart"]:
        inputs["rollers_apart"] = str(parse_length(parts["apart"], unit))
    return "sine_bar", inputs, f"a sine bar set to {parts['angle']}"


def _tap(parts: dict[str, str], unit: Unit | None) -> Understood:
    return "tapping", {"thread": parts["thread"], **({"unit": unit} if unit else {})}, f"a drill for {parts['thread']}"


def _holes(parts: dict[str, str], unit: Unit | None) -> Understood:
    circle = parse_length(parts["circle"], unit)
    return (
        "hole_circle",
        {"count": parts["count"], "circle": str(circle), "unit": circle.unit},
        f"{parts['count']} holes on {circle}",
    )


_SIZE = r"[0-9.][0-9./-]*(?:\s?(?:mm|in))?"
LENGTH_SHORTHANDS = (
    written("slips 1.3725", r"slips?\s+(?P<target>.+)", _slips),
    written(
        "taper 1 to 3/4 over 5",
        rf"taper\s+(?P<large>{_SIZE})\s+to\s+(?P<small>{_SIZE})\s+over\s+(?P<length>{_SIZE})",
        _between,
    ),
    written(
        "set taper Morse 3",
        rf"set\s+taper\s+(?P<taper>.+?)(?:\s+from\s+(?P<large>{_SIZE}))?(?:\s+over\s+(?P<length>{_SIZE}))?",
        _taper,
    ),
    written("sine 14.25° on 5", rf"sine\s+(?P<angle>.+?)(?:\s+on\s+(?P<apart>{_SIZE}))?", _sine),
    written("tap 3/8-16", r"tap\s+(?P<thread>.+)", _tap),
    written("6 holes on 4", rf"(?P<count>[0-9]{{1,3}})\s+holes\s+on\s+(?P<circle>{_SIZE})", _holes),
)
"""Every shorthand of lengths and angles."""
