// The queue of what is asked of the server: one after the other, in order, nothing twice.
import assert from "node:assert/strict";
import { beforeEach, test } from "node:test";
import { openPage } from "./skeleton.mjs";

openPage();
const {
  act,
  actLatest,
  actNow,
  allKept,
  isOnItsWay,
  notKept,
  notKeptIn,
  sendAgain,
  show,
  takeOut,
  waits,
  whenAnswered,
} = await import("#js/exchange.js");
await import("#js/keeping.js");
const { tryNow } = await import("#js/line.js");
const { begin, set, state } = await import("#js/state.js");
const notice = document.getElementById("notice");
const kept = document.getElementById("kept");
const outbox = document.getElementById("outbox");
const settled = () => new Promise(setImmediate);

const asked = () => htmx.asked.map(({ action }) => action);

beforeEach(async () => {
  while (waits()) await htmx.answer();
  htmx.asked.length = 0;
  notice.replaceChildren();
  set({ anchor: "A1", focus: "A1", writing: "", text: null, fresh: false, target: "" });
});

test("one thing is asked at a time, in order", async () => {
  act("enter");
  act("undo");
  act("clear");
  assert.deepEqual(asked(), ["enter"]);
  await htmx.answer();
  assert.deepEqual(asked(), ["enter", "undo"]);
  await htmx.answer();
  await htmx.answer();
  assert.deepEqual(asked(), ["enter", "undo", "clear"]);
  assert.ok(!waits());
});

test("wishes to be shown something become one, with all that they ask for", async () => {
  act("enter");
  show({ reveal: "B7" });
  show({ patient: true });
  await htmx.answer();
  assert.deepEqual(asked(), ["enter", "show"]);
  assert.equal(htmx.open.values.reveal, "B7");
  assert.equal(htmx.open.values.patient, true);
});

test("of a gesture only the last wish counts, as far as it waits", async () => {
  actLatest("stretch", { rows: 1 });
  actLatest("stretch", { rows: 2 });
  actLatest("stretch", { rows: 3 });
  await htmx.answer();
  await htmx.answer();
  assert.deepEqual(
    htmx.asked.map(({ values }) => values.rows),
    [1, 3],
  );
});

test("what waits is sent with the state that those before it lead to", async () => {
  act("jump");
  act("clear");
  await htmx.answer({ anchor: "A9", focus: "A9" });
  assert.equal(htmx.open.values.anchor, "A9");
});

test("an entry is sent with the state of the moment in which it was kept", async () => {
  act("undo");
  set({ writing: "B2", text: "33" });
  actNow("enter");
  set({ writing: "", text: null, anchor: "B3", focus: "B3" });
  assert.equal(notKeptIn(1, "B2"), "33");
  await htmx.answer();
  assert.equal(htmx.open.values.text, "33");
  assert.equal(state.anchor, "B3");
});

test("an entry that is begun while a move is on its way goes where that leads", async () => {
  act("jump");
  begin({ writing: "A1", text: "4", fresh: true });
  await htmx.answer({ anchor: "A9", focus: "A9" });
  assert.deepEqual([state.writing, state.text], ["A9", "4"]);
});

test("what is under way is known by its effect", async () => {
  act("undo");
  act("stretch");
  assert.ok(isOnItsWay("rehearses") && !isOnItsWay("moves"));
  await htmx.answer();
  await htmx.answer();
  assert.ok(!isOnItsWay("rehearses"));
});

test("who waits for all answers waits for the last one", async () => {
  let done = false;
  act("enter");
  act("undo");
  whenAnswered().then(() => (done = true));
  await htmx.answer();
  assert.ok(!done);
  await htmx.answer();
  assert.ok(done);
});

// An entry that is kept; what the page does of itself behind it is over when this returns.
async function keep(cell, text) {
  set({ writing: cell, text });
  actNow("enter");
  set({ writing: "", text: null });
  await Promise.resolve();
}

test("an entry that is refused under resting hands is open again, and why is told", async () => {
  await keep("B2", "=(");
  assert.equal(kept.textContent, "keeping 1 …");
  await htmx.refuse("A bracket is not closed.");
  assert.deepEqual([state.writing, state.text], ["B2", "=("]);
  assert.match(notice.textContent, /bracket/);
  assert.ok(allKept());
});

test("one that is refused while something else is written is listed until it is sent again", async () => {
  await keep("B2", "33");
  set({ writing: "B3", text: "4" });
  await htmx.refuse("Not now.");
  assert.deepEqual([state.writing, state.text], ["B3", "4"]);
  assert.match(outbox.textContent, /B2: 33 Not now\./);
  assert.equal(kept.textContent, "1 not kept");
  const [{ piece }] = notKept().refused;
  sendAgain(piece);
  assert.equal(htmx.open.values.text, "33");
  assert.notEqual(htmx.open.values.piece, piece);
  while (waits()) await htmx.answer();
  assert.equal(kept.textContent, "all changes kept");
  assert.ok(outbox.hidden);
});

test("what fails on the way is sent again as it was, before all that was asked for later", async () => {
  await keep("B2", "33");
  await keep("B3", "34");
  const { values } = htmx.open;
  for (const fault of [() => htmx.fail(), () => htmx.refuse("busy", 503), () => htmx.fail()]) {
    await fault();
    set({ anchor: "F9" });
    tryNow();
    await settled();
    assert.deepEqual(htmx.open.values, values);
  }
  assert.equal(Object.keys(localStorage).length, 2);
  await htmx.answer();
  assert.equal(htmx.open.values.text, "34");
  await htmx.answer();
  assert.equal(Object.keys(localStorage).length, 0);
});

test("a picture gives way to what is to be kept when it fails", async () => {
  show({ reveal: "B7" });
  act("clear");
  await htmx.fail();
  assert.deepEqual(asked(), ["show", "clear"]);
  await htmx.answer();
  assert.equal(htmx.open.values.reveal, "B7");
});

test("a fault of the server that does not pass is told, and holds nothing else up", async () => {
  act("clear");
  act("undo");
  for (let count = 0; count < 3; count += 1) {
    assert.equal(htmx.open.action, "clear");
    await htmx.refuse("Something went wrong here.", 500);
    tryNow();
    await settled();
  }
  assert.match(notice.textContent, /went wrong/);
  assert.equal(htmx.open.action, "undo");
});

test("what waits can be taken out", async () => {
  await keep("B2", "33");
  await keep("B3", "34");
  takeOut(notKept().waiting[1].piece);
  await htmx.answer();
  while (waits()) await htmx.answer();
  assert.ok(!htmx.asked.some(({ values }) => values.text === "34"));
});

test("a revision that others made is taken on by what still waits", async () => {
  act("enter");
  actNow("clear");
  await htmx.answer({}, { revision: 9, began: 7 });
  assert.equal(htmx.open.values.revision, 9);
});

test("what others did elsewhere is known to what is asked later, unless places moved", async () => {
  const answered = async (moved) => {
    act("jump");
    set({ anchor: "C9" });
    await htmx.answer({}, { revision: 40, began: 39, moved });
    act("clear");
    const { revision } = htmx.open.values;
    while (waits()) await htmx.answer();
    return revision;
  };
  assert.notEqual(await answered(true), 40);
  assert.equal(await answered(false), 40);
});
