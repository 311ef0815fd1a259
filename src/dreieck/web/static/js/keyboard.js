// Keys: what each of them asks for. Which keys there are is told by the page.
import { perform } from "./acting.js";
import { OWN_ACTS, help } from "./acts.js";
import { chartKey } from "./charts.js";
import { address, cell } from "./address.js";
import { ARROWS } from "./directions.js";
import { goesByWord, learn, shortcut, types } from "./layouts.js";
import { act, scene, show } from "./exchange.js";
import { hush } from "./notice.js";
import { active, selected, set, state } from "./state.js";
import { enter, go, goTo, page, stand, tab } from "./moving.js";
import { handOver, holdBack } from "./holding.js";
import { suggestionKey } from "./suggesting.js";
import { insert, isText } from "./typing.js";
import {
  activeCell,
  breakLine,
  desk,
  discard,
  drop,
  inCell,
  keep,
  keepInAll,
  land,
  toCells,
  write,
  writingNow,
} from "./writing.js";

const form = document.getElementById("page-state");
const KEYS = JSON.parse(form.dataset.keys);
const place = document.getElementById("address");
// What the browser does itself in a field for text.
const OF_FIELDS = ["undo", "redo", "dress", "select-all", "whole-columns", "whole-rows"];

function pressed(event) {
  if (event.isComposing || event.defaultPrevented || suggestionKey(event)) return;
  const here = document.activeElement;
  if (document.querySelector("dialog[open], :popover-open")) return;
  const modifiers = [
    event.ctrlKey || event.metaKey ? "ctrl" : "",
    event.altKey ? "alt" : "",
    event.shiftKey ? "shift" : "",
  ]
    .filter(Boolean)
    .join(" ");
  const key = keyOf(event);
  if (key && isHere(key, here)) done(event, () => ask(key));
  else if (event.altKey && !event.ctrlKey && event.key.length === 1 && types(event))
    // Not every browser types what Alt gives.
    done(event, () => insert(event.key));
  else if (here === place) inAddress(event);
  else if (here.closest(".chart")) {
    if (chartKey(event)) event.preventDefault();
  } else if (isCells(here)) inCells(event, modifiers);
  else if (here === desk && event.key === "Enter") done(event, () => write(desk));
  else if (event.key === "?" && !isText(here)) done(event, help);
  else if (event.key === "Escape") done(event, leaveRegion);
  else if (event.key in ARROWS && modifiers.startsWith("alt"))
    arrow(event, ARROWS[event.key], modifiers);
}

function keyOf(event) {
  const found = shortcut(event);
  if (!found) return null;
  const { letter, code, modifiers } = found;
  const isIt = (each) => (letter ? each.key === letter : each.code === code);
  return KEYS.find((each) => modifiers.includes(each.modifiers) && isIt(each));
}

// While an entry is written, and in other fields, the usual keys are the browser's.
function isHere(key, here) {
  if (!OF_FIELDS.includes(key.action) && !OF_FIELDS.includes(key.act)) return true;
  if (isCells(here)) return !writingNow() || Boolean(state.target);
  return !["INPUT", "TEXTAREA", "SELECT"].includes(here.tagName) && key.key !== " ";
}

function ask({ action, act: own, wish }) {
  if (own) OWN_ACTS[own]();
  else perform(action, wish);
}

// Where keys are for the cells: on the active one, in an entry, and where nothing has them.
function isCells(here) {
  const writes = here === inCell || (here === desk && (writingNow() || state.target));
  return writes || here === activeCell || here === document.body;
}

function inCells(event, modifiers) {
  if (event.key in ARROWS) arrow(event, ARROWS[event.key], modifiers);
  else other(event);
}

function arrow(event, [columns, rows], modifiers) {
  if (writingNow() && !state.target && goesByWord(event)) return;
  if (modifiers === "alt") return done(event, () => act("stretch", { columns, rows }));
  if (modifiers === "alt shift") return done(event, () => act("alongside", { columns, rows }));
  const widen = modifiers.includes("shift");
  if (writingNow() && !state.target) return whileWriting(event, columns, rows, widen, modifiers);
  if (state.target) return;
  if (modifiers.startsWith("ctrl")) return done(event, () => act("jump", { columns, rows, widen }));
  if (modifiers === "" || modifiers === "shift") done(event, () => go(columns, rows, widen));
}

// In a formula arrows point where a reference may stand; in other entries they keep it and go on.
function whileWriting(event, columns, rows, widen, modifiers) {
  const jump = modifiers.startsWith("ctrl");
  if (!jump && modifiers !== "" && modifiers !== "shift") return;
  const pointing = state.pointed_from >= 0 || scene.may_point;
  if (state.text.startsWith("=")) {
    if (pointing && (state.fresh || rows))
      done(event, () => act("point-at", { columns, rows, widen, jump }));
  } else if (state.fresh && modifiers === "") {
    done(event, () => {
      keep("");
      go(columns, rows, false);
    });
  }
}

function other(event) {
  const { key, shiftKey, altKey } = event;
  const ctrl = event.ctrlKey || event.metaKey;
  if (key === "Enter" && state.aiming >= 0)
    done(event, () => act("find-locks", { to: selected() }));
  else if (key === "Enter" && state.target) done(event, () => land());
  else if (key === "Escape") done(event, escape);
  else if (key === "Enter" && ctrl) done(event, keepInAll);
  else if (key === "Enter" && altKey) done(event, breakLine);
  else if (key === "Enter") done(event, () => enter(shiftKey ? "up" : "down"));
  else if (key === "Tab" && !ctrl && !altKey) done(event, () => tab(shiftKey ? "left" : "right"));
  else if (writingNow() || state.target) return;
  else if (key === "Delete" || key === "Backspace") done(event, () => act("clear"));
  else if (key === "PageDown" || key === "PageUp")
    done(event, () => page(key === "PageDown" ? 1 : -1, shiftKey));
  else if (key === "Home")
    done(event, () =>
      stand(ctrl ? "A1" : address([1, cell(shiftKey ? state.focus : active())[1]]), shiftKey),
    );
  else if (key === "End")
    done(event, () => act("go-far", { end: ctrl ? "sheet" : "row", widen: shiftKey }));
}

function done(event, action) {
  event.preventDefault();
  action();
}

// Back to the cells; what was aimed from the panel is over.
function leaveRegion() {
  if (state.aiming >= 0) act("stop-aim");
  toCells();
}

function escape() {
  if (state.aiming >= 0) act("stop-aim");
  else if (state.target) drop();
  else if (writingNow()) discard();
  else if (state.look_taken) giveNoMore();
  else if (state.trial) act("give-back");
  else if (state.anchor !== state.focus) stand(active(), false);
}

function giveNoMore() {
  set({ look_taken: "" });
  hush();
  show();
}

function inAddress(event) {
  if (event.key === "Enter") goTo(place.value.trim());
  else if (event.key === "Escape") place.value = active();
  else return;
  event.preventDefault();
  toCells();
}

// A key whose turn came late brings no copying of the browser's with it.
function pressedLate(event) {
  pressed(event);
  const ctrl = (event.ctrlKey || event.metaKey) && !event.altKey;
  const copies = { c: "copy", x: "cut" }[event.key.toLowerCase()];
  if (ctrl && copies && !event.isUsed && document.activeElement === activeCell)
    done(event, OWN_ACTS[copies]);
}

handOver(pressedLate);
document.addEventListener("keydown", (event) => {
  learn(event);
  if (!holdBack(event)) pressed(event);
});
