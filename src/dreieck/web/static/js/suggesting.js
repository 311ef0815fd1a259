// The suggestions below the entry: shown where the hands are, taken by Tab, Enter or a click.
import { show } from "./exchange.js";
import { set, state } from "./state.js";
import { desk, drawWriting, inCell } from "./writing.js";

const box = document.getElementById("suggest-place");

const FLAG = 18;

function options() {
  return [...document.querySelectorAll("#suggest [role=option]")];
}

function chosen() {
  return document.querySelector("#suggest [aria-selected=true]");
}

export function drawSuggestions() {
  const place =
    document.activeElement === inCell && inCell.classList.contains("open") ? inCell : desk;
  const frame = place.getBoundingClientRect();
  box.hidden = state.text === null || !box.textContent.trim();
  box.style.left = `${Math.min(frame.left, window.innerWidth - 470)}px`;
  // The flag of the cell stays in reach; where there is no room below, it is told above.
  const below = frame.bottom + (place === inCell ? FLAG : 4);
  const above = frame.top - box.offsetHeight - 4;
  box.style.top = `${below + box.offsetHeight < window.innerHeight ? below : above}px`;
}

// Handles a key while suggestions are shown, and tells whether it was one of theirs.
export function suggestionKey(event) {
  if (box.hidden) return false;
  const all = options();
  const at = all.indexOf(chosen());
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
