// Who comes back from another page finds the place that they left: what is selected, in view, shown.
import { state } from "./state.js";

const HELD = ["anchor", "focus", "also", "left", "top", "view", "step", "working"];
const form = document.getElementById("page-state");

function name() {
  return `place of ${form.dataset.pages}${state.sheet}`;
}

const held = JSON.parse(sessionStorage.getItem(name()) ?? "{}");
for (const each of HELD) state[each] = held[each] ?? state[each];
for (const button of document.querySelectorAll("[data-view]"))
  button.setAttribute("aria-checked", String(button.dataset.view === state.view));

addEventListener("pagehide", () => {
  const told = Object.fromEntries(HELD.map((each) => [each, state[each]]));
  sessionStorage.setItem(name(), JSON.stringify(told));
});
