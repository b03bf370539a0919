// The empty entry line shows one form after the other of what it understands; it rests while somebody is in it.

const SECONDS = 4;

export function showExamples(page = document) {
  const entry = page.getElementById("entry");
  const examples = (entry?.dataset.examples ?? "").split("|").filter(Boolean);
  if (!entry || examples.length < 2 || matchMedia("(prefers-reduced-motion: reduce)").matches) return;
  let next = 0;
  setInterval(() => {
    if (page.activeElement === entry || entry.value || page.hidden) return;
    next = (next + 1) % examples.length;
    entry.placeholder = examples[next];
  }, SECONDS * 1000);
}
