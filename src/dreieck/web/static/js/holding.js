// Keys and presses that come before the server's word on those before them wait here, in order.
import { dialogComes, keyInDialog, onDialog } from "./asking.js";
import { isOnItsWay, onScene, scene, waits } from "./exchange.js";
import { state } from "./state.js";
import { opensSoon } from "./writing.js";

const NEEDS_WORD = ["Tab", "Enter", "ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown"];
const held = [];
let handle = null;

// Keeps a key for later if its turn has not come, and tells so.
export function holdBack(event) {
  if (event.isComposing || (!held.length && !mustWait(event))) return false;
  if (["Shift", "Control", "Alt", "Meta"].includes(event.key) || loadsAnew(event)) return false;
  event.preventDefault();
  const { key, code, ctrlKey, metaKey, altKey, shiftKey } = event;
  held.push({ key, code, ctrlKey, metaKey, altKey, shiftKey, preventDefault: noted });
  return true;
}

// Remembers that a key that waited was used.
function noted() {
  this.isUsed = true;
}

// A page that waits in vain can always be loaded anew.
function loadsAnew({ key, ctrlKey, metaKey }) {
  return key === "F5" || ((ctrlKey || metaKey) && key.toLowerCase() === "r");
}

// The same for a press on a cell, which either points at it for a formula or keeps the formula.
export function holdPress(press) {
  if (!held.length && !isUnclear()) return false;
  held.push({ press });
  return true;
}

// Says who handles the keys when their turn comes.
export function handOver(handler) {
  handle = handler;
}

function isUnclear() {
  if (state.text === null || !waits()) return false;
  // It is not known yet which cell the entry belongs into.
  if (isOnItsWay("moves")) return true;
  return state.text.startsWith("=") && state.pointed_from < 0 && scene?.text !== state.text;
}

function mustWait({ key, altKey, press }) {
  if (press) return isUnclear();
  if (dialogComes() || !scene) return true;
  if (!waits()) return false;
  if (opensSoon()) return true;
  const outOfStep = state.text?.startsWith("=") && scene?.text !== state.text;
  if (isOnItsWay("rehearses") && ["Enter", "Escape"].includes(key)) return true;
  return (
    isOnItsWay("rewrites") ||
    ((outOfStep || isOnItsWay("moves")) && (altKey || NEEDS_WORD.includes(key)))
  );
}

function release() {
  while (held.length && !mustWait(held[0])) {
    const event = held.shift();
    if (event.press) {
      event.press();
      continue;
    }
    const plain = !event.ctrlKey && !event.metaKey && !event.altKey;
    if (plain && event.key.length === 1) insert(event.key);
    else if (keyInDialog(event)) continue;
    else if (plain && event.key === "Backspace" && state.text !== null) insert("", 1);
    else {
      handle(event);
      if (!event.isUsed && plain) moveCaret(event);
    }
  }
}

// What the browser would have done with an arrow that had to wait.
function moveCaret({ key, shiftKey }) {
  const step = { ArrowLeft: -1, ArrowRight: 1 }[key];
  const place = document.activeElement;
  if (!step || state.text === null || place.tagName !== "INPUT") return;
  const { selectionStart, selectionEnd } = place;
  const to = Math.max((step < 0 ? selectionStart : selectionEnd) + step, 0);
  if (!shiftKey) place.setSelectionRange(to, to);
  else if (step < 0) place.setSelectionRange(to, selectionEnd, "backward");
  else place.setSelectionRange(selectionStart, to);
  place.dispatchEvent(new Event("select"));
}

function insert(text, back = 0) {
  const place = document.activeElement;
  if (place.tagName !== "INPUT") return;
  const from =
    place.selectionStart === place.selectionEnd
      ? place.selectionStart - back
      : place.selectionStart;
  place.setRangeText(text, Math.max(from, 0), place.selectionEnd, "end");
  place.dispatchEvent(new InputEvent("input", { bubbles: true }));
}

onScene(() => queueMicrotask(release));
onDialog(release);
