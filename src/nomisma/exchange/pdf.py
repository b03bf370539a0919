"""A page for paper: HTML that was made here, as PDF; nothing is fetched but the application's own files."""

from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path
from typing import Literal
from urllib.parse import unquote, urlsplit

from nomisma.core.errors import InputError

Paper = Literal["a4", "letter"]
AnyPaper = Literal["a4", "letter", "label"]
PAPER_SIZES: dict[AnyPaper, str] = {"a4": "A4", "letter": "letter", "label": "62mm 29mm"}
"""Papers by name, as CSS Paged Media names them; a label is off a roll, and has no margin."""
_NO_MARGIN = "margin: 0; @bottom-left { content: none } @bottom-right { content: none }"


class NoPaper(InputError):
    """This machine cannot make a PDF."""


def import_library() -> None:
    """Load what sets pages, where this machine has it: it takes a second."""
    with suppress(OSError):
        __import__("weasyprint")


def pdf_of(html: str, *, paper: AnyPaper, styles: Sequence[Path], root: Path) -> bytes:
    """A page as PDF on a paper, with style sheets, fonts and pictures from below `root` alone. Raises NoPaper.

    The library is loaded here: it takes a second, and few pages are printed.
    """
    try:
        from weasyprint import CSS, HTML
        from weasyprint.text.fonts import FontConfiguration
        from weasyprint.urls import URLFetcher
    except OSError as error:  # Pango is a library of the system, not of Python
        raise NoPaper(
            "This machine cannot make a PDF: the system's library Pango is missing.",
            "Print the page from the browser; or have libpangoft2-1.0-0 installed.",
        ) from error

    class OwnFiles(URLFetcher):  # type: ignore[misc]  # the library has no types of its own
        """Only files below the root are read."""

        def fetch(self, url: str, headers: dict[str, str] | None = None) -> object:
            path = Path(unquote(urlsplit(url).path)).resolve()
            if not path.is_relative_to(root.resolve()):
                raise ValueError(f"{url} is none of the application's own files")
            return super().fetch(url, headers)

    fetcher = OwnFiles(allowed_protocols=("file",))
    size = CSS(string=f"@page {{ size: {PAPER_SIZES[paper]}; {_NO_MARGIN if paper == 'label' else ''} }}")
    fonts = FontConfiguration()
    sheets = [CSS(filename=str(one), url_fetcher=fetcher, font_config=fonts) for one in styles]
    page = HTML(string=html, base_url=str(root), url_fetcher=fetcher)
    made: bytes = page.write_pdf(stylesheets=[*sheets, size], font_config=fonts)
    return made
