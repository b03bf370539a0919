// What the hand needs and a page cannot do alone: switches, shortcuts, focus, and a word when the server is away.
import { keepTyped } from "./keep.js";
import { showExamples } from "./examples.js";
import { listenForKeys } from "./keys.js";
import { listenLive } from "./live.js";
import { keepWaiting } from "./queue.js";
import { offerKeypad } from "./keypad.js";
import { takeAsDialled } from "./readout.js";
import { setPaper } from "./paper.js";
import { stopAtScrollers } from "./scrollers.js";
import { leaveBeforeSwap } from "./swaps.js";
import { keepSticky } from "./sticky.js";
import { setUpSwitches } from "./switches.js";
import { printed, setPrint } from "./print.js";
import { keepFolds } from "./folds.js";
import { keepTicks } from "./ticks.js";

const switches = setUpSwitches(document);
listenForKeys(document, switches);
keepTyped(document);
keepWaiting(document);
listenLive(document);
takeAsDialled(document);
keepTicks(document);
offerKeypad(document);
keepSticky(document);
showExamples(document);
stopAtScrollers(document);
leaveBeforeSwap(document);
setPaper(document);
keepFolds(document);
setPrint(document);

document.addEventListener("click", (event) => {
  const print = event.target.closest("[data-print]");
  if (print) printed(document, print.dataset.print === "workings");
  // Chosen with a finger or a mouse, the list folds to the one.
  const chosen = event.detail > 0 && event.target.closest(".folds .function");
  if (chosen) chosen.closest(".folds").querySelector("[data-unfold]").checked = false;
});

// Arrow keys go through the list, which stays open for them; Enter takes what they stand on, and folds it.
const STEPS = ["ArrowDown", "ArrowUp", "ArrowLeft", "ArrowRight"];
document.addEventListener("keydown", (event) => {
  const list = event.target.closest?.(".folds");
  if (!list || event.target.type !== "radio") return;
  if (STEPS.includes(event.key)) list.querySelector("[data-unfold]").checked = true;
  if (event.key === "Enter") list.querySelector("[data-unfold]").checked = false;
});

// A reading that was refused is selected: what is typed next takes its place.
const offerAgain = () => document.querySelector(".reading-form [name=size][aria-invalid=true]")?.select();
document.addEventListener("htmx:afterSettle", offerAgain);
offerAgain();
