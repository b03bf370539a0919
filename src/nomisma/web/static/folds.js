// What is rare is folded. A fold that was opened stays open on this device till it is shut again; on paper what is data is open.
const KEY = "nomisma-folds";

export function keepFolds(page) {
  const opened = () => JSON.parse(sessionStorage.getItem(KEY) || "[]");
  const openAround = (place) => {
    for (let fold = place.closest("details"); fold; fold = fold.parentElement.closest("details")) fold.open = true;
  };
  const restore = () => {
    for (const fold of page.querySelectorAll("details[data-fold]")) fold.open ||= opened().includes(fold.dataset.fold);
    // What was refused is never folded away, whichever field it is of.
    for (const wrong of page.querySelectorAll("main details .problem")) openAround(wrong);
  };
  // A toggle is heard after the fact and does not bubble: it is caught on its way down.
  page.addEventListener(
    "toggle",
    ({ target }) => {
      const name = target.dataset?.fold;
      if (!name || page.documentElement.dataset.workings) return;
      const others = opened().filter((one) => one !== name);
      sessionStorage.setItem(KEY, JSON.stringify(target.open ? [...others, name] : others));
    },
    true,
  );
  // An address that names a place within a fold opens it.
  const reveal = () => {
    const place = location.hash.length > 1 && page.getElementById(location.hash.slice(1));
    if (!place || !place.closest("details:not([open])")) return; // the browser went there itself
    openAround(place);
    place.scrollIntoView();
  };
  page.addEventListener("htmx:afterSettle", restore);
  window.addEventListener("hashchange", reveal);
  restore();
  reveal();
}
