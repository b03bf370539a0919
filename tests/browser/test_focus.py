"""Where the keyboard stands is to be seen, on every kind of thing it can stand on, by the pixels of the page."""

from collections.abc import Callable
from io import BytesIO

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import FloatRect, Locator, Page

pytestmark = pytest.mark.browser
LEAST_CONTRAST = 3.0
"""Of what shows the focus, against what lies beside it. Source: WCAG 2.2, 1.4.11 and 2.4.11."""


def luminance(pixels: np.ndarray) -> np.ndarray:
    """Relative luminance of each pixel. Source: WCAG 2.2."""
    parts = pixels / 255
    linear = np.where(parts <= 0.04045, parts / 12.92, ((parts + 0.055) / 1.055) ** 2.4)
    found: np.ndarray = linear @ np.array([0.2126, 0.7152, 0.0722])
    return found


def contrast(one: np.ndarray, other: np.ndarray) -> np.ndarray:
    low, high = np.minimum(luminance(one), luminance(other)), np.maximum(luminance(one), luminance(other))
    found: np.ndarray = (high + 0.05) / (low + 0.05)
    return found


def around(page: Page, what: Locator) -> tuple[np.ndarray, int]:
    """What is to be seen of it and a little round it, and how wide it is round it."""
    box = what.bounding_box()
    assert box
    clip = FloatRect(x=box["x"] - 7, y=box["y"] - 7, width=box["width"] + 14, height=box["height"] + 14)
    return np.asarray(Image.open(BytesIO(page.screenshot(clip=clip))).convert("RGB"), dtype=float), round(
        2 * (box["width"] + box["height"])
    )


@pytest.mark.parametrize("night", [False, True], ids=["day", "night"])
@pytest.mark.parametrize(
    ("path", "kind"),
    [
        ("/jobs/104/measure", "button.btn-brass:visible"),
        ("/jobs/105/assemble", "button.btn-scribed:visible"),
        ("/jobs/104/measure", ".spine a:visible"),
        ("/jobs/104/measure", "#size"),
        ("/jobs/104/measure", "summary:visible"),
        ("/", "a.btn:visible, button.btn:visible"),
    ],
)
def test_the_focus_is_to_be_seen(bench: Callable[..., Page], path: str, kind: str, night: bool) -> None:
    page = bench()
    page.goto(path)
    page.evaluate(
        "theme => Object.assign(document.documentElement.dataset, {theme, bsTheme: theme})",
        "dark" if night else "light",
    )
    found = page.locator(kind).first
    found.scroll_into_view_if_needed()
    page.keyboard.press("Shift")
    page.evaluate("document.activeElement.blur()")
    before, edge = around(page, found)
    page.keyboard.press("Tab")  # by the keyboard, so that the browser shows the focus of what comes next
    found.focus()
    after, _ = around(page, found)
    shown = int((contrast(after, before) >= LEAST_CONTRAST).sum())
    assert shown > edge, f"{kind}: {shown} pixels show the focus, of an edge of {edge}"


@pytest.mark.parametrize("path", ["/jobs/104/measure", "/jobs/116/plan", "/jobs/122/mate", "/jobs/107/record"])
def test_a_page_twice_as_large_is_not_wider_than_the_screen(bench: Callable[..., Page], path: str) -> None:
    """1280 wide at 200 % is 640. Source: WCAG 2.2, 1.4.10."""
    page = bench(width=640, height=400)
    page.goto(path)
    assert page.evaluate("document.documentElement.scrollWidth") <= 640
