"""Of the shipped Bootstrap only what pages can use: a browser looks through every rule each time a page changes.

`./nomisma styles` writes it anew, `./nomisma check` says where that was forgotten.
"""

import re
import sys
from collections.abc import Iterable, Iterator
from pathlib import Path

import tinycss2
from tinycss2.ast import Node

WEB = Path(__file__).parent.parent
WHOLE = WEB / "static/vendor/bootstrap/bootstrap.min.css"
USED = WEB / "static/bootstrap.css"
_SOURCES = ("templates/**/*.html", "**/*.py", "static/*.js", "static/vendor/htmx/*.js")
_CLASS = re.compile(r"\.((?:[\w-]|\\.)+)")
_BETWEEN_SELECTORS = re.compile(r",(?![^(]*\))")
_VARIABLE = re.compile(r"var\((--[\w-]+)")


def used_styles(css: str, words: Iterable[str]) -> str:
    """The rules of a style sheet all of whose classes are among the words, and of their variables those that are asked
    for.

    >>> used_styles(".a,.b{color:red}.c{color:var(--x)}:root{--y:2;--x:1}@media print{.b{color:red}}", ["a", "c"])
    '.a{color:red}.c{color:var(--x)}:root{--x:1}'
    """
    kept = "".join(_rules(tinycss2.parse_stylesheet(css, skip_whitespace=True, skip_comments=True), set(words)))
    while (less := _without_unasked(kept)) != kept:
        kept = less
    return kept


def _rules(nodes: Iterable[Node], words: set[str]) -> Iterator[str]:
    for node in nodes:
        if node.type == "qualified-rule":
            said = _BETWEEN_SELECTORS.split(tinycss2.serialize(node.prelude))
            if of_use := [one for one in said if all(name in words for name in _CLASS.findall(one))]:
                yield f"{','.join(of_use)}{{{tinycss2.serialize(node.content)}}}"
        elif node.type == "at-rule" and node.at_keyword in ("media", "supports"):
            inner = tinycss2.parse_rule_list(node.content, skip_whitespace=True, skip_comments=True)
            if of_use := list(_rules(inner, words)):
                yield f"@{node.at_keyword}{tinycss2.serialize(node.prelude)}{{{''.join(of_use)}}}"
        else:
            yield tinycss2.serialize([node])


def _without_unasked(css: str) -> str:
    """Without the variables that no rule asks for, and what is empty then."""
    asked = set(_VARIABLE.findall(css)) | set(_VARIABLE.findall(_own_styles()))
    said = re.sub(r"(--[\w-]+):[^;{}]*(;|(?=\}))", lambda one: one[0] if one[1] in asked else "", css)
    return re.sub(r"[^{}]+\{\}", "", said)


def _own_styles() -> str:
    return "".join(path.read_text() for path in sorted((WEB / "static").glob("*.css")) if path != USED)


def words_of_pages() -> set[str]:
    """Every word that may be a class: whatever stands in templates, scripts and what draws."""
    return {word for of in _SOURCES for path in WEB.glob(of) for word in re.findall(r"[\w-]+", path.read_text())}


def main(asked: list[str]) -> int:
    """Write what is used, or with `check` say whether that is what stands there."""
    found = used_styles(WHOLE.read_text(), words_of_pages()) + "\n"
    if asked == ["check"]:
        if USED.read_text() == found:
            return 0
        print(f"{USED.name} is not what pages use of Bootstrap: ./nomisma styles", file=sys.stderr)
        return 1
    USED.write_text(found)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
