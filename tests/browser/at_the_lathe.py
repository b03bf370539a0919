"""A job made on Make from the first start to its Record by Enter and digits alone, and what that took."""

import re
from dataclasses import dataclass, field

from playwright.sync_api import Page

_SIZE = re.compile(r"[-−]?\d+\.\d+")
_ANSWERED = (
    "before => document.getElementById('work').innerHTML !== before && document.activeElement !== document.body"
    " && !document.querySelector('.htmx-request, .htmx-settling, .htmx-swapping')"
)
LOOKED_MS = 800
_FOCUS = "document.activeElement.name || document.activeElement.className"
_TIMED = """() => {
  window.next = [];
  let began = null;
  addEventListener("keydown", () => { began = performance.now(); }, true);
  new MutationObserver((changes) => {
    if (began === null || !changes.some((one) => [...one.addedNodes].some((node) => node.id === "work"))) return;
    window.next.push(performance.now() - began);
    began = null;
  }).observe(document.body, { childList: true, subtree: true });
}"""


@dataclass
class Took:
    """What a job took: keystrokes of readings and trials, Enter keys, readings, steps, pages that were loaded; and from
    each key to what came next (ms).
    """

    digits: int = 0
    enters: int = 0
    readings: int = 0
    steps: int = 0
    loads: int = 0
    words: list[str] = field(default_factory=list)
    next_ms: list[float] = field(default_factory=list)


def made(page: Page, job: int, *, most: int = 200) -> Took:
    """Work a job off: what is asked is typed at its aim, else one key. Raises AssertionError where it stands still."""
    page.goto(f"/jobs/{job}/make")
    page.evaluate(_TIMED)
    pieces = page.locator(".pieces-strip a").count() or 1
    took = Took(steps=pieces * (page.locator(".steps-strip li").count() or 1))
    page.on("load", lambda _: setattr(took, "loads", took.loads + 1))
    for _ in range(most):
        shown = page.locator(".now-words").first.inner_text()
        took.words.append(shown)
        if re.match(r"All \d+ steps done", shown):
            took.next_ms = page.evaluate("window.next")
            return took
        _answer(page, took, shown)
    raise AssertionError(f"not done after {most} keys: {took.words[-3:]}")


def _answer(page: Page, took: Took, shown: str) -> None:
    """Type what the step in hand asks for, and wait for what comes next."""
    before = page.locator("#work").inner_html()
    asked = page.evaluate(_FOCUS)
    typed = _typed(page, asked, shown)
    if page.locator(".looked").count():
        page.wait_for_timeout(LOOKED_MS)  # what is looked at before a first start is not answered by a key that bounced
    page.keyboard.type(typed)
    took.digits += len(typed)
    took.readings += bool(typed) and asked != "trial-outcomes"
    if asked != "trial-outcomes":
        page.keyboard.press("Enter")
        took.enters += 1
    page.wait_for_function(_ANSWERED, arg=before)
    assert page.locator("#work .problem, #work .doubt").count() == 0, page.locator("#work").inner_text()


def _typed(page: Page, asked: str, shown: str) -> str:
    if asked == "trial-outcomes":
        return "2"  # the go gauge goes, the no-go does not
    if asked == "runout":
        return "0"
    if asked != "size" or "In limits: next" in shown:
        return ""  # one key; of what is in limits, that it was read enough
    limits = page.locator(".limits-now").first.inner_text()
    (size,) = re.findall(r"aim ([-−]?\d+\.\d+)", limits) or _SIZE.findall(limits)[:1]
    unit = page.locator("[data-reading-unit]").inner_text()
    is_own = f" {unit}" in limits
    return size if is_own else f"{size} {'mm' if unit == 'in' else 'in'}"
