// A page on paper: what is data is open, its workings open or left out, whatever is open on the screen; afterwards the screen is as it was.
const opened = new Set();

function openForPaper(page) {
  page.documentElement.dataset.workings ??= "out";
  const wanted = page.documentElement.dataset.workings === "open" ? "details" : "details.on-paper";
  for (const fold of page.querySelectorAll(wanted)) {
    if (!fold.open) opened.add(fold);
    fold.open = true;
  }
}

export function setPrint(page) {
  window.addEventListener("beforeprint", () => openForPaper(page));
  window.addEventListener("afterprint", () => {
    for (const fold of opened) fold.open = false;
    opened.clear();
    delete page.documentElement.dataset.workings;
  });
}

export function printed(page, withWorkings) {
  page.documentElement.dataset.workings = withWorkings ? "open" : "out";
  openForPaper(page);
  window.print();
}
