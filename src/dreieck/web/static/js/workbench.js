// Puts the workbench together: every scene is drawn, every control asks for its action.
import { linked, onAddress, tellAddress } from "./returning.js";
import "./drafts.js";
import { perform } from "./acting.js";
import { OWN_ACTS, openFile, pointName, setView } from "./acts.js";
import "./commands.js";
import { drawCharts, focusChosen } from "./charts.js";
import { ask, closeWhenDone, dialogComes } from "./asking.js";
import { pasteAs } from "./clipboard.js";
import { acceptFiles } from "./dropping.js";
import { act, drawnFor, onAsked, onScene, scene, show, waits } from "./exchange.js";
import { active, set, state } from "./state.js";
import { drawCells, drawNotKept, markSelected } from "./grid.js";
import { grid } from "./places.js";
import "./keyboard.js";
import "./leaving.js";
import { drawOverlay } from "./overlay.js";
import "./touching.js";
import "./pointing.js";
import "./folding.js";
import { tellPlace } from "./hearing.js";
import "./keeping.js";
import "./regions.js";
import { rove } from "./roving.js";
import "./staying.js";
import { drawSuggestions } from "./suggesting.js";
import { drawBars } from "./scrolling.js";
import { drawWriting, toCells } from "./writing.js";

acceptFiles(openFile);

const dialog = document.getElementById("dialog");

function draw() {
  if (!scene) return;
  drawCells();
  drawOverlay();
  drawCharts().then(focusChosen);
  drawWriting();
  drawBars();
  drawSuggestions();
  rove();
  drawPlace();
  tellAddress();
  // Of many sheets the one that is shown is in view, with its button.
  const current = document.querySelector("#sheets [aria-current]");
  for (const each of [current?.nextElementSibling, current])
    each?.scrollIntoView({ inline: "nearest", block: "nearest" });
  document.getElementById("start-fast").hidden =
    scene.cells.length > 0 || scene.used[1] > 1 || state.text !== null;
}

// Where the hands are: nothing of this needs the server.
function drawPlace() {
  markSelected();
  const address = document.getElementById("address");
  if (document.activeElement !== address)
    address.value = state.proving >= 0 ? "proof" : state.writing || active();
}

// What the page knows itself is seen at once; desk, panel and foot say that they wait.
function drawAtOnce() {
  if (!scene) return;
  drawPlace();
  drawNotKept();
  drawOverlay();
  drawWriting();
  tellPlace();
  tellWaiting();
}

function tellWaiting() {
  for (const part of document.querySelectorAll("#desk-lower, #panel, #foot"))
    part.setAttribute("aria-busy", String(waits()));
}

let isAsked = false;
onAsked(() => {
  if (isAsked) return;
  isAsked = true;
  // The gesture may change more of the state behind its wish.
  queueMicrotask(() => {
    isAsked = false;
    drawAtOnce();
  });
});
onScene(draw);
onScene(tellWaiting);

const CONTROLS =
  "[data-action], [data-act], [data-paste], [data-step], [data-view], [data-ask], [data-close]";
let pressed = null;

document.addEventListener("click", (event) => {
  const control = event.target.closest(CONTROLS);
  if (!control) return;
  event.preventDefault();
  // Who presses a switch or a tab by key stays there; a sheet, a mend or a step lead to the cells.
  const stays =
    event.detail === 0 &&
    control.matches(
      "[role=radio], [role=tab], .band button, .tile, .history button, [data-action=walk]",
    );
  used(control, stays);
});

// What is pressed may be drawn anew before the button comes up again: then no click follows.
document.addEventListener(
  "pointerdown",
  (event) => {
    const control = event.target.closest(CONTROLS);
    const link = event.target.closest("a[href]");
    pressed = { control, link, x: event.clientX, y: event.clientY };
  },
  true,
);

document.addEventListener(
  "pointerup",
  (event) => {
    const still = pressed && Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) < 6;
    const { control, link } = still ? pressed : {};
    if (control && !control.isConnected) used(control);
    else if (!control && link && !link.isConnected) drawnAnew(link)?.click();
    pressed = null;
  },
  true,
);

// The link that stands for another one by now; it may lead to what is selected since.
function drawnAnew({ href, textContent }) {
  const all = [...document.links];
  return (
    all.find((each) => each.href === href) ?? all.find((each) => each.textContent === textContent)
  );
}

const TAKES_FOCUS = [
  "write",
  "write-in-cell",
  "next-region",
  "previous-region",
  "to-desk",
  "to-panel",
  "to-sheets",
  "to-top",
  "help",
  "looks",
  "address",
  "find",
  "find-alike",
  "replace-all",
];

function used(control, byKey = false) {
  const { action, act: own, step, view, ask: question, close, paste, ...wish } = control.dataset;
  if (close !== undefined) dialog.close();
  if (question) return ask(question);
  if (paste) pasteAs(paste);
  else if (action) perform(action, wish);
  else if (own) OWN_ACTS[own]();
  else if (view) setView(view);
  else if (step) {
    set({ step, chart: 0 });
    show();
  }
  if (
    !TAKES_FOCUS.includes(own) &&
    !document.activeElement?.closest(".line, dialog[open]") &&
    !byKey
  )
    toCells();
}

document.querySelector(".above-grid").addEventListener(
  "wheel",
  (event) => {
    document.getElementById("sheets").scrollLeft += event.deltaY + event.deltaX;
  },
  { passive: true },
);

// A choice of several is an action with what was chosen.
document.addEventListener("change", ({ target }) => {
  const { choose, as, ...wish } = target.dataset;
  if (!choose) return;
  act(choose, { ...wish, [as]: target.value });
  toCells();
});

// How fills are done is remembered in this browser.
document.addEventListener("change", (event) => {
  const name = event.target.dataset.keeps;
  if (!name) return;
  localStorage.setItem(name, event.target.checked ? "yes" : "no");
  set({ [name]: event.target.checked });
  show();
});

document.addEventListener("submit", (event) => {
  const form = event.target.closest("[data-form]");
  if (!form) return;
  event.preventDefault();
  if (dialogComes()) return;
  // A choice of several is sent as lines.
  const fields = new FormData(form);
  perform(
    form.dataset.form,
    Object.fromEntries([...fields.keys()].map((key) => [key, fields.getAll(key).join("\n")])),
  );
  if (form.closest("dialog")) closeWhenDone();
  else toCells();
});

dialog.addEventListener("close", toCells);

// A link from another page names the cell to show, or the name that is to be pointed anew.
const link = new URLSearchParams(location.search);
if (linked) act("go-to", { to: linked });
onAddress((to) => act("go-to", { to }));
if (link.get("at")) act("go-to", { to: link.get("at") });
if (link.get("came")) act("look-around");
if (link.get("proof")) act("change-proof", { index: link.get("proof") });
if (link.get("show")) act("show-proof", { index: link.get("show") });
if (link.get("since")) act("show-break", { index: link.get("since") });
if (link.get("aim")) pointName(link.get("aim"));
// What was drawn is enough for a grid that has become smaller, but the cell that is worked at stays
// in view.
new ResizeObserver(() => {
  const grew = grid.clientWidth > drawnFor.width || grid.clientHeight > drawnFor.height;
  const frame = grid.getBoundingClientRect();
  const cell = scene && document.querySelector(`td[data-cell="${active()}"]`);
  const { left, bottom } = cell?.getBoundingClientRect() ?? frame;
  if (bottom > frame.bottom || left > frame.right) show({ reveal: active() });
  else if (grew) show();
}).observe(grid);
document.fonts.ready.then(draw);
toCells();
