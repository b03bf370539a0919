// A form that is answered with its own successor: the field that was typed in is left before it is taken out. A browser that takes
// out what has the focus lays the page out with the old and the new in it first, which takes longer than all the rest.
export function leaveBeforeSwap(page) {
  let left = null;
  page.addEventListener("htmx:beforeSwap", ({ detail }) => {
    const field = page.activeElement;
    const isSent = detail.requestConfig?.elt.matches("form") && detail.requestConfig.elt.contains(field);
    if (!isSent || !detail.shouldSwap || !detail.target.contains(field)) return;
    left = field.id;
    field.blur();
  });
  page.addEventListener("htmx:afterSettle", () => {
    if (left && page.activeElement === page.body) page.getElementById(left)?.focus({ preventScroll: true });
    left = null;
  });
}
