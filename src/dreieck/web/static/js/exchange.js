// The state of this page, and its exchange with the server: one request at a time, in order.
import { areaText, cell, span } from "./address.js";
import { problem, refusal } from "./refused.js";

const form = document.getElementById("bench");
const kept = document.getElementById("kept");

export const state = {
  sheet: Number(form.dataset.sheet), home: 0,
  left: 1, top: 1, anchor: "A1", focus: "A1", also: "",
  writing: "", text: null, caret: 0, flipped: false, fresh: false, pointed_from: -1,
  source: "", target: "", landing: "", values: "", step: "", view: "values",
  wait: localStorage.getItem("wait") === "yes", bare: localStorage.getItem("bare") === "yes", copied: "", aiming: -1, advice: false, trial: "", tried_at: "",
};
export let scene = null;

const queue = [];
const listeners = [];
const unkept = [];
let unreached = false;
let running = false;
let version = 0;
// The revision of the workbook that the places in the state are told of.
let revision = Number(form.dataset.revision);
let begunAt = 0;
let selectedAt = 0;
let endedAt = 0;
// Actions after which something else is selected.
const MOVING = ["go-to", "jump", "walk", "look-at", "show-sheet", "add-sheet", "land", "release", "paste", "paste-as", "insert-lines", "delete-lines"];

// Actions that begin, change or end a rehearsal.
const REHEARSING = ["stretch", "alongside", "rehearse", "release", "aim-at", "take-formula", "mend", "switch-values"];

// Actions that change the text that is written.
const TEXTUAL = ["point-at", "aim-anew", "lock"];
let sending = null;
const UNFINISHED_PAUSE = 200;

// Whether an answer is still to come, and whether it will change the text that is written.
export function waits() {
  return sending !== null || queue.length > 0;
}

export function textIsOnItsWay() {
  return [sending, ...queue].some((request) => TEXTUAL.includes(request?.action));
}

export function rehearsalIsOnItsWay() {
  return [sending, ...queue].some((request) => REHEARSING.includes(request?.action));
}

export function moveIsOnItsWay() {
  return [sending, ...queue].some((request) => MOVING.includes(request?.action));
}

export function onScene(listener) {
  listeners.push(listener);
}

// The area that is selected, as text.
export function selected() {
  return areaText(span(cell(state.anchor), cell(state.focus)));
}

// Changes the state; what the server answers to older states is then drawn, but not adopted.
export function set(changes) {
  // Another active cell ends the selection of several areas.
  if ("anchor" in changes && !("also" in changes)) state.also = "";
  Object.assign(state, changes);
  version += 1;
  if ("anchor" in changes) selectedAt = version;
  if (changes.target === "") endedAt = version;
}

// An entry was begun by typing; a move that is still on its way decides where.
export function begin(changes) {
  set(changes);
  begunAt = version;
}

// Asks the server to show the present state; several such wishes become one.
export function show(wish = {}) {
  cutShort();
  const waiting = queue.at(-1);
  if (waiting?.action === "show") Object.assign(waiting.wish, wish);
  else queue.push({ action: "show", wish });
  return run();
}

// Asks the server to do something, with the state that the requests before it lead to.
export function act(action, wish = {}) {
  cutShort();
  queue.push({ action, wish, asked: version });
  return run();
}

// The same for a gesture: of several wishes that still wait only the last one counts.
export function actLatest(action, wish) {
  if (queue.at(-1)?.action === action) queue.pop();
  return act(action, wish);
}

// The same for something that is no longer in the state when its turn comes.
export function actNow(action, wish = {}) {
  cutShort();
  queue.push({ action, wish, state: { ...state }, version, revision, asked: version });
  return run();
}

// Asks for values that had to wait, as long as the hands want nothing else.
function askForTheRest() {
  if (queue.length || sending) return;
  queue.push({ action: "show", wish: { patient: true }, idle: true });
  run();
}

function cutShort() {
  if (!sending?.idle) return;
  sending.isCut = true;
  htmx.trigger(form, "htmx:abort");
}

async function run() {
  if (running) return;
  running = true;
  form.dataset.busy = "yes";
  while (queue.length) {
    sending = queue.shift();
    await send(sending);
    sending = null;
    for (const listener of listeners) listener();
  }
  running = false;
  delete form.dataset.busy;
}

async function send(request) {
  const sent = request.state ?? { ...state };
  const begunSince = () => MOVING.includes(request.action) && state.fresh && begunAt > request.asked;
  if (begunSince()) Object.assign(sent, { text: null, writing: "" });
  const sentVersion = request.version ?? version;
  const sentRevision = request.revision ?? revision;
  const grid = document.getElementById("grid");
  const values = {
    ...sent, ...request.wish,
    revision: sentRevision, picture: scene?.picture ?? 0, width: grid.clientWidth, height: Math.max(grid.clientHeight - 30, 30),
  };
  for (const key of Object.keys(values)) if (values[key] === null) delete values[key];
  if (request.action !== "show") kept.textContent = "keeping …";
  const answered = await post(form.dataset.at + request.action, values);
  if (!answered && request.isCut) return;
  kept.classList.toggle("not", !answered);
  kept.textContent = answered ? "all changes kept" : "not kept";
  if (!answered) {
    // Only a request that took the entry out of the state brings it back.
    if (request.state && sent.text !== null) takeBack(sent);
    if (request.state && sent.target && !state.target) set({ source: sent.source, target: sent.target, values: sent.values });
    return;
  }
  unkept.length = 0;
  scene = wholeAgain(JSON.parse(document.getElementById("scene").dataset.scene), scene);
  const busyElsewhere = sentVersion !== version && state.text !== null;
  const adopted = (sentVersion === version && !begunSince()) || (scene.insists && !busyElsewhere);
  // Places that were not adopted still have to follow what others changed.
  if (adopted || scene.began === sentRevision) revision = scene.revision;
  for (const waiting of queue) {
    if (waiting.revision === sentRevision && scene.began === sentRevision) waiting.revision = scene.revision;
  }
  if (adopted) Object.assign(state, scene.state);
  else if (REHEARSING.includes(request.action) && endedAt <= request.asked) takeRehearsal(sent);
  else if (MOVING.includes(request.action) && (begunSince() || state.text === null)) goAlong(request);
  else if (scene.insists && sent.text !== null) tell(`${notice()} What was typed into ${sent.writing}: ${sent.text.slice(0, 300)}`);
  if (scene.unfinished) setTimeout(askForTheRest, UNFINISHED_PAUSE);
  if (adopted && !location.pathname.endsWith(`/${state.sheet}`)) history.replaceState(null, "", form.dataset.pages + state.sheet);
}

// Opens an entry again that was not kept; where another one is open by now, remembers what it was.
function takeBack({ sheet, home, writing, text, anchor, focus }) {
  if (state.text === null) return set({ sheet, home, writing, text, anchor, focus });
  unkept.push(`${writing}: ${text.slice(0, 300)}`);
  if (unreached) tellUnreached();
  else tell(`${notice()} What you typed was not kept: ${unkept.join(", ")}.`);
}

function tellUnreached() {
  const more = unkept.length ? ` Type again what is not open any more: ${unkept.join(", ")}.` : "";
  tell(`The server cannot be reached. What you typed is still here; try again when it is back.${more}`);
}

// Only the cells that differ are sent: the others are those of the picture before.
function wholeAgain(next, before) {
  if (!next.since) return next;
  const at = ({ column, row }) => `${column},${row}`;
  const cells = new Map(before.cells.map((cell) => [at(cell), cell]));
  for (const place of next.gone) cells.delete(String(place));
  for (const cell of next.cells) cells.set(at(cell), cell);
  next.cells = [...cells.values()];
  return next;
}

// The hands went on while a rehearsal began or changed: it is one unless they ended it, and its
// formula is that of the answer unless more was typed.
function takeRehearsal(sent) {
  const { source, target, landing, values, step, text, writing, flipped } = scene.state;
  Object.assign(state, { source, target, landing, values, step });
  if (state.text === sent.text) Object.assign(state, { text, writing, flipped });
}

// The hands went on while a move was under way: they did so on the sheet that it led to, and in
// the cell that it led to unless they chose another one.
function goAlong(request) {
  const { sheet, home, anchor, focus, left, top } = scene.state;
  Object.assign(state, { sheet, home });
  if (selectedAt > request.asked) return;
  Object.assign(state, { anchor, focus, left, top });
  if (state.text !== null) state.writing = anchor;
}

function post(url, values) {
  return new Promise((resolve) => {
    const done = (event) => {
      form.removeEventListener("htmx:afterRequest", done);
      const { xhr, successful } = event.detail;
      unreached = !xhr?.status && !sending.isCut;
      if (unreached) tellUnreached();
      else if (successful !== true && xhr?.status) tell(refusal(xhr.responseText));
      resolve(successful === true);
    };
    form.addEventListener("htmx:afterRequest", done);
    // What went wrong is told by the event above.
    htmx.ajax("POST", url, { source: form, target: form, swap: "none", values }).catch(() => {});
  });
}

export function hush() {
  document.getElementById("notice").replaceChildren();
}

function notice() {
  return document.getElementById("notice").textContent.trim();
}

// The revision at which an area that is copied stands where it does.
export function knownRevision() {
  return revision;
}

export function tell(text) {
  document.getElementById("notice").replaceChildren(problem(text));
}

// Another page changed the workbook: show its newer revision.
new EventSource(form.dataset.news).addEventListener("message", (event) => {
  if (scene && Number(event.data) > scene.revision) show();
});
