// One key from everywhere: F2 (or / outside a field) is the entry line, F8 swaps the unit, F9 the theme, [ and ] go to another feature.
// Left and right turn the sheet's steps like pages, and go along the plan's pictures.
const FIELDS = "input, select, textarea";
const LOOKED_MS = 700;
let settled = performance.now();

export function listenForKeys(page, { swapUnit, swapTheme }) {
  function toEntryLine() {
    const entry = page.getElementById("entry");
    entry?.focus();
    entry?.select();
  }

  // In the reading's field, up and down go to another place and F6 says "cut again" or not: one hand, no mouse.
  function step(form, by) {
    const places = [...form.querySelectorAll("[name=place]")];
    const at = places.findIndex((radio) => radio.checked);
    places[(at + by + places.length) % places.length].checked = true;
  }
  function cutOrNot(form) {
    const other = form.querySelector("[name=cut_since]:not(:checked)");
    if (other) other.checked = true;
  }
  page.addEventListener("keydown", (event) => {
    const form = event.target.closest?.(".reading-form");
    if (!form || event.target.name !== "size") return;
    const action = { ArrowDown: () => step(form, 1), ArrowUp: () => step(form, -1), F6: () => cutOrNot(form) }[event.key];
    if (!action) return;
    event.preventDefault();
    action();
  });

  // A key held down is pressed once: it must not close step after step. And what is looked at before a first start is not looked at
  // in the time an Enter bounces: the key that brought the list does not answer it.
  page.addEventListener("htmx:afterSettle", () => { settled = performance.now(); });
  page.addEventListener("keydown", (event) => {
    if (event.key !== "Enter" || !event.target.closest?.(".make")) return;
    const tooSoon = event.target.closest(".looked") && performance.now() - settled < LOOKED_MS;
    if (event.repeat || tooSoon) event.preventDefault();
  });

  // How a trial went is one key: the number before its words.
  page.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.altKey || event.metaKey || event.target.matches(FIELDS)) return;
    const outcome = page.querySelector(`.trial-outcomes [data-digit="${CSS.escape(event.key)}"]`);
    if (!outcome) return;
    event.preventDefault();
    outcome.click();
  });

  const TURNS = { ArrowLeft: -1, ArrowRight: 1 };
  page.addEventListener("keydown", (event) => {
    const by = TURNS[event.key];
    if (!by || event.ctrlKey || event.altKey || event.metaKey || event.target.matches(FIELDS) || event.target.closest("[tabindex]")) return;
    const pictures = event.target.closest(".moment-strip") ? [...page.querySelectorAll(".moment-strip a")] : [];
    const to = pictures.length
      ? pictures[pictures.indexOf(event.target.closest("a")) + by]
      : page.querySelector(`[data-turn="${by}"]`);
    if (!to) return;
    event.preventDefault();
    if (pictures.length) to.focus();
    else to.click();
  });

  page.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    const beside = { "[": "previousElementSibling", "]": "nextElementSibling" }[event.key];
    if (beside && (!event.target.matches(FIELDS) || event.target.closest(".reading-form"))) {
      const here = page.querySelector(".feature-strip [aria-current]");
      event.preventDefault();
      here?.[beside]?.click();
      return;
    }
    const typing = event.target.matches(FIELDS) && event.target.type !== "radio";
    const action =
      { F2: toEntryLine, F8: swapUnit, F9: swapTheme }[event.key] ?? (event.key === "/" && !typing ? toEntryLine : null);
    if (!action) return;
    event.preventDefault();
    action();
  });
}
