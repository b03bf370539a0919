"""Shorthands of the entry line, those for joints and fits here: `bush 3/8 on 1/4 x 1/2`, `press 1 into 2 x 1-1/2 by
.0015`, and so on.
"""

import re
from decimal import Decimal
from typing import Any

from nomisma.core.errors import UnreadableLength
from nomisma.core.fits.called_out import called_out
from nomisma.core.lathe_shorthands import LATHE_SHORTHANDS
from nomisma.core.length_shorthands import LENGTH_SHORTHANDS
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import NUMBER, parse_length
from nomisma.core.shorthand import Understood, written

_MATERIAL_WORDS = {
    "steel": "carbon_steel", "bronze": "bearing_bronze", "brass": "brass", "aluminium": "aluminium_6061",
    "aluminum": "aluminium_6061",
    "iron": "grey_iron", "stainless": "stainless_304", "acetal": "acetal",
}  # fmt: skip
SHRINK_SHARE = Decimal("0.002")  # common practice, no source: 0.0015 to 0.002 in/in; the greater is what must be opened


def understand_shorthand(line: str, unit: Unit | None) -> Understood | None:
    """What a line asks for if it is one of the shorthands; None if it is not. Raises InputError for a size it cannot
    read.

    Source: common practice (shop writing); the words are this tool's own.

    >>> understand_shorthand("bush 3/8 on 1/4 x 1/2", "in")[0]
    'bush'
    """
    for shorthand in SHORTHANDS:
        if match := shorthand.pattern.fullmatch(line):
            return shorthand.read(match.groupdict(default=""), unit)
    return None


def _size(text: str, unit: Unit | None) -> Length:
    return parse_length(text, unit)


def _bush(parts: dict[str, str], unit: Unit | None) -> Understood:
    outside, shaft, length = (_size(parts[name], unit) for name in ("outside", "shaft", "length"))
    inputs = {
        "housing": {"kind": "bore", "readings": [str(outside)], "uncertainty": "0 mm"},
        "shaft": {"kind": "shaft", "readings": [str(shaft)], "uncertainty": "0 mm"},
        "housing_outer": str(outside.with_mm(outside.mm * 2)),
        "length": str(length),
        "unit": outside.unit,
    }
    return "bush", inputs, f"a bush of {outside} on a shaft of {shaft}, {length} long; housing twice the bush"


def _press(parts: dict[str, str], unit: Unit | None) -> Understood:
    diameter, outer, length = (_size(parts[name], unit) for name in ("diameter", "outer", "length"))
    inputs: dict[str, Any] = {"interface_diameter": str(diameter), "hub_outer": str(outer), "length": str(length)}
    if parts["by"]:
        by = _size(parts["by"], diameter.unit)
        inputs |= {"interference_min": str(by), "interference_max": str(by)}
        how = f"by {by}"
    else:
        code = "FN1" if diameter.unit == "in" else "H7/p6"
        inputs["fit"], how = f"{diameter} {code}", code
    return "interference", inputs, f"press {diameter} into {outer}, {length} long, {how}"


def _shrink(parts: dict[str, str], unit: Unit | None) -> Understood:
    diameter, outer, length = (_size(parts[name], unit) for name in ("diameter", "outer", "length"))
    by = _size(parts["by"], diameter.unit) if parts["by"] else diameter.with_mm(diameter.mm * SHRINK_SHARE)
    inputs = {
        "interface_diameter": str(diameter),
        "hub_outer": str(outer),
        "length": str(length),
        "interference_max": str(by),
    }
    return "shrink", inputs, f"shrink a hub of {outer} on {diameter}, {length} long, by {by}"


def _bond(parts: dict[str, str], unit: Unit | None) -> Understood:
    diameter, length = _size(parts["diameter"], unit), _size(parts["length"], unit)
    inputs = {
        "bore": f"{diameter} H8",
        "shaft": f"{diameter} f7",
        "length": str(length),
        "shear_strength_mpa": parts["strength"],
    }
    return "retaining_compound", inputs, f"bond {diameter} x {length} at {parts['strength']} MPa, H8 on f7"


def _warm(parts: dict[str, str], unit: Unit | None) -> Understood:
    diameter = _size(parts["diameter"], unit)
    materials = []
    for word in (parts["inner"], parts["outer"]):
        if word.lower() not in _MATERIAL_WORDS:
            raise UnreadableLength(
                f"“{word}” is no material named here.", f"Write one of {', '.join(_MATERIAL_WORDS)}."
            )
        materials.append(_MATERIAL_WORDS[word.lower()])
    bore, shaft = called_out("bore", f"{diameter} H7"), called_out("shaft", f"{diameter} g6")
    inputs = {
        "diameter": str(diameter),
        "inner_material": materials[0],
        "outer_material": materials[1],
        "clearance_min": f"{bore.lower_mm - shaft.upper_mm:f} mm",
        "clearance_max": f"{bore.upper_mm - shaft.lower_mm:f} mm",
        "from_c": "0",
        "to_c": parts["to"],
    }
    return (
        "expansion",
        inputs,
        f"{diameter} {parts['inner']} in {parts['outer']} from 0 to {parts['to']} °C, H7/g6 at 20 °C",
    )


_BARE = re.compile(rf"[+-]?\s*(?:{NUMBER})")
_UNIT_BEHIND = re.compile(r"(?<=[0-9., ])(?:[a-zµμ]+|\")$", re.IGNORECASE)


def _window(parts: dict[str, str], unit: Unit | None) -> Understood:
    size = _size(parts["size"], unit)
    sign = -1 if parts["what"].lower() == "interference" else 1
    # 5 to 45 um: the unit behind the last number is the first one's too, where that names none.
    first = (
        f"{parts['first']} {named[0]}"
        if (named := _UNIT_BEHIND.search(parts["second"])) and _BARE.fullmatch(parts["first"])
        else parts["first"]
    )
    ends = sorted(sign * parse_length(text, size.unit, positive=False).mm for text in (first, parts["second"]))
    inputs = {
        "nominal": str(size),
        "clearance_min": str(size.with_mm(ends[0])),
        "clearance_max": str(size.with_mm(ends[1])),
    }
    return (
        "find_fit",
        inputs,
        f"{parts['what'].lower()} {parts['first']} to {parts['second']} on {size}: every standard pair",
    )


def _aim(parts: dict[str, str], unit: Unit | None) -> Understood:
    kind = parts["kind"].lower()
    inputs = {"kind": kind, "limits": parts["limits"], **({"unit": unit} if unit else {})}
    return "aim", inputs, f"where to aim on a {kind} of {parts['limits']}"


def _together(parts: dict[str, str], unit: Unit | None) -> Understood:
    inputs: dict[str, Any] = {}
    for kind in ("bore", "shaft"):
        found = called_out(kind, parts[kind], unit=unit)
        ends = (str(Length(mm, found.unit)) for mm in (found.lower_mm, found.upper_mm))
        inputs[kind] = {"kind": kind, "callout": "/".join(end.rsplit(" ", 1)[0] for end in ends) + f" {found.unit}"}
    return "together", inputs, f"a bore of {parts['bore']} on a shaft of {parts['shaft']}"


def _depths(parts: dict[str, str], unit: Unit | None) -> Understood:
    inputs = {"recess_depth": parts["recess"], "boss_height": parts["boss"], **({"unit": unit} if unit else {})}
    return "depths", inputs, f"a recess of {parts['recess']} and a boss of {parts['boss']}"


def _corner(parts: dict[str, str], unit: Unit | None) -> Understood:
    radius = _size(parts["radius"], unit)
    edge = parts["edge"].lower()
    inputs: dict[str, Any] = {"fillet_radius": str(radius), "edge": edge}
    if parts["size"]:
        inputs["edge_size"] = str(_size(parts["size"], radius.unit))
    return "corner", inputs, f"a corner radius of {radius} against {edge} {parts['size']}".rstrip()


_BY = r"(?:\s+by\s+(?P<by>.+))?"
_INTO = r"\s+(?P<diameter>.+?)\s+into\s+(?P<outer>.+?)\s*[x×]\s*(?P<length>.+?)"
_LIMITS = r"\S*[0-9]\S*(?:\s+(?:[A-Za-z]{1,2}[0-9]{1,2}|mm|in))?"
SHORTHANDS = (
    *LENGTH_SHORTHANDS,
    *LATHE_SHORTHANDS,
    written("bush 3/8 on 1/4 x 1/2", r"bush\s+(?P<outside>.+?)\s+on\s+(?P<shaft>.+?)\s*[x×]\s*(?P<length>.+)", _bush),
    written("press 1 into 2 x 1-1/2 by .001", rf"press{_INTO}{_BY}", _press),
    written("shrink 40 mm into 80 mm x 50 mm", rf"shrink{_INTO}{_BY}", _shrink),
    written(
        "bond 12 mm x 20 mm at 20 MPa",
        r"bond\s+(?P<diameter>.+?)\s*[x×]\s*(?P<length>.+?)\s+at\s+(?P<strength>[0-9]+(?:\.[0-9]+)?)\s*mpa", _bond,
    ),
    written(
        "warm 25 mm steel in aluminium to 60",
        r"warm\s+(?P<diameter>.+?)\s+(?P<inner>[a-z]+)\s+(?:in|on)\s+(?P<outer>[a-z]+)\s+to\s+(?P<to>-?[0-9]+(?:\.[0-9]+)?)"
        r"\s*(?:°?\s*c)?", _warm,
    ),
    written(
        "clearance .0005 to .0015 on 7/8",
        r"(?P<what>clearance|interference)\s+(?P<first>.+?)\s+to\s+(?P<second>.+?)\s+on\s+(?P<size>.+)", _window,
    ),
    written("aim 24.980/24.993 mm shaft", r"aim\s+(?P<limits>.+?)\s+(?P<kind>shaft|bore)", _aim),
    written("recess .500/.504 boss .492/.496", r"recess\s+(?P<recess>.+?)\s+boss\s+(?P<boss>.+)", _depths),
    written("corner 1/32 chamfer 1/64",
        r"corner\s+(?P<radius>.+?)\s+(?P<edge>sharp|chamfer|radius)(?:\s+(?P<size>.+))?", _corner),
    written("25 H7 on 24.98/24.99 mm", rf"(?P<bore>{_LIMITS})\s+on\s+(?P<shaft>{_LIMITS})", _together),
)  # fmt: skip
"""Every shorthand; the page of help is made from the examples."""
