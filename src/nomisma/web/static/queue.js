// Readings typed while the server is away wait on this device and are delivered in order, each once: every one carries the id
// it was given when it was typed, and the server takes an id only once. They survive closing the browser.
const STORE = "nomisma_waiting";
const AGAIN_MS = 2500;

export function newId() {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6] & 0x0f) | 0x40;
  bytes[8] = (bytes[8] & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, "$1-$2-$3-$4-$5");
}

export function load() {
  try {
    return JSON.parse(localStorage.getItem(STORE)) ?? [];
  } catch {
    return [];
  }
}

function save(items) {
  localStorage.setItem(STORE, JSON.stringify(items));
}

function remove(id) {
  save(load().filter((item) => item.id !== id));
}

// Where a form goes, with the feature it is about.
function addressOf(form) {
  const { pathname, search } = new URL(form.action);
  return pathname + search;
}

// Put what was sent with a reading form by for later; true if it is one.
function putBy(page, form, parameters) {
  if (!form?.matches(".reading-form")) return false;
  const fields = Object.entries(parameters instanceof FormData ? Object.fromEntries(parameters) : parameters);
  const kept = fields.filter(([name]) => name !== "csrf_token");
  const id = parameters.client_id ?? newId();
  const items = load();
  if (!items.some((item) => item.id === id)) {
    items.push({ id, path: addressOf(form), fields: kept, account: page.body.dataset.account, problem: "" });
    save(items);
  }
  readyForNext(page, form);
  return true;
}

function readyForNext(page, form) {
  form.elements.client_id.value = newId();
  const places = [...form.querySelectorAll("[name=place]")];
  const at = places.findIndex((radio) => radio.checked);
  if (places[at + 1]) {
    places[at + 1].checked = true;
    places[at + 1].dispatchEvent(new Event("change", { bubbles: true }));
  }
  const notCut = form.querySelector("[name=cut_since][value=not]");
  if (notCut) notCut.checked = true;
  for (const name of ["size", "dialled"]) if (form.elements[name]?.value !== undefined) form.elements[name].value = "";
  form.querySelector("#size").focus();
}

async function deliver(page, item) {
  const token = page.querySelector("[name=csrf_token]")?.value ?? "";
  const answer = await fetch(item.path, {
    method: "POST",
    headers: { "HX-Request": "true" },
    body: new URLSearchParams([...item.fields, ["csrf_token", token]]),
    redirect: "manual",
  });
  if (answer.ok) return "kept";
  if (answer.status === 422 || answer.status === 409) {
    const sent = new DOMParser().parseFromString(await answer.text(), "text/html");
    const sentence = sent.querySelector(".doubt p, .problem, main p")?.textContent.trim();
    return { problem: sentence || "It was not taken." };
  }
  return answer.status === 401 || answer.status === 403 ? "sign in" : "away";
}

export function keepWaiting(page) {
  let delivering = false;
  const panel = page.getElementById("waiting");

  function show(words = "") {
    const items = load();
    panel.hidden = items.length === 0;
    panel.replaceChildren();
    if (!items.length) return;
    const head = page.createElement("p");
    const count = items.length === 1 ? "1 reading waits" : `${items.length} readings wait`;
    head.innerHTML = "<strong></strong> <span></span>";
    head.firstChild.textContent = `${count} on this device.`;
    head.lastChild.textContent = words || "Go on measuring: they are delivered when the server answers.";
    panel.append(head);
    for (const item of items.filter((one) => one.problem)) panel.append(asked(item));
  }

  // What the server asks about cannot be answered by a machine: back into the field, or thrown away on purpose.
  function asked(item) {
    const line = page.createElement("p");
    const said = Object.fromEntries(item.fields);
    line.textContent = `${said.size} at ${said.place}: ${item.problem} `;
    for (const [words, act] of [["Put it in the field", takeBack], ["Throw it away", throwAway]]) {
      const button = page.createElement("button");
      button.type = "button";
      button.className = "btn btn-scribed";
      button.textContent = words;
      button.addEventListener("click", () => act(item, button));
      line.append(button, " ");
    }
    return line;
  }

  function takeBack(item) {
    const form = page.querySelector(".reading-form");
    if (!form || addressOf(form) !== item.path) {
      location.href = item.path.replace(/\/readings(?=\?|$)/, "");
      return;
    }
    for (const [name, value] of item.fields) {
      const field = form.elements[name];
      if (field && name !== "suspect_id") field.value = value;
    }
    remove(item.id);
    show();
    form.querySelector("#size").focus();
  }

  function throwAway(item, button) {
    if (button.dataset.sure) {
      remove(item.id);
      show();
    } else {
      button.dataset.sure = "yes";
      button.textContent = "Yes, throw it away";
    }
  }

  async function tryAll() {
    if (delivering || !load().length) return;
    delivering = true;
    let kept = 0;
    let words = "";
    try {
      const stuck = new Set(load().filter((item) => item.problem).map((item) => item.path));
      for (const item of load()) {
        if (stuck.has(item.path)) continue; // in order: what follows a reading in question waits for it
        if (item.account !== page.body.dataset.account) {
          words = "Somebody else typed them: they wait until that person signs in here.";
          continue;
        }
        const outcome = await deliver(page, item);
        if (outcome === "kept") {
          remove(item.id);
          kept += 1;
        } else if (outcome.problem) {
          save(load().map((one) => (one.id === item.id ? { ...one, problem: outcome.problem } : one)));
          stuck.add(item.path);
        } else {
          if (outcome === "sign in") words = "Sign in again: they are delivered then.";
          break;
        }
      }
    } catch {
      // Still away: the next try comes by itself.
    } finally {
      delivering = false;
    }
    show(words);
    if (kept && !load().length) page.dispatchEvent(new CustomEvent("nomisma:delivered"));
  }

  page.addEventListener("htmx:sendError", (event) => {
    if (putBy(page, event.detail.elt, event.detail.requestConfig.parameters)) show();
  });
  page.addEventListener("htmx:beforeSwap", (event) => {
    if (![502, 503, 504].includes(event.detail.xhr.status)) return;
    if (putBy(page, event.detail.requestConfig.elt, event.detail.requestConfig.parameters)) {
      event.detail.shouldSwap = false;
      show();
    }
  });
  page.addEventListener("nomisma:delivered", () => {
    const size = page.getElementById("size");
    if (size && !size.value) location.reload();
    else page.getElementById("seen")?.dispatchEvent(new Event("refresh"));
  });
  window.addEventListener("online", tryAll);
  window.addEventListener("storage", () => show());
  setInterval(tryAll, AGAIN_MS);
  show();
  tryAll();
}
