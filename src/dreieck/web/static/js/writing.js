// The two places where an entry is written, the desk and the cell, kept in step.
import { area, cell } from "./address.js";
import { act, actNow, isOnItsWay, notKeptIn, onScene, scene, show, waits } from "./exchange.js";
import { isDown, onLine } from "./line.js";
import { NOTHING, active, begin, coveredNow, set, standsApart, state } from "./state.js";
import { box } from "./places.js";
import { room } from "./room.js";

export const desk = document.getElementById("desk-line");
export const inCell = document.getElementById("cell-line");
// The cell that has the keys while nothing is written; what is typed into it begins an entry.
export const activeCell = document.getElementById("active-cell");
const frame = document.getElementById("cell-entry");
const chips = document.querySelector(".line-chips");
const buttons = document.querySelectorAll(".line-button");

// So many characters have room in the narrowest desk.
const ONE_LINE = 30;

let opening = null;

// Whether a cell is about to be opened for writing.
export function opensSoon() {
  return opening !== null;
}

// Whether it is not known yet what the cells hold.
function isUnknown() {
  return !scene || (waits() && !isDown());
}

function openLate() {
  if (!opening || isUnknown()) return;
  const place = opening;
  opening = null;
  write(place);
}

onScene(openLate);
onLine(openLate);

export function writingNow() {
  return state.text !== null;
}

// Opens the entry of the selected cell for writing, at the desk or in the cell. While an answer is
// still to come, what the cell holds is not known yet: then it is opened when the answer is there.
export function write(place = desk, caret = null) {
  if (state.target || writingNow()) return place.focus();
  if (isUnknown()) {
    opening = place;
    return;
  }
  const text = entryInView();
  set({
    writing: active(),
    over: coveredNow(),
    text,
    caret: caret ?? text.length,
    flipped: false,
    fresh: false,
    pointed_from: -1,
    step: "",
  });
  drawWriting();
  place.focus();
  if (caret === null) place.setSelectionRange(text.length, text.length);
  show();
}

// To the cells: into the entry that is open in one of them, or to the active cell.
export function toCells() {
  const open = writingNow() && inCell.classList.contains("open");
  (open ? inCell : activeCell).focus({ preventScroll: true });
  if (open || activeCell.contains(getSelection().anchorNode)) return;
  // Focus alone is not enough: after a dialog the caret may stand elsewhere, and keys go there.
  getSelection().collapse(activeCell, 0);
}

// Keys that nothing else has belong to the cells, whatever was opened and left before.
document.addEventListener(
  "keydown",
  () => {
    const here = document.activeElement;
    const isNobodys = !here || here === document.body || here === activeCell;
    if (isNobodys && !document.querySelector("dialog[open], :popover-open")) toCells();
  },
  true,
);

// Text for the active cell, typed or said: it begins an entry, or goes on with the one that is open.
export function typeInto(text) {
  frame.hidden = false;
  inCell.focus({ preventScroll: true });
  if (writingNow()) inCell.setSelectionRange(state.caret, state.caret);
  inCell.setRangeText(text, inCell.selectionStart, inCell.selectionEnd, "end");
  inCell.dispatchEvent(new InputEvent("input", { bubbles: true }));
}

// A text can have several lines.
export function breakLine() {
  const place = document.activeElement === desk ? desk : inCell;
  if (!writingNow()) write(place);
  // From now on arrows go through its lines.
  set({ fresh: false });
  place.setRangeText("\n", place.selectionStart, place.selectionEnd, "end");
  place.dispatchEvent(new InputEvent("input", { bubbles: true }));
}

export function keep(move) {
  const sent = actNow("enter", { move });
  stop();
  toCells();
  drawWriting();
  return sent;
}

// Keeps the entry in all cells that were selected when it was begun.
export function keepInAll() {
  if (!writingNow()) return;
  const { over } = state;
  actNow("enter-in-all");
  stop();
  if (over.includes(",")) set({ also: over.slice(0, over.lastIndexOf(",")) });
  toCells();
  drawWriting();
  show();
}

// Lands the rehearsed fill; the hands are free at once, before the server has answered. Where the
// rehearsal is still to change, by a mend, say, it lands in its turn, as it is then.
export function land(wish = {}) {
  if (isOnItsWay("rehearses")) return act("land", wish);
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

// Nothing is written any more; the cell that was written is selected, on its own sheet, or the
// area in which entries go round.
function stop() {
  const { writing, over } = state;
  const [first, last] = (over.split(",").at(-1) || writing).split(":");
  const chosen =
    writing && state.proving < 0
      ? { anchor: first, focus: last ?? first, inner: first === writing ? "" : writing }
      : {};
  set({ sheet: state.home || state.sheet, home: 0, ...chosen, ...NOTHING });
}

export function discard() {
  stop();
  toCells();
  drawWriting();
  show();
}

// Gives a rehearsal up; what was typed stays open, what only a switch began does not.
export function drop() {
  const text = state.flipped ? NOTHING : {};
  set({ source: "", target: "", landing: "", values: "", step: "", ...text });
  show();
}

// What the active cell holds, as far as the page knows: the picture may still be on its way.
export function entryInView() {
  const typed = notKeptIn(state.sheet, active());
  if (typed !== undefined) return typed;
  const { sheet, inner, anchor } = scene.state;
  if (sheet === state.sheet && (inner || anchor) === active()) return scene.text;
  const [column, row] = cell(active());
  return scene.cells.find((each) => each.column === column && each.row === row)?.typed ?? "";
}

// Brings both places, the chips and the buttons in step with the state.
export function drawWriting() {
  const isElsewhere = state.target || standsApart();
  const text = state.text ?? (isElsewhere ? scene.text : entryInView());
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
  const { x, y, width, height } = box(area(state.writing || active()));
  // A condition is written on the desk, so that its own cell can be pointed at, too.
  const open = writingNow() && !state.flipped && !state.home && !standsApart();
  const here = document.activeElement;
  if (standsApart() && [inCell, activeCell].includes(here)) desk.focus();
  else if (here === inCell && !open) activeCell.focus({ preventScroll: true });
  const widest = Math.max(width, room().width - x - 14);
  const longest = Math.max(...text.split("\n").map((line) => line.length));
  inCell.classList.toggle("open", open);
  frame.hidden = !open;
  Object.assign(frame.style, {
    left: `${x}px`,
    top: `${y}px`,
    minHeight: `${height}px`,
    maxHeight: `${Math.max(room().height - y - 14, height)}px`,
    width: `${Math.min(Math.max(width, longest * 8 + 24), widest)}px`,
  });
  Object.assign(activeCell.style, {
    left: `${x}px`,
    top: `${y}px`,
    width: `${Math.max(width, 1)}px`,
    height: `${Math.max(height, 1)}px`,
  });
  inCell.setAttribute("aria-label", `Entry of ${state.writing || active()}`);
}

// What the chips were drawn from last.
let chipsOf = [];

function drawChips(text) {
  const from = [text, scene.text === text ? scene.chips : null];
  if (from.every((each, index) => each === chipsOf[index])) return;
  chipsOf = from;
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
  // What fits into one line is not scrolled; asking would lay the page out anew.
  if (text.length < ONE_LINE && !text.includes("\n")) chips.style.transform = "";
  else follow();
}

function follow() {
  chips.style.transform = `translateY(${-desk.scrollTop}px)`;
}

function typed(event) {
  const place = event.target;
  if (!writingNow())
    begin({
      writing: active(),
      over: coveredNow(),
      flipped: false,
      fresh: place === inCell,
      step: "",
    });
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
// Who comes by pointer writes; who comes by key may only be on the way to the switches.
desk.addEventListener("click", () => {
  if (!writingNow() && !state.target) write(desk, desk.selectionStart);
});

// What is typed, dictated or composed goes from the active cell into its entry.
activeCell.addEventListener("beforeinput", (event) => {
  if (event.isComposing) return;
  event.preventDefault();
  if (event.inputType.startsWith("insert") && event.data) typeInto(event.data);
});
// What was composed and left is not there when the cell has the keys again.
activeCell.addEventListener("blur", () => activeCell.replaceChildren());
activeCell.addEventListener("compositionend", (event) => {
  activeCell.replaceChildren();
  if (event.data) typeInto(event.data);
});
