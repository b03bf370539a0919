// What the hand needs and a page cannot do alone: switches, shortcuts, focus, and a word when the server is away.
import { keepTyped } from "./keep.js";
import { showExamples } from "./examples.js";
import { listenForKeys } from "./keys.js";
import { listenLive } from "./live.js";
import { keepWaiting } from "./queue.js";
import { setUpSwitches } from "./switches.js";

const switches = setUpSwitches(document);
listenForKeys(document, switches);
keepTyped(document);
keepWaiting(document);
listenLive(document);
showExamples(document);

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-print]")) window.print();
});
