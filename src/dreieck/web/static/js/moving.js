// The selection moves with the hands; the server is told where it is.
import { address, cell } from "./address.js";
import { show } from "./exchange.js";
import { hush } from "./notice.js";
import { drawOverlay } from "./overlay.js";
import { scrollable, stepped } from "./places.js";
import { set, state } from "./state.js";
import { keep } from "./writing.js";

// The column where a row of entries began, one beside the other.
let tabbedFrom = null;

// Keeps the entry and moves on, back to the column where a row of entries began.
export function enter(move) {
  const back = tabbedFrom !== null && move === "down" ? tabbedFrom : null;
  tabbedFrom = null;
  keep(move);
  if (back) set({ anchor: address([back, cell(state.anchor)[1]]) });
  step(move);
}

export function tab(move) {
  tabbedFrom ??= cell(state.writing || state.anchor)[0];
  keep(move);
  step(move);
}

// The selection moves at once; the server has been told the same.
function step(move) {
  const [columns, rows] = { down: [0, 1], up: [0, -1], right: [1, 0], left: [-1, 0] }[move];
  const next = address(stepped(cell(state.anchor), columns, rows));
  set({ anchor: next, focus: next, step: "" });
  show({ reveal: next });
}

export function go(columns, rows, widen) {
  hush();
  tabbedFrom = null;
  const next = address(stepped(cell(widen ? state.focus : state.anchor), columns, rows));
  set(widen ? { focus: next } : { anchor: next, focus: next, step: "" });
  drawOverlay();
  show({ reveal: next });
}

export function page(direction, widen) {
  go(0, direction * Math.max(scrollable(1).shown - 2, 1), widen);
}
