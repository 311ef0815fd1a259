// The state of this page: what is in view, selected, written, rehearsed and tried; and when the
// hands changed what of it.
import { areaText, cell, span } from "./address.js";

const form = document.getElementById("page-state");

// The bars by which the grid is scrolled are so thick: what lies under them is not seen.
export const BAR = 12;

// Nothing is written.
export const NOTHING = {
  writing: "",
  over: "",
  text: null,
  caret: 0,
  flipped: false,
  fresh: false,
  pointed_from: -1,
  rule_for: "",
  rule_index: -1,
  proving: -1,
};

// A condition or a statement is written on the desk alone: it stands in no cell.
export function standsApart() {
  return Boolean(state.rule_for) || state.proving >= 0;
}

export const state = {
  sheet: Number(form.dataset.sheet),
  left: 1,
  top: 1,
  view: "values",
  step: "",
  working: false,
  parts: false,
  anchor: "A1",
  focus: "A1",
  inner: "",
  also: "",
  copied: "",
  look_taken: "",
  chart: 0,
  home: 0,
  ...NOTHING,
  rule_tone: "rose",
  source: "",
  target: "",
  landing: "",
  values: "",
  wait: localStorage.getItem("wait") === "yes",
  bare: localStorage.getItem("bare") === "yes",
  aiming: -1,
  aimed_at: "",
  advice: false,
  trial: "",
  tried_at: "",
};

// Counts the changes by the hands, and remembers at which of them what was done.
export const times = { now: 0, begun: 0, selected: 0, ended: 0 };

// Changes the state; what the server answers to older states is then drawn, but not adopted.
export function set(changes) {
  // Another active cell ends the selection of several areas, and of a chart.
  if ("anchor" in changes && !("also" in changes)) state.also = "";
  if (("anchor" in changes || "focus" in changes) && !("inner" in changes)) state.inner = "";
  if ("anchor" in changes || changes.text != null) state.chart = 0;
  Object.assign(state, changes);
  times.now += 1;
  if ("anchor" in changes) times.selected = times.now;
  if (changes.target === "") times.ended = times.now;
}

// An entry was begun by typing; a move that is still on its way decides where.
export function begin(changes) {
  set(changes);
  times.begun = times.now;
}

// The cell that entries go to.
export function active() {
  return state.inner || state.anchor;
}

// The areas that an entry which begins now can be kept in, where they are several cells.
export function coveredNow() {
  return state.also || state.anchor !== state.focus ? allSelected() : "";
}

// The area that is selected, as [left, top, right, bottom].
export function chosen() {
  return span(cell(state.anchor), cell(state.focus));
}

// The same as text.
export function selected() {
  return areaText(chosen());
}

// All areas that are selected, with commas.
export function allSelected() {
  return [state.also, selected()].filter(Boolean).join(",");
}
