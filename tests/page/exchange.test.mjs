// The queue of what is asked of the server: one after the other, in order, nothing twice.
import assert from "node:assert/strict";
import { beforeEach, test } from "node:test";
import { openPage } from "./skeleton.mjs";

openPage();
const { act, actLatest, actNow, allKept, isOnItsWay, show, unsent, waits, whenAnswered } =
  await import("#js/exchange.js");
const { begin, set, state } = await import("#js/state.js");
const notice = document.getElementById("notice");
const kept = document.getElementById("kept");

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
  assert.deepEqual(
    unsent().map(({ writing, text }) => [writing, text]),
    [["B2", "33"]],
  );
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

test("an entry that is refused is open again, and why is told", async () => {
  set({ writing: "B2", text: "=(" });
  actNow("enter");
  set({ writing: "", text: null });
  assert.equal(kept.textContent, "keeping …");
  await htmx.refuse("A bracket is not closed.");
  assert.deepEqual([state.writing, state.text], ["B2", "=("]);
  assert.match(notice.textContent, /bracket/);
  assert.ok(!allKept());
  act("enter");
  await htmx.answer();
  assert.ok(allKept());
});

test("what cannot be kept while something else is written is told with its cell", async () => {
  set({ writing: "B2", text: "33" });
  actNow("enter");
  set({ writing: "B3", text: "4" });
  await htmx.fail();
  assert.deepEqual([state.writing, state.text], ["B3", "4"]);
  assert.match(notice.textContent, /B2: 33/);
  assert.equal(kept.textContent, "not kept");
});

test("a revision that others made is taken on by what still waits", async () => {
  act("enter");
  actNow("clear");
  await htmx.answer({}, { revision: 9, began: 7 });
  assert.equal(htmx.open.values.revision, 9);
});
