// The exchange with the server: one request at a time, in order, each of them until it is answered.
// docs/exchange.md draws it.
import { adoption, begunSince } from "./adopting.js";
import { fails, onLine, pause, tryNow, works } from "./line.js";
import { told as noticed, tell } from "./notice.js";
import { forget, leftBehind, newPiece, remember } from "./outbox.js";
import { room } from "./room.js";
import { cut, post } from "./sending.js";
import { BAR, set, state, times } from "./state.js";

const form = document.getElementById("page-state");
const EFFECTS = JSON.parse(form.dataset.effects);
const UNFINISHED_PAUSE = 200;
// A fault of the server's own may pass; one that does not is told.
const MAX_FAULTS = 3;
const SIGNED_OUT = 401;

export let scene = null;
// For which size of the grid a scene was asked last.
export let drawnFor = { width: 0, height: 0 };

const queue = [];
const listeners = [];
const askedListeners = [];
// What the server refused to keep, and is not open any more.
const unkept = [];
// Who waits until nothing is asked for any more.
const ends = [];
let sending = null;
let running = false;
// The revision of the workbook that the places in the state are told of.
let revision = Number(form.dataset.revision);

export function onScene(listener) {
  listeners.push(listener);
}

// Hears of every wish once the gesture that led to it is over, before the server does.
export function onAsked(listener) {
  askedListeners.push(listener);
}

// The revision at which an area that is copied stands where it does.
export function knownRevision() {
  return revision;
}

// Whether an answer is still to come.
export function waits() {
  return sending !== null || queue.length > 0;
}

// When all that was asked for has been answered, or the server cannot be reached. What the page tells
// of its own accord waits for that: the answer to an earlier action empties the notice.
export function whenAnswered() {
  cutShort();
  return waits() ? new Promise((resolve) => ends.push(resolve)) : Promise.resolve();
}

// What is not kept yet: pieces that wait, and those that were refused, which say why.
export function notKept() {
  const waiting = [sending, ...queue].filter((each) => each?.piece);
  return { waiting: waiting.filter((each) => !each.isOut), refused: [...unkept] };
}

export function allKept() {
  const { waiting, refused: aside } = notKept();
  return waiting.length + aside.length === 0;
}

// What was typed into a cell and is not kept yet.
export function notKeptIn(sheet, cell) {
  const { waiting, refused: aside } = notKept();
  const entries = [...aside, ...waiting].map(entryOf);
  return entries.findLast((each) => each?.sheet === sheet && each.cell === cell)?.text;
}

// The cell that a piece is an entry for, and what it is to hold.
export function entryOf({ action, state: own }) {
  if (action !== "enter" || own?.text == null || own.rule_for || own.proving >= 0) return null;
  return { sheet: own.home || own.sheet, cell: own.writing, text: own.text };
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
  showLast(wish);
  return run();
}

function showLast(wish) {
  const waiting = queue.at(-1);
  if (waiting?.action === "show") Object.assign(waiting.wish, wish);
  else queue.push({ action: "show", wish, asked: times.now });
}

// Asks the server to do something, with the state that the requests before it lead to.
export function act(action, wish = {}) {
  return join({ action, wish, asked: times.now });
}

// The same for a gesture: of several wishes that still wait only the last one counts.
export function actLatest(action, wish) {
  if (queue.at(-1)?.action === action) forget(queue.pop().piece);
  return act(action, wish);
}

// The same for something that is no longer in the state when its turn comes.
export function actNow(action, wish = {}) {
  const asked = times.now;
  const request = { action, wish, state: { ...state }, asked, sent: asked, revision };
  // What the gesture changes itself is not what the hands do later.
  queueMicrotask(() => (request.left = times.now));
  return join(request);
}

function join(request) {
  cutShort();
  request.piece = newPiece();
  remember({ revision, ...request, state: request.state ?? state });
  queue.push(request);
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
  cut();
}

async function run() {
  hear(askedListeners);
  if (running) return;
  running = true;
  form.dataset.busy = "yes";
  while (queue.length) {
    sending = queue.shift();
    // A fault in drawing one answer must not hold back what is still to be kept.
    await carry(sending).catch(tellLater);
    sending = null;
    hear(listeners);
  }
  running = false;
  delete form.dataset.busy;
  hear(ends.splice(0));
}

function tellLater(fault) {
  setTimeout(() => {
    throw fault;
  });
}

function hear(all) {
  for (const each of all) each();
}

// Sends a request until it is answered. A wish to be shown something gives way to what is to be kept.
async function carry(request) {
  for (let faults = 0, tries = 0; ; tries += 1) {
    const sent = told(request);
    const { answered, unreached, status, says, back } = await post(
      form.dataset.at + request.action,
      fields(request, sent),
    );
    if (request.isCut) return;
    if (answered) return received(request, sent);
    if (status >= 500) faults += 1;
    const again = unreached || status === SIGNED_OUT || (status >= 500 && faults < MAX_FAULTS);
    if (!again) return refused(request, sent, says, back);
    fails();
    if (request.idle) return setTimeout(askForTheRest, UNFINISHED_PAUSE * 10);
    if (!givesWay(request)) await pause(tries);
    if (request.isOut) return;
    if (givesWay(request)) return showLast(request.wish);
  }
}

function givesWay({ action }) {
  return action === "show" && queue.length > 0;
}

// The state that is sent with a request, each time the same: the server may have done it already.
function told(request) {
  if (request.told) return request.told;
  const sent = { ...(request.state ?? state) };
  // An entry begun since belongs into the cell that the move leads to, not into this one.
  if (!request.isLeft && begunSince({ request, does: does(request), now: state, times }))
    Object.assign(sent, { text: null, writing: "" });
  request.sent ??= times.now;
  request.revision ??= revision;
  if (!request.piece) return sent;
  request.told = sent;
  if (!request.state) remember({ ...request, state: sent });
  return sent;
}

function fields({ wish, piece, revision: known }, sent) {
  drawnFor = room();
  const values = {
    ...sent,
    ...wish,
    piece,
    revision: known,
    picture: scene?.picture ?? 0,
    width: Math.max(drawnFor.width - BAR, 60),
    height: Math.max(drawnFor.height - 30 - BAR, 30),
  };
  return Object.fromEntries(Object.entries(values).filter(([, value]) => value != null));
}

function received(request, sent) {
  works();
  if (request.piece) forget(request.piece);
  scene = wholeAgain(JSON.parse(document.getElementById("scene").dataset.scene), scene, sent);
  if (request.isLeft) return scene.refused && setAside(request, noticed());
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
  if (whole || inStep || !scene.moved) revision = scene.revision;
  for (const waiting of queue) {
    if (waiting.revision === request.revision && inStep) waiting.revision = scene.revision;
  }
  Object.assign(state, changes);
  if (lost) setAside({ ...request, state: sent }, noticed());
  if (scene.unfinished) setTimeout(askForTheRest, UNFINISHED_PAUSE);
}

// What the server does not do: opened again where the hands rest, or else set aside.
function refused(request, sent, says, back) {
  works();
  if (request.piece) forget(request.piece);
  const { sheet, home, writing, text, anchor, focus, source, target, values } = sent;
  const rests = times.now === request.left && state.text === null;
  if (request.isLeft || (request.state && !rests))
    return setAside({ ...request, state: sent }, says);
  tell(says, back);
  if (!request.state) return;
  if (text !== null) set({ sheet, home, writing, text, anchor, focus });
  if (target && !state.target) set({ source, target, values });
}

function setAside(request, why) {
  unkept.push({ ...request, why });
  remember({ ...request, why });
}

// Asks once more for what was refused, now that the page shows how things are.
export function sendAgain(piece) {
  const again = taken(unkept, piece);
  if (again) join({ ...again, why: undefined, told: undefined, isLeft: true, revision });
}

// Gives a piece up that waits or was refused.
export function takeOut(piece) {
  if (sending?.piece === piece) {
    sending.isOut = true;
    forget(piece);
    tryNow();
  } else if (!taken(unkept, piece)) taken(queue, piece);
  show();
}

function taken(list, piece) {
  const at = list.findIndex((each) => each.piece === piece);
  if (at < 0) return null;
  forget(piece);
  return list.splice(at, 1)[0];
}

// What was left behind by pages that were closed comes before all else.
for (const { why, ...left } of leftBehind()) {
  const request = { ...left, asked: 0, sent: 0, isLeft: true };
  if (why) unkept.push({ ...request, why });
  else queue.push(request);
}

// Only what differs is sent: the rest is that of the picture before, and of the state that was sent.
function wholeAgain(next, before, sent) {
  if (!next.since) return next;
  const state = Object.fromEntries(Object.keys(before.state).map((name) => [name, sent[name]]));
  next = { ...before, ...next, state: { ...state, ...next.state } };
  next.charts = next.charts.map((chart) => ({
    ...chart,
    drawn: chart.drawn ?? before.charts.find(({ number }) => number === chart.number)?.drawn,
  }));
  if (!next.cells.length && !next.gone.length) return { ...next, cells: before.cells };
  const at = ({ column, row }) => `${column},${row}`;
  const cells = new Map(before.cells.map((cell) => [at(cell), cell]));
  for (const place of next.gone) cells.delete(String(place));
  for (const cell of next.cells) cells.set(at(cell), cell);
  return { ...next, cells: [...cells.values()] };
}

// Who waits for answers does not wait for a server that is not there.
onLine(() => {
  hear(ends.splice(0));
  hear(askedListeners);
});

// Another page changed the workbook: show its newer revision.
new EventSource(form.dataset.news).addEventListener("message", (event) => {
  tryNow();
  if (scene && Number(event.data) > scene.revision) show();
});
