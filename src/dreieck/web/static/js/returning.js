// Who comes back from another page, loads anew or follows a link finds the place: what is selected,
// in view, shown. The address tells it: #C5:F10, or #C5:F10,both with the view.
import { selected, state } from "./state.js";

const HELD = [
  "anchor",
  "focus",
  "inner",
  "also",
  "left",
  "top",
  "view",
  "step",
  "working",
  "parts",
];
const ADDRESS =
  /^#([A-Z]{1,3}[1-9]\d{0,6})(?::([A-Z]{1,3}[1-9]\d{0,6}))?(?:,(values|formulas|both))?$/;
const REST = 300;
const form = document.getElementById("page-state");
let timer = 0;

function name() {
  return `place of ${form.dataset.pages}${state.sheet}`;
}

const held = JSON.parse(sessionStorage.getItem(name()) ?? "{}");
for (const each of HELD) state[each] = held[each] ?? state[each];
const [, anchor, focus, view] = ADDRESS.exec(location.hash) ?? [];
// The address counts where it is another one than that which was told for the place that was left.
const isOther = anchor && location.hash !== held.hash;
export const linked = isOther ? `${anchor}:${focus ?? anchor}` : "";
if (isOther)
  Object.assign(state, {
    anchor,
    focus: focus ?? anchor,
    inner: "",
    also: "",
    view: view ?? "values",
  });
for (const button of document.querySelectorAll("[data-view]"))
  button.setAttribute("aria-checked", String(button.dataset.view === state.view));

// The address of what is selected and shown now.
export function placeAddress() {
  const shown = state.view === "values" ? "" : `,${state.view}`;
  return `${form.dataset.pages}${state.sheet}#${selected()}${shown}`;
}

// The address bar follows once the hands rest.
export function tellAddress() {
  clearTimeout(timer);
  timer = setTimeout(() => {
    const address = placeAddress();
    if (location.pathname + location.hash !== address) history.replaceState(null, "", address);
  }, REST);
}

// What the address bar is given by hand.
export function onAddress(goTo) {
  addEventListener("hashchange", () => {
    const [, first, last] = ADDRESS.exec(location.hash) ?? [];
    if (first) goTo(`${first}:${last ?? first}`);
  });
}

addEventListener("pagehide", () => {
  const told = Object.fromEntries(HELD.map((each) => [each, state[each]]));
  told.hash = location.hash;
  sessionStorage.setItem(name(), JSON.stringify(told));
});
