// The two places where an entry is written, the desk and the cell, kept in step.
import { area, cell } from "./address.js";
import { actNow, onScene, scene, show, waits } from "./exchange.js";
import { NOTHING, begin, set, standsApart, state } from "./state.js";
import { box, grid } from "./places.js";

export const desk = document.getElementById("desk-line");
export const inCell = document.getElementById("cell-line");
const chips = document.querySelector(".line-chips");
const buttons = document.querySelectorAll(".line-button");

let opening = null;

// Whether a cell is about to be opened for writing.
export function opensSoon() {
  return opening !== null;
}

// Whether it is not known yet what the cells hold.
function isUnknown() {
  return waits() || !scene;
}

onScene(() => {
  if (!opening || isUnknown()) return;
  const place = opening;
  opening = null;
  write(place);
});

export function writingNow() {
  return state.text !== null;
}

// Opens the entry of the selected cell for writing, at the desk or in the cell. While an answer is
// still to come, what the cell holds is not known yet: then it is opened when the answer is there.
export function write(place = desk) {
  if (state.target || writingNow()) return place.focus();
  if (isUnknown()) {
    opening = place;
    return;
  }
  // The scene may still be on its way after the last move, so the cell in view is asked first.
  const [column, row] = cell(state.anchor);
  const shown = scene.cells.find((each) => each.column === column && each.row === row);
  const text = shown?.typed ?? (scene.state.anchor === state.anchor ? scene.text : "");
  set({
    writing: state.anchor,
    text,
    caret: text.length,
    flipped: false,
    fresh: false,
    pointed_from: -1,
    step: "",
  });
  place.value = text;
  place.focus();
  place.setSelectionRange(text.length, text.length);
  drawWriting();
  show();
}

export function keep(move) {
  const sent = actNow("enter", { move });
  stop();
  inCell.focus();
  drawWriting();
  return sent;
}

// Lands the rehearsed fill; the hands are free at once, before the server has answered.
export function land(wish = {}) {
  const sent = actNow("land", wish);
  set({
    source: "",
    target: "",
    landing: "",
    values: "",
    step: "",
    home: 0,
    sheet: state.home || state.sheet,
    ...NOTHING,
  });
  drawWriting();
  return sent;
}

// Nothing is written any more; the cell that was written is selected, on its own sheet.
function stop() {
  const cell =
    state.writing && state.proving < 0 ? { anchor: state.writing, focus: state.writing } : {};
  set({ sheet: state.home || state.sheet, home: 0, ...cell, ...NOTHING });
}

export function discard() {
  stop();
  inCell.focus();
  drawWriting();
  show();
}

// Gives a rehearsal up; what was typed stays open, what only a switch began does not.
export function drop() {
  const text = state.flipped ? NOTHING : {};
  set({ source: "", target: "", landing: "", values: "", step: "", ...text });
  show();
}

// Brings both places, the chips and the buttons in step with the state.
export function drawWriting() {
  const text = state.text ?? scene.text;
  for (const place of [desk, inCell]) {
    const wanted = place === inCell && !writingNow() ? "" : text;
    if (place.value === wanted) continue;
    place.value = wanted;
    if (document.activeElement === place && writingNow())
      place.setSelectionRange(state.caret, state.caret);
  }
  for (const button of buttons) button.hidden = !writingNow();
  drawChips(text);
  placeInCell(text);
}

function placeInCell(text) {
  const { x, y, width, height } = box(area(state.writing || state.anchor));
  // A condition is written on the desk, so that its own cell can be pointed at, too.
  const open = writingNow() && !state.flipped && !state.home && !standsApart();
  if (standsApart() && document.activeElement === inCell) desk.focus();
  const needed = Math.max(width, text.length * 8 + 24);
  inCell.classList.toggle("open", open);
  Object.assign(inCell.style, {
    left: `${x}px`,
    top: `${y}px`,
    height: `${height}px`,
    width: `${open ? Math.min(needed, Math.max(width, grid.clientWidth - x - 14)) : width}px`,
  });
  inCell.setAttribute("aria-label", `Entry of ${state.writing || state.anchor}`);
}

function drawChips(text) {
  const pieces = [];
  let end = 0;
  for (const chip of scene.text === text ? scene.chips : []) {
    const mark = document.createElement("span");
    mark.className = `c${chip.colour}`;
    mark.textContent = text.slice(chip.start, chip.end);
    pieces.push(text.slice(end, chip.start), mark);
    end = chip.end;
  }
  chips.replaceChildren(...pieces, text.slice(end));
  follow();
}

function follow() {
  chips.style.transform = `translateX(${-desk.scrollLeft}px)`;
}

function typed(event) {
  const place = event.target;
  if (!writingNow()) begin({ writing: state.anchor, flipped: false, fresh: true, step: "" });
  set({ text: place.value, caret: place.selectionStart, pointed_from: -1 });
  drawWriting();
  show();
}

function caretMoved(event) {
  if (!writingNow() || event.target.selectionStart === state.caret) return;
  set({ caret: event.target.selectionStart, pointed_from: -1 });
  if (state.text.startsWith("=")) show();
}

for (const place of [desk, inCell]) {
  place.addEventListener("input", typed);
  for (const name of ["keyup", "pointerup", "select"]) place.addEventListener(name, caretMoved);
}
desk.addEventListener("scroll", follow);
desk.addEventListener("focus", () => {
  if (!writingNow() && !state.target) write(desk);
});
