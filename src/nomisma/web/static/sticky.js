// What was said once of how readings are taken stays said on this device until it is said otherwise, always in sight: "dialled as advised".
const KEY = "nomisma-sticky";

export function keepSticky(page) {
  const said = () => JSON.parse(sessionStorage.getItem(KEY) || "{}");
  const restore = () => {
    for (const box of page.querySelectorAll("[data-sticky]")) box.checked ||= said()[box.dataset.sticky] ?? false;
  };
  page.addEventListener("change", (event) => {
    const name = event.target.dataset?.sticky;
    if (name) sessionStorage.setItem(KEY, JSON.stringify({ ...said(), [name]: event.target.checked }));
  });
  page.addEventListener("htmx:afterSettle", restore);
  restore();
}
