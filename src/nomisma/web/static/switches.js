// Inch or mm for reading, light or dark. Both are kept in a cookie, so the next page comes that way.
const YEAR = 31536000;

function remember(name, value) {
  const age = value === null ? 0 : YEAR;
  document.cookie = `${name}=${value ?? ""}; path=/; max-age=${age}; samesite=lax`;
}

export function setUpSwitches(page) {
  const root = page.documentElement;

  function swapUnit() {
    const unit = root.dataset.unit === "in" ? "mm" : "in";
    root.dataset.unit = unit;
    // Back at the page's own unit there is nothing to remember.
    remember("nomisma_unit", unit === root.dataset.ownUnit ? null : unit);
    for (const field of page.querySelectorAll("[data-unit-field]")) field.value = unit;
    for (const tag of page.querySelectorAll("[data-unit-tag]")) tag.textContent = unit;
  }

  function swapTheme() {
    const theme = root.dataset.theme === "dark" ? "light" : "dark";
    root.dataset.theme = theme;
    root.dataset.bsTheme = theme;
    remember("nomisma_theme", theme);
  }

  page.addEventListener("change", (event) => {
    if (!event.target.matches("[data-show-passwords]")) return;
    const type = event.target.checked ? "text" : "password";
    for (const field of event.target.closest("form").querySelectorAll("input[autocomplete$='-password']")) field.type = type;
  });
  page.addEventListener("click", (event) => {
    if (event.target.closest("[data-swap-unit]")) swapUnit();
    if (event.target.closest("[data-swap-theme]")) swapTheme();
  });
  return { swapUnit, swapTheme };
}
