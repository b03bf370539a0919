"""Shorthands of the entry line for lengths and angles: `slips 1.3725`, and so on."""

from typing import Any

from nomisma.core.quantity.length import Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.shorthand import Understood, written


def _slips(parts: dict[str, str], unit: Unit | None) -> Understood:
    target = parse_length(parts["target"], unit)
    inputs: dict[str, Any] = {"target": str(target), "set": "in81" if target.unit == "in" else "m88", "unit": target.unit}
    return "slips", inputs, f"a pile of slips of {target}"


LENGTH_SHORTHANDS = (written("slips 1.3725", r"slips?\s+(?P<target>.+)", _slips),)
"""Every shorthand of lengths and angles."""
