// The selection moves with the hands; the server is told where it is.
import { LAST, address, cell, roundNext, span } from "./address.js";
import { act, show } from "./exchange.js";
import { hush } from "./notice.js";
import { scrollable, stepped } from "./places.js";
import { active, chosen, set, state } from "./state.js";
import { keep, writingNow } from "./writing.js";

// The column where a row of entries began, one beside the other.
let tabbedFrom = null;
const PLACE = /^([A-Z]{1,3}[1-9]\d{0,6})(?::([A-Z]{1,3}[1-9]\d{0,6}))?$/i;
const STEPS = { down: [0, 1], up: [0, -1], right: [1, 0], left: [-1, 0] };

// Keeps the entry and moves on, back to the column where a row of entries began.
export function enter(move) {
  const back = tabbedFrom !== null && move === "down" ? tabbedFrom : null;
  tabbedFrom = null;
  keep(move);
  if (goRound(move)) return;
  if (back) set({ anchor: address([back, cell(state.anchor)[1]]) });
  step(move);
}

export function tab(move) {
  const from = cell(state.writing || active())[0];
  keep(move);
  if (goRound(move)) return;
  tabbedFrom ??= from;
  step(move);
}

// The selection moves at once; the server has been told the same.
function step(move) {
  const next = address(stepped(cell(state.anchor), ...STEPS[move]));
  set({ anchor: next, focus: next, step: "" });
  show({ reveal: next });
}

// In a selected area the entries go round and round; the server has been told the same.
function goRound(move) {
  const { anchor, focus, also } = state;
  if (anchor === focus || also) return false;
  const at = address(roundNext(chosen(), cell(active()), STEPS[move]));
  set({ anchor, focus, also, inner: at, step: "" });
  show({ reveal: at });
  return true;
}

export function go(columns, rows, widen) {
  const from = cell(widen ? state.focus : active());
  stand(address(stepped(from, columns, rows)), widen);
}

// Selects a cell, or everything up to it.
export function stand(place, widen) {
  hush();
  tabbedFrom = null;
  set(widen ? { focus: place } : { anchor: place, focus: place, step: "" });
  show({ reveal: place });
}

// Selects the whole columns, axis 0, or rows that the selection lies in.
export function selectLines(axis) {
  const area = chosen();
  area[1 - axis] = 1;
  area[3 - axis] = LAST[1 - axis];
  set({ anchor: address(area.slice(0, 2)), focus: address(area.slice(2)) });
  show();
}

// A cell or an area is found at once; what else is typed there only the server knows.
export function goTo(text) {
  const found = PLACE.exec(text);
  const ends = found?.slice(1, 3).map((each) => each && cell(each.toUpperCase()));
  const isKnown = ends?.every((each) => !each || each.every((at, axis) => at <= LAST[axis]));
  if (!isKnown || writingNow() || state.target) return act("go-to", { to: text });
  const [first, last] = ends;
  const [left, top, right, bottom] = span(first, last ?? first);
  hush();
  tabbedFrom = null;
  const anchor = address([left, top]);
  set({ anchor, focus: address([right, bottom]), step: "" });
  return show({ reveal: anchor });
}

export function page(direction, widen) {
  go(0, direction * Math.max(scrollable(1).shown - 2, 1), widen);
}
