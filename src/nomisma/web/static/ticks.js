// Steps ticked off at the lathe stay ticked on this device while the answer is the same; the next piece begins again.
const KEY = "nomisma-ticks";

export function keepTicks(page) {
  const restore = () => {
    const done = ticked();
    for (const box of page.querySelectorAll("[data-tick]")) box.checked = done.includes(box.dataset.tick);
  };
  page.addEventListener("change", (event) => {
    if (!event.target.matches("[data-tick]")) return;
    store([...page.querySelectorAll("[data-tick]:checked")].map((box) => box.dataset.tick));
  });
  page.addEventListener("click", (event) => {
    if (!event.target.closest("[data-ticks-clear]")) return;
    store([]);
    restore();
    page.querySelector("[data-tick]")?.focus();
  });
  page.addEventListener("htmx:afterSettle", restore);
  restore();
}

function ticked() {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) || "{}");
    return kept.at === here() ? kept.done : [];
  } catch {
    return [];
  }
}

function store(done) {
  try {
    localStorage.setItem(KEY, JSON.stringify({ at: here(), done }));
  } catch {
    // A browser that keeps nothing: the ticks stand until the page is left.
  }
}

function here() {
  return location.pathname + location.search;
}
