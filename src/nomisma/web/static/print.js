// A page on paper: its workings open, or left out, whatever is open on the screen; afterwards the screen is as it was.
export function printed(page, withWorkings) {
  const folds = [...page.querySelectorAll("details")];
  const open = folds.map((fold) => fold.open);
  if (withWorkings) for (const fold of folds) fold.open = true;
  page.documentElement.dataset.workings = withWorkings ? "open" : "out";
  window.addEventListener(
    "afterprint",
    () => {
      folds.forEach((fold, at) => (fold.open = open[at]));
      delete page.documentElement.dataset.workings;
    },
    { once: true },
  );
  window.print();
}
