// The exchange with the server: one request at a time, in order. docs/exchange.md draws it.
import { adoption, begunSince } from "./adopting.js";
import { refusal, tell, told } from "./notice.js";
import { BAR, set, state, times } from "./state.js";

const form = document.getElementById("page-state");
const kept = document.getElementById("kept");
const EFFECTS = JSON.parse(form.dataset.effects);
const UNFINISHED_PAUSE = 200;

export let scene = null;
// For which size of the grid a scene was asked last.
export let drawnFor = { width: 0, height: 0 };

const queue = [];
const listeners = [];
// Entries that could not be kept, and that are open no more.
const unkept = [];
// Who waits until nothing is asked for any more.
const ends = [];
let sending = null;
let running = false;
let unreached = false;
// The revision of the workbook that the places in the state are told of.
let revision = Number(form.dataset.revision);

export function onScene(listener) {
  listeners.push(listener);
}

// The revision at which an area that is copied stands where it does.
export function knownRevision() {
  return revision;
}

// Whether an answer is still to come.
export function waits() {
  return sending !== null || queue.length > 0;
}

// When all that was asked for has been answered. What the page tells of its own accord waits for
// that: the answer to an earlier action empties the notice.
export function whenAnswered() {
  cutShort();
  return waits() ? new Promise((resolve) => ends.push(resolve)) : Promise.resolve();
}

// Whether all that was entered is kept, as far as the server has said.
export function allKept() {
  return unkept.length === 0 && !kept.classList.contains("not");
}

// The states with entries that the server has not been asked to keep yet.
export function unsent() {
  return queue.map((request) => request.state).filter((sent) => sent?.text);
}

// Whether an answer is still to come to an action that `moves`, `rehearses` or `rewrites`.
export function isOnItsWay(effect) {
  return [sending, ...queue].some((request) => request && does(request)[effect]);
}

function does({ action }) {
  return Object.fromEntries(
    Object.keys(EFFECTS).map((effect) => [effect, EFFECTS[effect].includes(action)]),
  );
}

// Asks the server to show the present state; several such wishes become one.
export function show(wish = {}) {
  cutShort();
  const waiting = queue.at(-1);
  if (waiting?.action === "show") Object.assign(waiting.wish, wish);
  else queue.push({ action: "show", wish, asked: times.now });
  return run();
}

// Asks the server to do something, with the state that the requests before it lead to.
export function act(action, wish = {}) {
  cutShort();
  queue.push({ action, wish, asked: times.now });
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
  queue.push({ action, wish, state: { ...state }, sent: times.now, revision, asked: times.now });
  return run();
}

// Asks for values that had to wait, as long as the hands want nothing else.
function askForTheRest() {
  if (waits()) return;
  queue.push({ action: "show", wish: { patient: true }, idle: true, asked: times.now });
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
  for (const end of ends.splice(0)) end();
}

async function send(request) {
  const sent = request.state ?? { ...state };
  // An entry begun since belongs into the cell that the move leads to, not into this one.
  if (begunSince({ request, does: does(request), now: state, times }))
    Object.assign(sent, { text: null, writing: "" });
  request.sent ??= times.now;
  request.revision ??= revision;
  if (request.action !== "show") kept.textContent = "keeping …";
  const answered = await post(form.dataset.at + request.action, fields(request, sent));
  if (!answered && request.isCut) return;
  kept.classList.toggle("not", !answered);
  kept.textContent = answered ? "all changes kept" : "not kept";
  if (answered) received(request, sent);
  // Only a request that took something out of the state brings it back.
  else if (request.state) takeBack(sent);
}

function fields(request, sent) {
  const grid = document.getElementById("grid");
  drawnFor = { width: grid.clientWidth, height: grid.clientHeight };
  const values = {
    ...sent,
    ...request.wish,
    revision: request.revision,
    picture: scene?.picture ?? 0,
    width: Math.max(grid.clientWidth - BAR, 60),
    height: Math.max(grid.clientHeight - 30 - BAR, 30),
  };
  return Object.fromEntries(Object.entries(values).filter(([, value]) => value !== null));
}

function received(request, sent) {
  unkept.length = 0;
  scene = wholeAgain(JSON.parse(document.getElementById("scene").dataset.scene), scene);
  const { whole, changes, lost } = adoption({
    request,
    does: does(request),
    sent,
    now: state,
    times,
    answer: scene,
  });
  // Places that were not adopted still have to follow what others changed.
  const inStep = scene.began === request.revision;
  if (whole || inStep) revision = scene.revision;
  for (const waiting of queue) {
    if (waiting.revision === request.revision && inStep) waiting.revision = scene.revision;
  }
  Object.assign(state, changes);
  if (lost) tell(`${told()} What was typed into ${sent.writing}: ${sent.text.slice(0, 300)}`);
  if (scene.unfinished) setTimeout(askForTheRest, UNFINISHED_PAUSE);
}

// Opens again what was not kept; where another entry is open by now, remembers what it was.
function takeBack(sent) {
  const { sheet, home, writing, text, anchor, focus, source, target, values } = sent;
  if (text !== null && state.text === null) set({ sheet, home, writing, text, anchor, focus });
  else if (text !== null) {
    unkept.push(`${writing}: ${text.slice(0, 300)}`);
    if (unreached) tellUnreached();
    else tell(`${told()} What you typed was not kept: ${unkept.join(", ")}.`);
  }
  if (target && !state.target) set({ source, target, values });
}

function tellUnreached() {
  const more = unkept.length ? ` Type again what is not open any more: ${unkept.join(", ")}.` : "";
  tell(
    `The server cannot be reached. What you typed is still here; try again when it is back.${more}`,
  );
}

// Only cells and charts that differ are sent: the others are those of the picture before.
function wholeAgain(next, before) {
  if (!next.since) return next;
  const at = ({ column, row }) => `${column},${row}`;
  const cells = new Map(before.cells.map((cell) => [at(cell), cell]));
  for (const place of next.gone) cells.delete(String(place));
  for (const cell of next.cells) cells.set(at(cell), cell);
  next.cells = [...cells.values()];
  for (const chart of next.charts)
    chart.drawn ??= before.charts.find(({ number }) => number === chart.number)?.drawn;
  return next;
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

// Another page changed the workbook: show its newer revision.
new EventSource(form.dataset.news).addEventListener("message", (event) => {
  if (scene && Number(event.data) > scene.revision) show();
});
