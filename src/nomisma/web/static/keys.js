// One key from everywhere: F2 (or / outside a field) is the entry line, F8 swaps the unit, F9 the theme.
const FIELDS = "input, select, textarea";

export function listenForKeys(page, { swapUnit, swapTheme }) {
  function toEntryLine() {
    const entry = page.getElementById("entry");
    entry?.focus();
    entry?.select();
  }

  page.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    const typing = event.target.matches(FIELDS) && event.target.type !== "radio";
    const action =
      { F2: toEntryLine, F8: swapUnit, F9: swapTheme }[event.key] ?? (event.key === "/" && !typing ? toEntryLine : null);
    if (!action) return;
    event.preventDefault();
    action();
  });
}
