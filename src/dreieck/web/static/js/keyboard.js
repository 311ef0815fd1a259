// Keys: what each of them asks for. Which keys there are is told by the page.
import { perform } from "./acting.js";
import { OWN_ACTS, help } from "./acts.js";
import { chartKey } from "./charts.js";
import { cell } from "./address.js";
import { act, scene, show } from "./exchange.js";
import { hush } from "./notice.js";
import { set, state } from "./state.js";
import { enter, go, page, tab } from "./moving.js";
import { handOver, holdBack } from "./holding.js";
import { suggestionKey } from "./suggesting.js";
import { desk, discard, drop, inCell, keep, land, writingNow } from "./writing.js";

const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
const form = document.getElementById("page-state");
const KEYS = JSON.parse(form.dataset.keys);
const goTo = document.getElementById("address");

function pressed(event) {
  if (event.isComposing || event.defaultPrevented || suggestionKey(event)) return;
  const here = document.activeElement;
  const ours =
    here === desk ||
    here === inCell ||
    here === document.body ||
    here.closest("#panel, .desk, .above-grid, .band, .chart");
  if (here === goTo) return inAddress(event);
  if (!ours || document.querySelector("dialog[open]")) return;
  const modifiers = [
    event.ctrlKey || event.metaKey ? "ctrl" : "",
    event.altKey ? "alt" : "",
    event.shiftKey ? "shift" : "",
  ]
    .filter(Boolean)
    .join(" ");
  const key = KEYS.find((each) => each.code === event.code && each.modifiers === modifiers);
  // While an entry is written, its own undo is the browser's.
  if (key && !(writingNow() && ["undo", "redo"].includes(key.action) && !state.target))
    done(event, OWN_ACTS[key.act] ?? (() => perform(key.action, key.wish)));
  else if (here.closest(".band")) inBand(event);
  else if (here.closest(".chart")) {
    if (chartKey(event)) event.preventDefault();
  } else if (event.key in ARROWS) arrow(event, ARROWS[event.key], modifiers);
  else if (here.tagName === "INPUT" || here === document.body) other(event, here);
}

function arrow(event, [columns, rows], modifiers) {
  if (modifiers === "alt") return done(event, () => act("stretch", { columns, rows }));
  if (modifiers === "alt shift") return done(event, () => act("alongside", { columns, rows }));
  const widen = modifiers.includes("shift");
  if (writingNow() && !state.target) return whileWriting(event, columns, rows, widen, modifiers);
  if (state.target || document.activeElement.closest("#panel input")) return;
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

function other(event, here) {
  const { key, shiftKey } = event;
  if (here.closest("#panel")) {
    if (key === "Escape") done(event, leavePanel);
    return;
  }
  if (key === "Enter" && state.target) done(event, () => land());
  else if (key === "Escape") done(event, escape);
  else if (key === "Enter") done(event, () => enter(shiftKey ? "up" : "down"));
  else if (key === "Tab") done(event, () => tab(shiftKey ? "left" : "right"));
  else if (writingNow() || state.target) return;
  else if (key === "Delete" || key === "Backspace") done(event, () => act("clear"));
  else if (key === "PageDown" || key === "PageUp")
    done(event, () => page(key === "PageDown" ? 1 : -1, shiftKey));
  else if (key === "Home")
    done(event, () =>
      event.ctrlKey ? act("go-to", { to: "A1" }) : go(1 - cell(state.focus)[0], 0, shiftKey),
    );
  else if (key === "?") done(event, help);
}

function done(event, action) {
  event.preventDefault();
  action();
}

// From the panel back to the cells; what was aimed there is over.
function leavePanel() {
  if (state.aiming >= 0) act("stop-aim");
  inCell.focus();
}

function escape() {
  if (state.aiming >= 0) act("stop-aim");
  else if (state.target) drop();
  else if (writingNow()) discard();
  else if (state.look_taken) giveNoMore();
  else if (state.trial) act("give-back");
  else if (state.anchor !== state.focus) go(0, 0, false);
}

function giveNoMore() {
  set({ look_taken: "" });
  hush();
  show();
}

// In the band of looks keys do what they do in any form.
function inBand(event) {
  if (event.key === "Escape") done(event, () => inCell.focus());
}

function inAddress(event) {
  if (event.key === "Enter") act("go-to", { to: goTo.value.trim() });
  else if (event.key === "Escape") goTo.value = state.anchor;
  else return;
  event.preventDefault();
  inCell.focus();
}

handOver(pressed);
document.addEventListener("keydown", (event) => {
  if (!holdBack(event)) pressed(event);
});
