// Keys and presses that come before the server's word on those before them wait here, in order.
import { dialogComes, keyInDialog, onDialog } from "./asking.js";
import { isOnItsWay, onScene, scene, waits } from "./exchange.js";
import { isDown, onLine } from "./line.js";
import { state } from "./state.js";
import { suggests } from "./suggesting.js";
import { types } from "./layouts.js";
import { insert, typeLate } from "./typing.js";
import { activeCell, opensSoon, writingNow } from "./writing.js";

const NEEDS_WORD = ["Tab", "Enter", "ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown"];
const held = [];
let handle = null;
let isLeaving = false;

// Keeps a key for later if its turn has not come, and tells so.
export function holdBack(event) {
  if (event.isComposing || (!held.length && !mustWait(event))) return false;
  if (["Shift", "Control", "Alt", "Meta"].includes(event.key) || loadsAnew(event)) return false;
  // What is pasted comes as an event of its own, and waits then.
  if (pastes(event)) return false;
  event.preventDefault();
  const { key, code, ctrlKey, metaKey, altKey, shiftKey } = event;
  const isTyped = key.length === 1 && types(event);
  held.push({ key, code, ctrlKey, metaKey, altKey, shiftKey, isTyped, preventDefault: noted });
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

function pastes({ key, ctrlKey, metaKey, altKey }) {
  return (ctrlKey || metaKey) && !altKey && key.toLowerCase() === "v";
}

// The same for what is pasted: into the entry that is open then, or else as cells.
export function holdPaste(text, asCells) {
  const paste = () =>
    writingNow() || document.activeElement !== activeCell ? insert(text) : asCells(text);
  if (!held.length && !mustWait({ paste })) return false;
  held.push({ paste });
  return true;
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

function mustWait(event) {
  const { key, press, paste } = event;
  const altKey = event.altKey && !(event.isTyped ?? (!press && !paste && types(event)));
  if (press) return isUnclear();
  if (paste) return mustWait({ key: "Tab" });
  if (dialogComes() || !scene) return true;
  if (!waits()) return false;
  // Without a line hands go on; only where entries go is still the server's word.
  if (isLeaving || isDown()) return isOnItsWay("moves") && (altKey || NEEDS_WORD.includes(key));
  if (opensSoon()) return true;
  const outOfStep = state.text?.startsWith("=") && scene?.text !== state.text;
  if (isOnItsWay("rehearses") && ["Enter", "Escape"].includes(key)) return true;
  // Whether there is still something to be suggested decides what it closes.
  if (outOfStep && key === "Escape") return suggests();
  return (
    isOnItsWay("rewrites") ||
    ((outOfStep || isOnItsWay("moves")) && (altKey || NEEDS_WORD.includes(key)))
  );
}

function release() {
  while (held.length && !mustWait(held[0])) {
    const event = held.shift();
    if (event.press ?? event.paste) {
      (event.press ?? event.paste)();
      continue;
    }
    const { isTyped } = event;
    if (isTyped && document.activeElement !== activeCell) insert(event.key);
    else if (keyInDialog(event)) continue;
    else {
      handle(event);
      if (event.isUsed) continue;
      if (isTyped) insert(event.key);
      else typeLate(event);
    }
  }
}

onScene(() => queueMicrotask(release));
onDialog(release);
onLine(release);

// What waits for its turn when the page is left is done as far as its place is known.
addEventListener("pagehide", () => {
  isLeaving = true;
  release();
  isLeaving = false;
});
