// The suggestions below the entry: shown where the hands are, taken by Tab, Enter or a click.
import { show } from "./exchange.js";
import { set, state } from "./state.js";
import { desk, drawWriting, inCell } from "./writing.js";

const box = document.getElementById("suggest-place");

const FLAG = 18;
// For which text the suggestions were closed.
let closedFor = null;

function options() {
  return [...document.querySelectorAll("#suggest [role=option]")];
}

function chosen() {
  return document.querySelector("#suggest [aria-selected=true]");
}

export function drawSuggestions() {
  const writesInCell = document.activeElement === inCell && inCell.classList.contains("open");
  const place = writesInCell ? inCell : desk;
  const frame = place.getBoundingClientRect();
  if (state.text !== closedFor) closedFor = null;
  box.hidden = state.text === null || closedFor !== null || !box.textContent.trim();
  const room = { width: window.innerWidth, height: window.innerHeight };
  box.style.left = `${Math.max(Math.min(frame.left, room.width - box.offsetWidth - 8), 8)}px`;
  // The flag of the cell stays in reach; where there is more room above than below, it is told there.
  const below = frame.bottom + (place === inCell ? FLAG : 4);
  const isAbove = room.height - below < Math.min(box.scrollHeight, frame.top);
  box.style.maxHeight = `${Math.max(isAbove ? frame.top - 12 : room.height - below - 8, 60)}px`;
  box.style.top = `${isAbove ? frame.top - box.offsetHeight - 4 : below}px`;
  for (const each of [desk, inCell]) tellOf(each, each === place);
}

// Whether suggestions are shown, or what an argument is for.
export function suggests() {
  return !box.hidden;
}

// The place that is written in tells whether suggestions are open, and which one is chosen.
function tellOf(place, isHere) {
  const isOpen = isHere && !box.hidden && options().length > 0;
  place.parentElement.setAttribute("aria-expanded", String(isOpen));
  const at = isOpen ? chosen() : null;
  if (at) place.setAttribute("aria-activedescendant", at.id);
  else place.removeAttribute("aria-activedescendant");
}

// Handles a key while suggestions are shown, and tells whether it was one of theirs.
export function suggestionKey(event) {
  if (box.hidden) return false;
  const all = options();
  const at = all.indexOf(chosen());
  if (event.key === "Escape") {
    closedFor = state.text;
    drawSuggestions();
    event.preventDefault();
    return true;
  }
  if (!all.length || event.altKey || event.ctrlKey || event.metaKey) return false;
  if (event.key === "Tab" && !event.shiftKey) take(chosen() ?? all[0]);
  else if (event.key === "Enter" && chosen()) take(chosen());
  else if (event.key === "ArrowDown") choose(all, (at + 1) % all.length);
  else if (event.key === "ArrowUp" && at >= 0) choose(all, (at + all.length - 1) % all.length);
  else return false;
  event.preventDefault();
  return true;
}

function choose(all, index) {
  all.forEach((option, each) => option.setAttribute("aria-selected", String(each === index)));
  all[index].scrollIntoView({ block: "nearest" });
  drawSuggestions();
}

function take(option) {
  const { start, insert } = option.dataset;
  const text = state.text.slice(0, Number(start)) + insert + state.text.slice(state.caret);
  set({ text, caret: Number(start) + insert.length, pointed_from: -1 });
  const place = document.activeElement === inCell ? inCell : desk;
  place.focus();
  drawWriting();
  place.setSelectionRange(state.caret, state.caret);
  show();
}

document.addEventListener("pointerdown", (event) => {
  const option = event.target.closest("#suggest [role=option]");
  if (!option) return;
  event.preventDefault();
  take(option);
});
