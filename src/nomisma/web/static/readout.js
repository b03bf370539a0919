// What is left to go, live, from a readout that talks. The page says from where, to where, and where metal is gone; here is only the difference.
const PER_IN = 25.4;

export function showPosition(page, { gauge, slides_mm: slides, x_reads: reads, zero_set: zeroSet }) {
  const box = page.querySelector("[data-readout-axis]");
  const shown = box && slides[box.dataset.readoutAxis];
  if (shown === undefined || shown === null) return;
  const at = Number(shown) * (box.dataset.readoutAxis === "x" && reads === "radius" ? 2 : 1);
  const { cutDirection, fromMm, stopMm, limitMm } = box.dataset;
  const left = Number(cutDirection) * (at - Number(stopMm));
  box.hidden = false;
  box.classList.toggle("is-past", left < -0.0005);
  box.classList.toggle("is-near", left >= -0.0005 && left < 0.25);
  box.querySelector("[data-readout-left]").textContent = inUnit(page, Math.abs(left));
  const gone = limitMm !== "" && Number(cutDirection) * (at - Number(limitMm)) < 0;
  box.querySelector("[data-readout-words]").textContent = gone ? "past the limit: metal is gone there"
    : left < -0.0005 ? "past where to stop" : left < 0.0005 ? "there: stop" : "to go";
  box.querySelector("[data-readout-at]").textContent = `${gauge} reads ${inUnit(page, at)}`;
  box.dataset.zeroSet ??= zeroSet;
  box.querySelector("[data-readout-set-anew]").hidden = box.dataset.zeroSet === zeroSet;
  box.dataset.dialled = String(Number(cutDirection) * (Number(fromMm) - at));
}

export function takeAsDialled(page) {
  page.addEventListener("click", (event) => {
    const button = event.target.closest("[data-readout-take]");
    const box = button && button.closest("[data-readout-axis]");
    const field = page.querySelector('.reading-form [name="dialled"]');
    if (!box || !field || !box.dataset.dialled) return;
    field.value = inUnit(page, Math.max(Number(box.dataset.dialled), 0));
    field.focus();
  });
}

function inUnit(page, mm) {
  return page.documentElement.dataset.unit === "in" ? `${(mm / PER_IN).toFixed(4)} in` : `${mm.toFixed(3)} mm`;
}
