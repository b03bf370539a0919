// A table or figure that is wider than its place can be reached and scrolled by keyboard; one that fits is no stop on the way.
const BOXES = ".table-scroll, .figure-scroll";

export function stopAtScrollers(page) {
  const look = () => {
    // The step in hand is in sight in its strip.
    const step = page.querySelector(".steps-strip [aria-current]")?.closest("li");
    if (step) step.parentElement.scrollLeft = step.offsetLeft - step.parentElement.clientWidth / 2;
    for (const box of page.querySelectorAll(BOXES)) {
      if (box.scrollWidth > box.clientWidth + 1 || box.scrollHeight > box.clientHeight + 1) {
        box.tabIndex = 0;
        if (!box.hasAttribute("role")) {
          box.setAttribute("role", "group");
          box.setAttribute("aria-label", box.querySelector("caption")?.textContent ?? "A table wider than the screen");
        }
      } else box.removeAttribute("tabindex");
    }
  };
  page.addEventListener("htmx:afterSettle", look);
  page.addEventListener("toggle", look, true);
  window.addEventListener("resize", look);
  look();
}
