// A keypad for oily hands: on a touch screen the field in hand is written with large keys on the page, and the system's keyboard stays away.
const KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", "0", ".", "\u2212", "/", "\u2423", "\u232b"];
const NAMES = { "\u2212": "minus", "\u2423": "space", "\u232b": "take the last back", "/": "slash", ".": "point" };
const WRITES = { "\u2212": "-", "\u2423": " " };

export function offerKeypad(page) {
  const isTouched = window.matchMedia("(pointer: coarse)").matches;
  const field = () => page.querySelector(".make .reading-form .is-reading");

  function show() {
    const form = page.querySelector(".make .reading-form");
    if (!isTouched || !form || form.querySelector(".keypad")) return;
    field().inputMode = "none";
    const pad = page.createElement("div");
    pad.className = "keypad";
    for (const key of KEYS) {
      const button = page.createElement("button");
      button.type = "button";
      button.textContent = key;
      button.dataset.key = key;
      if (NAMES[key]) button.setAttribute("aria-label", NAMES[key]);
      pad.append(button);
    }
    form.querySelector(".reading-size").after(pad);
  }

  function press(key) {
    const into = field();
    const [from, to] = [into.selectionStart ?? into.value.length, into.selectionEnd ?? into.value.length];
    if (key === "\u232b") into.setRangeText("", Math.max(from === to ? from - 1 : from, 0), to, "end");
    else into.setRangeText(WRITES[key] ?? key, from, to, "end");
    into.focus({ preventScroll: true });
  }

  page.addEventListener("click", (event) => {
    const key = event.target.closest?.(".keypad button")?.dataset.key;
    if (key) press(key);
  });
  page.addEventListener("htmx:afterSettle", show);
  show();
}
