// What the page does of itself, by name: keys, buttons and the list of commands ask for it.
import { chartPictures, leaveChart } from "./charts.js";
import { ask } from "./asking.js";
import { copy, pasteByButton } from "./clipboard.js";
import { note } from "./notice.js";
import { act, allKept, show, whenAnswered } from "./exchange.js";
import { closeFinder, findAlike, openFinder, replaceAll } from "./finder.js";
import { unfold } from "./folding.js";
import { enter, selectLines } from "./moving.js";
import { nextRegion, toRegion } from "./regions.js";
import { placeAddress } from "./returning.js";
import { active, selected, set, state } from "./state.js";
import { desk, discard, drop, inCell, keep, land, write, writingNow } from "./writing.js";

const form = document.getElementById("page-state");
let pointed = "";

export const OWN_ACTS = {
  write: () => write(desk),
  "write-in-cell": writeInCell,
  "whole-columns": () => selectLines(0),
  "whole-rows": () => selectLines(1),
  "next-region": () => nextRegion(1),
  "previous-region": () => nextRegion(-1),
  "to-desk": () => toRegion("desk"),
  "to-grid": () => toRegion("grid"),
  "to-panel": () => toRegion("panel"),
  "to-sheets": () => toRegion("sheets"),
  "to-top": () => toRegion("top"),
  mend: mendFirst,
  "shift-log": shiftLog,
  "copy-link": copyLink,
  keep: () => (state.target ? land() : enter("down")),
  discard,
  drop,
  "next-view": nextView,
  address: () => document.getElementById("address").select(),
  name: () =>
    ask(
      `${form.dataset.names}/dialog?sheet=${state.sheet}&area=${selected()}&name=${takePointed()}`,
    ),
  about,
  "this-sheet": () => document.querySelector("#sheets [data-ask]").click(),
  looks: () => {
    unfold("looks");
    document.querySelector("#band select").focus();
  },
  look: () => (state.look_taken ? act("give-look") : act("take-look")),
  order: () => ask(`${form.dataset.pages}${state.sheet}/order?area=${selected()}`),
  numbers: () => ask(`${form.dataset.pages}${state.sheet}/numbers`),
  practise: () => location.assign(`${form.dataset.pages}${state.sheet}/practice?at=${active()}`),
  feeds: () => location.assign(form.dataset.names.replace(/names$/, "feeds")),
  keys: () => location.assign(`/keys?of=${form.dataset.at.split("/")[2]}`),
  files: askFiles,
  "open-file": openFile,
  commands: () => ask(`${form.dataset.pages}${state.sheet}/commands`),
  find: openFinder,
  "close-finder": closeFinder,
  "find-alike": findAlike,
  "replace-all": replaceAll,
  "chart-svg": chartPictures.svg,
  "chart-png": chartPictures.png,
  "leave-chart": leaveChart,
  help,
  "copy-working": copyWorking,
  copy: () => copy(false),
  cut: () => copy(true),
  paste: pasteByButton,
};

// What is being written is kept first: files leave the page.
function askFiles() {
  if (writingNow()) keep("");
  return ask(`${form.dataset.files}?sheet=${state.sheet}`);
}

// The dialog of all files gives way to the one that asks for a file.
export async function openFile() {
  document.getElementById("dialog").close();
  if (writingNow()) keep("");
  await ask("/files");
}

function nextView() {
  const views = ["values", "formulas", "both"];
  setView(views[(views.indexOf(state.view) + 1) % views.length]);
}

export function setView(view) {
  set({ view });
  for (const button of document.querySelectorAll("[data-view]"))
    button.setAttribute("aria-checked", String(button.dataset.view === view));
  show({ reveal: state.anchor });
}

// The next name that is given is this one: it is to stand for what is selected then.
export function pointName(name) {
  pointed = name;
  act("name-anew", { to: name });
}

function takePointed() {
  const name = pointed;
  pointed = "";
  return encodeURIComponent(name);
}

// While an entry is written, its arrows point, or move the caret.
function writeInCell() {
  if (writingNow()) set({ fresh: !state.fresh });
  else write(inCell);
}

function mendFirst() {
  const first = document.querySelector("#panel .mend [data-action=mend]");
  if (first) first.click();
  else note("Nothing is found here that a mend is known for.");
}

async function shiftLog() {
  if (writingNow()) keep("");
  await whenAnswered();
  if (allKept()) location.assign(`${form.dataset.pages}${state.sheet}/log?cell=${active()}`);
}

async function copyLink() {
  const place = selected();
  await navigator.clipboard.writeText(location.origin + placeAddress());
  await whenAnswered();
  note(`A link to ${place} is copied.`);
}

async function copyWorking() {
  await navigator.clipboard.writeText(document.getElementById("working").dataset.text);
  await whenAnswered();
  note("The working is copied as text.");
}

// What can be done with the selection.
export function about() {
  if (state.target) return;
  if (writingNow()) keep("");
  ask(`${form.dataset.pages}${state.sheet}/selection?area=${selected()}&name=${takePointed()}`);
}

export function help() {
  return ask("/guide/keys");
}
