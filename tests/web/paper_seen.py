"""A PDF as somebody sees it who holds it: its pages as pictures, set by a library of another project."""

import numpy as np
import pypdfium2
import zxingcpp

GREY_BLACK = 60
"""Darker than this is black ink."""


def pages_seen(content: bytes, *, scale: float = 3) -> list[np.ndarray]:
    """The pages in grey, `scale` × 72 dots an inch."""
    document = pypdfium2.PdfDocument(content)
    return [page.render(scale=scale, grayscale=True).to_numpy().squeeze() for page in document]


def addresses_on(page: np.ndarray) -> list[str]:
    """What a camera reads off the marks of a page."""
    return [one.text for one in zxingcpp.read_barcodes(page)]


def blackest(page: np.ndarray, side: int = 40) -> float:
    """How much of the blackest square of a page (of `side` dots) is ink, from 0 to 1."""
    high, wide = (length // side * side for length in page.shape)
    ink = (page[:high, :wide] < GREY_BLACK).reshape(high // side, side, wide // side, side)
    return float(ink.mean(axis=(1, 3)).max())
