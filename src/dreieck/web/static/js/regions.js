// The regions of the page: one key goes from each to the next, Esc leads back to the cells.
import { unfold } from "./folding.js";
import { desk, toCells } from "./writing.js";

// Each with what has the keys first.
const REGIONS = [
  [".desk", () => desk],
  [".grid", () => null],
  [".panel", (region) => region.querySelector("[role=tab][aria-selected=true]")],
  [".above-grid", (region) => region.querySelector("[aria-current]")],
  [".top", (region) => region.querySelector(".brand")],
].map(([name, first]) => ({ region: document.querySelector(name), first }));

const NAMES = ["desk", "grid", "panel", "sheets", "top"];

export function toRegion(name) {
  enterRegion(NAMES.indexOf(name));
}

export function nextRegion(step) {
  const here = document.activeElement;
  const at = REGIONS.findIndex(({ region }) => region.contains(here));
  const from = at >= 0 ? at : NAMES.indexOf("grid");
  enterRegion((from + step + REGIONS.length) % REGIONS.length);
}

function enterRegion(index) {
  const { region, first } = REGIONS[index];
  if (NAMES[index] === "panel" || NAMES[index] === "desk") unfold(NAMES[index]);
  const place = first(region);
  if (place) place.focus();
  else toCells();
}

// A press on an empty place leaves the keys where they are needed, unless words are marked there.
document.addEventListener("click", () => {
  const here = document.activeElement;
  const isLost = !here || here === document.body;
  if (isLost && document.getSelection().isCollapsed && !document.querySelector("dialog[open]"))
    toCells();
});
