// The finder: what it asks for, and how one goes from one place that was found to the next.
import { act } from "./exchange.js";
import { refusal } from "./notice.js";
import { active, allSelected, state } from "./state.js";
import { toCells } from "./writing.js";

const finder = document.getElementById("finder");
const form = () => document.getElementById("finder-form");
const { pages } = document.getElementById("page-state").dataset;
let at = -1;

export async function openFinder() {
  finder.hidden = false;
  if (!form()) await htmx.ajax("GET", `${pages}${state.sheet}/find`, { target: finder });
  document.getElementById("finder-text").select();
}

export function closeFinder() {
  finder.hidden = true;
  toCells();
}

export function replaceAll() {
  const fields = Object.fromEntries(new FormData(form()));
  act("replace-all", { ...fields, selected: allSelected() }).then(() =>
    htmx.trigger(form(), "submit"),
  );
}

export function findAlike() {
  const like = { like: active() };
  htmx.ajax("GET", foundAt(), { target: "#found", values: like });
}

// What is found is that of the sheet that is shown now.
function foundAt() {
  return `${pages}${state.sheet}/found`;
}

finder.addEventListener("htmx:configRequest", ({ detail }) => {
  at = -1;
  if (detail.elt === form()) detail.path = foundAt();
  detail.parameters.selected = allSelected();
});

finder.addEventListener("htmx:responseError", ({ detail }) => {
  document.getElementById("found").textContent = refusal(detail.xhr.responseText);
});

finder.addEventListener("keydown", (event) => {
  if (event.key === "Escape") closeFinder();
  else if (event.key === "Enter" && event.target.id === "finder-text") {
    const all = finder.querySelectorAll(".found [data-to]");
    if (!all.length) return;
    at = (at + (event.shiftKey ? all.length - 1 : 1)) % all.length;
    all.forEach((each, index) => each.toggleAttribute("aria-current", index === at));
    act("go-to", { to: all[at].dataset.to });
  } else return;
  event.preventDefault();
});
