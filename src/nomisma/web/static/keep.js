// When the server does not answer, say so and leave what was typed where it is; say nothing once it answers again.
export function keepTyped(page) {
  const away = page.getElementById("offline");

  page.addEventListener("htmx:sendError", (event) => {
    // A reading waits in the queue; anything else stays where it was typed.
    away.hidden = event.detail.elt.matches?.(".reading-form") ?? false;
  });
  page.addEventListener("htmx:afterRequest", (event) => {
    if (event.detail.successful || event.detail.failed) away.hidden = event.detail.xhr?.status !== 0;
  });
  // A number without a unit is in the unit the instrument reads; say which.
  page.addEventListener("change", (event) => {
    const unit = event.target.matches("[name=instrument_id]") && event.target.selectedOptions[0]?.dataset.unit;
    const tag = unit && event.target.form.querySelector("[data-reading-unit]");
    if (tag) tag.textContent = unit;
  });
  // A number pad has no letters: a way that is not read straight off is written with the whole keyboard.
  page.addEventListener("toggle", (event) => {
    const field = event.target.matches?.("details.ways") && page.getElementById("size");
    if (field) field.inputMode = event.target.open ? "text" : "decimal";
  }, true);
  // A number pad has no minus: one button changes the sign.
  page.addEventListener("click", (event) => {
    const name = event.target.closest?.("[data-flip-sign]")?.dataset.flipSign;
    if (!name) return;
    const field = page.getElementById(name);
    field.value = /^[-−]/.test(field.value) ? field.value.slice(1) : `-${field.value.replace(/^\+/, "")}`;
    field.focus();
  });
  // The place that is read stands beside the field, whichever is chosen.
  page.addEventListener("change", (event) => {
    const now = event.target.matches("[name=place]") && event.target.form.querySelector("[data-place-now]");
    if (now) now.textContent = event.target.value;
  });
  // After a reading is logged the next field is ready; what somebody is typing elsewhere keeps the focus.
  page.addEventListener("htmx:afterSettle", (event) => {
    const field = event.detail.elt.querySelector?.("[autofocus]");
    if (field && page.activeElement === page.body) field.focus();
  });
  // A file chosen to be brought in is read here, into the field it can be looked at and changed in.
  page.addEventListener("change", async (event) => {
    const into = event.target.dataset?.readsInto;
    const file = event.target.files?.[0];
    if (into && file) page.getElementById(into).value = await file.text();
  });
}
