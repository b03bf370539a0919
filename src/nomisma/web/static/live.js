// A job's page hears what others log, and what a gauge sends, as it is committed. A gauge's reading lands in the field; Enter logs it.
import { showPosition } from "./readout.js";

const AFTER_ANSWER_MS = 100;

export function listenLive(page) {
  const place = page.querySelector("[data-live]");
  if (!place || !("EventSource" in window)) return;
  for (const button of page.querySelectorAll("[data-gauge-id]")) landed.add(button.dataset.gaugeId);
  const source = new EventSource(place.dataset.live);
  const look = quietly(page, () => refreshed(page)?.dispatchEvent(new Event("refresh")));
  for (const kind of ["reading", "disposition", "plan"]) source.addEventListener(kind, look);
  source.addEventListener("position", (event) => showPosition(page, JSON.parse(event.data)));
  source.addEventListener("gauge", (event) => land(page, JSON.parse(event.data)));
  page.addEventListener("click", (event) => {
    const button = event.target.closest("[data-gauge-id]");
    if (button) land(page, { id: button.dataset.gaugeId, size: button.dataset.gaugeSize, gauge: button.dataset.gauge }, true);
  });
  window.addEventListener("pagehide", () => source.close());
}

// The whole step is shown anew where nobody is typing in it; else what was logged beneath it.
function refreshed(page) {
  const step = page.getElementById("work");
  return step?.matches(".make") && !isTyped(page) ? step : page.getElementById("seen");
}

function isTyped(page) {
  const field = page.querySelector("#work .reading-form .is-reading");
  return Boolean(field?.value) || (page.activeElement?.matches("#work input:not(.is-reading), #work select") ?? false);
}

// While this page sends a reading itself, what it hears waits: the answer comes sooner alone. Of its own readings it need not hear.
function quietly(page, refresh) {
  const own = new Set();
  let sending = 0;
  let heard = false;
  // The form that was sent, which its answer may have taken out: what the event came from is then what stood around it.
  const isReading = (event) => event.detail.requestConfig.elt.matches(".reading-form, .make form");
  page.addEventListener("htmx:beforeRequest", (event) => {
    if (!isReading(event)) return;
    own.add(event.detail.requestConfig.parameters.client_id);
    sending += 1;
  });
  // What somebody began to type while a step was asked for anew is not taken out.
  page.addEventListener("htmx:beforeSwap", (event) => {
    if (event.detail.requestConfig.elt.matches(".make") && (isTyped(page) || sending)) event.detail.shouldSwap = false;
  });
  page.addEventListener("htmx:afterRequest", (event) => {
    if (!isReading(event)) return;
    sending -= 1;
    if (!sending && heard) setTimeout(refresh, AFTER_ANSWER_MS);
    heard = false;
  });
  return (event) => {
    if (own.has(JSON.parse(event.data).id)) return;
    if (sending) heard = true;
    else refresh();
  };
}

// A gauge is told of again after a gap: what is in the field or was listed already does not land twice.
const landed = new Set();

function land(page, { id, size, gauge, feature }, asked = false) {
  const form = page.querySelector(".reading-form");
  if (!form) return;
  if (landed.has(id) && !asked) return;
  landed.add(id);
  const inHand = page.querySelector("[data-live]").dataset.liveFeature;
  if (feature && inHand && feature !== inHand) {
    page.getElementById("gauge-words").textContent = `${gauge} sent ${size} of feature ${feature}: let it speak here under “Gauges”.`;
    return;
  }
  const inForm = form.contains(page.activeElement) && page.activeElement.matches("input.is-size");
  const field = inForm ? page.activeElement : form.elements.size;
  const words = page.getElementById("gauge-words");
  if (field.value && field.value !== field.dataset.fromGauge && !asked) {
    // What a hand typed is not overwritten.
    words.textContent = `${gauge} sent ${size}; your typing stays. It is under “Gauges”.`;
    return;
  }
  field.value = size;
  field.dataset.fromGauge = size;
  // The same id on every page that shows it: whoever presses Enter first logs it, a second time is harmless.
  if (field.name === "size") form.elements.client_id.value = id;
  words.textContent = `${size} from ${gauge}. Enter logs it.`;
  if (!inForm) field.focus();
  // At the lathe the hand stays on the work: what a gauge says of the step in hand is logged as it comes.
  if (form.closest(".make") && field.name === "size" && !asked) form.requestSubmit();
}
