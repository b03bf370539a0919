"""Values nobody would type on purpose, and where they go: every field of a calculation's input, however deep."""

import html
import random
import re
from collections.abc import Iterator
from copy import deepcopy
from dataclasses import dataclass
from typing import Any

DEEP: Any = 1
for _ in range(90):
    DEEP = [DEEP]

TEXTS: tuple[str, ...] = (
    "", " ", "0", "-0", "-1", "1e999999", "1e-999999", "-1E+308", "1e308 mm", "nan", "inf", "-Infinity", "NaN mm", "²",
    "½", "١٢", "１２ mm",
    "12_3", "0x1F", "1,125", "1.2.3", "--5", "+-1", "1/0", "1/3", "9" * 400, "0." + "0" * 400 + "1", "\ud800", "\x00",
    "a\x00b", "\u202e25 H7",
    "25 H7/g6" * 40, "25 h7/H7", "25 ZC99", "999999 mm", "0.000000000001 mm", "1e-30 mm", "-25 mm", "25 mm in",
    "25 in mm", "25 furlong",
    "💥", "'; DROP TABLE job; --", "<script>alert(1)</script>", "{{7*7}}", "%s%n", "../../etc/passwd", "=1+1", ";", "/",
    "x", "null", "true",
    "10 mm", "0.4 in", "400 in", "9999 mm", "0.001 mm", "1 um", "3 thou", "#81", "letter é", "25 H7 g6 k6",
    "go .1 no-go", "own E=1e9",
    "1 2 3 4 5 6 7 8 9 10", "0 0 0 0", "1e400 1e400", "50-2000", "2000-50", "0-0", "١ ٢ ٣",
)  # fmt: skip
VALUES: tuple[Any, ...] = (
    None, True, False, 0, -1, 1, 2, 10**9, 10**10, 10**30, -(10**30), 1e308, -1e308, 1e-308, 5e-324, 1e-18, 0.1, 1e9,
    [], {}, [[]], [None], DEEP, {"": 1}, {"a": {"b": 2}},
    [1] * 500, ["1 mm"] * 500,
)  # fmt: skip


def hostile_value(chance: random.Random) -> Any:
    """One of them."""
    return chance.choice(TEXTS) if chance.random() < 0.7 else deepcopy(chance.choice(VALUES))


def _paths(value: Any, at: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    if at:
        yield at
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from _paths(inner, (*at, key))
    elif isinstance(value, list):
        for index, inner in enumerate(value[:4]):
            yield from _paths(inner, (*at, index))


def spoilt(example: dict[str, Any], fields: list[str], chance: random.Random) -> dict[str, Any]:
    """An example with one to three of its values, or of the fields it leaves out, made hostile."""
    values = deepcopy(example)
    for _ in range(chance.choice((1, 1, 2, 3))):
        if chance.random() < 0.35:
            values[chance.choice([*fields, "no_such_field"])] = hostile_value(chance)
            continue
        *outer, last = chance.choice(list(_paths(values)) or [(chance.choice(fields),)])
        inside: Any = values
        for part in outer:
            inside = inside[part]
        inside[last] = (
            _near(inside[last], chance) if last in inside or isinstance(inside, list) else hostile_value(chance)
        )
    return values


def _near(value: Any, chance: random.Random) -> Any:
    """Hostile, or the honest value moved far: what passes the door and strains what is behind it."""
    if isinstance(value, int | float) and not isinstance(value, bool) and chance.random() < 0.4:
        return value * chance.choice((0, -1, 1e-9, 1e-3, 1e3, 1e6))
    if isinstance(value, str) and value[:1].isdigit() and chance.random() < 0.4:
        number, _, unit = value.partition(" ")
        return f"{chance.choice(('0.0001', '0.000001', '5000', '-1', number + '0', '0' + number))} {unit}".strip()
    return hostile_value(chance)


_FORM = re.compile(
    r'<form[^>]*?(?:method="(?P<method>\w+)")?[^>]*?(?:action="(?P<action>[^"]*)")?[^>]*>(?P<body>.*?)</form>',
    re.DOTALL,
)
_FIELD = re.compile(r'<(?:input|select|textarea)[^>]*?\sname="(?P<name>[^"]+)"[^>]*>')
_VALUE = re.compile(r'\svalue="([^"]*)"')


@dataclass(frozen=True)
class PageForm:
    """A form of a page: where it goes, how, and its fields with the values they stand at."""

    action: str
    method: str
    fields: dict[str, str]


def forms_of(page: str, path: str) -> list[PageForm]:
    """Every form of a page."""
    found = []
    for match in _FORM.finditer(page):
        head = page[match.start() : match.end()].split(">", 1)[0]
        method = "post" if 'method="post"' in head else "get"
        action = re.search(r'action="([^"]*)"', head)
        fields: dict[str, str] = {}
        for field in _FIELD.finditer(match["body"]):
            value = _VALUE.search(field[0])
            if 'type="radio"' not in field[0] or "checked" in field[0] or field["name"] not in fields:
                fields[field["name"]] = html.unescape(value[1]) if value else ""
        found.append(PageForm(html.unescape(action[1]) if action else path, method, fields))
    return found


KEPT_AS_THEY_ARE = ("csrf_token", "client_id", "page_token")


def spoilt_form(form: PageForm, chance: random.Random) -> dict[str, str]:
    """A form's fields with one to three of them hostile, now and then one that it does not have."""
    fields = dict(form.fields)
    open_to_change = [name for name in fields if name not in KEPT_AS_THEY_ARE]
    for _ in range(chance.choice((1, 1, 2, 3))):
        name = chance.choice([*open_to_change, "no_such_field", "before", "client_id"])
        fields[name] = chance.choice(SENDABLE)
    return fields


SENDABLE = (
    *(text for text in TEXTS if "\ud800" not in text), "1" * 20, "-" * 30, "25.021", "0.8741", "\r\n\r\nx: y",
    "x" * 5000,
)  # fmt: skip
"""What a browser can send."""
