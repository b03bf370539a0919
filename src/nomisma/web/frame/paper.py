"""Pages for paper: a template as PDF, its figures with their styles in them."""

import re
from functools import cache, lru_cache
from pathlib import Path
from typing import Any

from anyio import from_thread
from fastapi.responses import Response
from markupsafe import Markup

from nomisma.core.errors import InputError
from nomisma.core.quantity.length import Unit
from nomisma.exchange.pdf import AnyPaper, import_library, pdf_of
from nomisma.web.frame.processes import NobodyWaits, OwnProcesses, Patience, TookTooLong
from nomisma.web.frame.visit import Visit

STATIC = Path(__file__).parents[1] / "static"
_VARIABLE = re.compile(r"--([\w-]+):\s*([^;]+);")
_FOR_SCREENS = re.compile(r"@media[^{]*\{(?:[^{}]*\{[^{}]*\})*\s*\}")
_USED = re.compile(r"var\(--([\w-]+)\)")
_COMMENT = re.compile(r"/\*.*?\*/", re.DOTALL)
_RULE = re.compile(r"([^{}]+)(\{[^{}]*\})")
_CLASS = re.compile(r"\.([a-z][\w-]*)")
_CLASSES_OF = re.compile(r'class="([^"]+)"')


@cache
def _figure_styles() -> str:
    """The styles of figures with every colour in its place: a drawing within a PDF sees neither the page's styles nor
    its variables.
    """
    variables: dict[str, str] = {}
    for name in ("theme.css", "paper.css"):  # paper last: it is black on white
        root = re.search(r":root\s*\{(.*?)\}", (STATIC / name).read_text(encoding="utf-8"), re.DOTALL)
        variables |= dict(_VARIABLE.findall(root[1] if root else ""))
    plain = _FOR_SCREENS.sub("", _COMMENT.sub("", (STATIC / "figures.css").read_text(encoding="utf-8")))
    return _USED.sub(lambda used: variables.get(used[1], "#000"), plain)


@lru_cache(maxsize=256)
def _styles_for(classes: frozenset[str]) -> str:
    """Of the styles of figures those that speak of these classes alone: a page may have fifty figures."""
    kept = []
    for selectors, body in _RULE.findall(_figure_styles()):
        of_use = [one for one in selectors.split(",") if classes.issuperset(_CLASS.findall(one))]
        if of_use:
            kept.append(",".join(of_use).strip() + body)
    return "".join(kept)


def on_paper(figure: Markup, unit: Unit) -> Markup:
    """A figure for a PDF: its styles within it, one unit of the two."""
    hidden = ".u-mm" if unit == "in" else ".u-in"
    classes = frozenset(name for said in _CLASSES_OF.findall(figure) for name in said.split())
    style = Markup("<style>{}{} {{ display: none }}</style>").format(Markup(_styles_for(classes)), Markup(hidden))
    head, end, rest = figure.partition(">")
    return Markup(head) + Markup(end) + style + Markup(rest)


def as_drawn(figure: Markup, _unit: Unit) -> Markup:
    """A figure for a page of the browser, which has its styles and shows one unit."""
    return figure


def picture(figure: Markup, unit: Unit, *, name: str) -> Response:
    """A figure as a picture of its own, its styles within it, in one unit."""
    alone = Markup(str(figure).replace("<svg ", '<svg xmlns="http://www.w3.org/2000/svg" ', 1))
    shown = {"Content-Disposition": f'inline; filename="{name}.svg"'}
    return Response(str(on_paper(alone, unit)), media_type="image/svg+xml", headers=shown)


PDFS_AT_ONCE, LONGEST_SECONDS = 2, 30
_PRINTING = OwnProcesses(PDFS_AT_ONCE, import_library)
"""Where PDFs are made: in processes of their own, a page of paper stands in no reading's way."""


def pdf(visit: Visit, template: str, *, paper: AnyPaper, name: str, **values: Any) -> Response:
    """A template as a PDF to look at or to keep; given up when whoever asked for it goes away. Raises NoPaper,
    InputError.
    """
    html = visit.request.app.state.renderer.render(template, visit.request, visit=visit, **values)
    styles = (STATIC / "theme.css", STATIC / "paper.css")
    patience = Patience(LONGEST_SECONDS, gone=lambda: from_thread.run(visit.request.is_disconnected))
    try:
        made = _PRINTING.run(patience, pdf_of, html, paper=paper, styles=styles, root=STATIC)
    except TookTooLong:
        raise InputError(
            f"That took longer than the {LONGEST_SECONDS} s a page of paper may.", "Print the page from the browser."
        ) from None
    except NobodyWaits:
        raise InputError("Given up, for nobody waits for it.", "Ask for it again.") from None
    return Response(
        made, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="{name}.pdf"'}
    )
