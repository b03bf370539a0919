// A PDF takes a while: how long it has been, a way to give it up, and then the file.
const HEARTBEAT = 500;

async function fetched(link, signal) {
  const response = await fetch(link.href, { signal });
  if (response.headers.get("content-type")?.startsWith("application/pdf")) {
    const file = document.createElement("a");
    file.href = URL.createObjectURL(await response.blob());
    file.download = /filename="([^"]+)"/.exec(response.headers.get("content-disposition") ?? "")?.[1] ?? "sheet.pdf";
    file.click();
    setTimeout(() => URL.revokeObjectURL(file.href), 60_000);
    return "";
  }
  const page = new DOMParser().parseFromString(await response.text(), "text/html");
  return page.querySelector(".lead-sentence")?.textContent.trim() ?? "It could not be made.";
}

async function make(link) {
  const giveUp = new AbortController();
  const state = document.createElement("span");
  const words = document.createElement("span");
  const cancel = document.createElement("button");
  state.className = "setting-paper";
  words.setAttribute("role", "status");
  words.textContent = "Setting it …";
  cancel.type = "button";
  cancel.className = "btn btn-scribed";
  cancel.textContent = "Give it up";
  cancel.addEventListener("click", () => giveUp.abort());
  state.append(words, " ", cancel);
  link.hidden = true;
  link.after(state);
  const started = Date.now();
  const beat = setInterval(() => {
    words.textContent = `Setting it: ${Math.round((Date.now() - started) / 1000)} s; it may take ${link.dataset.paper} s`;
  }, HEARTBEAT);
  let said = "";
  try {
    said = await fetched(link, giveUp.signal);
  } catch (error) {
    said = error.name === "AbortError" ? "Given up." : "No answer from the server. Ask again.";
  }
  clearInterval(beat);
  link.hidden = false;
  cancel.remove();
  words.textContent = said;
  if (!said) state.remove();
  link.focus();
}

export function setPaper(page) {
  page.addEventListener("click", (event) => {
    const link = event.target.closest("a[data-paper]");
    if (!link || event.metaKey || event.ctrlKey || event.shiftKey || event.button) return;
    event.preventDefault();
    if (link.nextElementSibling?.classList.contains("setting-paper")) link.nextElementSibling.remove();
    make(link);
  });
}
