// When the server does not answer, say so and leave what was typed where it is; say nothing once it answers again.
export function keepTyped(page) {
  const away = page.getElementById("offline");

  page.addEventListener("htmx:sendError", () => {
    away.hidden = false;
  });
  page.addEventListener("htmx:afterRequest", (event) => {
    if (event.detail.successful || event.detail.failed) away.hidden = event.detail.xhr?.status !== 0;
  });
  // After a reading is logged the next field is ready; what somebody is typing elsewhere keeps the focus.
  page.addEventListener("htmx:afterSettle", (event) => {
    const field = event.detail.elt.querySelector?.("[autofocus]");
    if (field && page.activeElement === page.body) field.focus();
  });
}
