// What a page takes of an answer that comes when the hands have gone on: the rules alone.
import assert from "node:assert/strict";
import { test } from "node:test";

const { adoption } = await import("#js/adopting.js");

const SENT = {
  sheet: 2,
  home: 0,
  anchor: "C5",
  focus: "C5",
  inner: "",
  also: "",
  left: 1,
  top: 1,
  writing: "",
  text: null,
  flipped: false,
  fresh: false,
  source: "",
  target: "",
  landing: "",
  values: "",
  step: "",
};
const WRITING = { ...SENT, writing: "C5", text: "=B5" };
const MORE = { ...WRITING, text: "=B52" };
const BEGUN = { ...WRITING, fresh: true };
const CHOSEN = { ...SENT, anchor: "G10", focus: "G10" };
const LED = { ...SENT, sheet: 3, anchor: "A9", focus: "A9", top: 4 };
const REHEARSED = { ...SENT, writing: "C5", text: "=$B5", source: "C5", target: "C5:C9" };
const FILL = only(REHEARSED, ["source", "target", "landing", "values", "step"]);
const PLACE = only(LED, ["sheet", "home", "anchor", "focus", "inner", "left", "top"]);

function only(state, names) {
  return Object.fromEntries(names.map((name) => [name, state[name]]));
}

// Asked at time 3, sent at 3; `when` tells what the hands did when, `now` among them.
function asked({
  does = [],
  sent = SENT,
  now = SENT,
  led = LED,
  insists = false,
  refused = false,
  ...when
}) {
  const effects = ["moves", "rehearses", "rewrites"];
  return {
    request: { asked: 3, sent: 3 },
    does: Object.fromEntries(effects.map((effect) => [effect, does.includes(effect)])),
    sent,
    now,
    times: { now: 3, begun: 0, selected: 0, ended: 0, ...when },
    answer: { insists, refused, state: led },
  };
}

// The same, when the hands have gone on to another time.
function when(given, now) {
  given.times.now = now;
  return given;
}

// The same, for what the hands had left at time 4.
function left(given, now) {
  given.request.left = 4;
  return when(given, now);
}

// The same, but asked before something else that the hands did before it was sent.
function waited(given) {
  const made = when(asked(given), 4);
  made.request.sent = 4;
  return made;
}

const CASES = {
  "a move that waited, and another cell was chosen meanwhile: it stays chosen": [
    waited({ does: ["moves"], selected: 4, sent: CHOSEN, now: CHOSEN }),
    { whole: true, changes: { ...LED, anchor: "G10", focus: "G10" } },
  ],
  "a move that waited, and was chosen before: all is taken": [
    waited({ does: ["moves"], selected: 3 }),
    { whole: true, changes: LED },
  ],
  "nothing happened since: all is taken": [asked({}), { whole: true, changes: LED }],
  "the hands went on: nothing is taken": [when(asked({}), 5), { changes: {}, lost: false }],
  "the server insists: all is taken": [
    when(asked({ insists: true }), 5),
    { whole: true, changes: LED },
  ],
  "the server insists, but something is written by now: what was sent is told": [
    when(asked({ insists: true, refused: true, sent: WRITING, now: MORE }), 5),
    { changes: {}, lost: true },
  ],
  "it was refused, and the hands rest since they left it: all is taken, it is open again": [
    left(asked({ insists: true, refused: true, sent: WRITING, led: WRITING }), 4),
    { whole: true, changes: WRITING },
  ],
  "it was refused, and another cell was chosen since: it is set aside": [
    left(asked({ insists: true, refused: true, sent: WRITING, now: CHOSEN, selected: 5 }), 5),
    { changes: {}, lost: true },
  ],
  "a move, and nothing is written: its place is taken": [
    when(asked({ does: ["moves"] }), 5),
    { changes: PLACE },
  ],
  "a move, but another cell was chosen since: its sheet is taken": [
    when(asked({ does: ["moves"], selected: 4 }), 5),
    { changes: { sheet: 3, home: 0 } },
  ],
  "a move, and an entry was begun since: it goes into the cell of the move": [
    when(asked({ does: ["moves"], begun: 4, now: BEGUN }), 5),
    { changes: { ...PLACE, writing: "A9", over: "" } },
  ],
  "a move, and an entry begun before goes on: it stays where it is": [
    when(asked({ does: ["moves"], begun: 2, now: BEGUN }), 5),
    { changes: {}, lost: false },
  ],
  "a move, and an entry was begun at once: not even then all is taken": [
    asked({ does: ["moves"], begun: 4, now: BEGUN }),
    { changes: { ...PLACE, writing: "A9", over: "" } },
  ],
  "a rehearsal began while nothing more was typed: its formula is taken too": [
    when(asked({ does: ["rehearses"], sent: WRITING, now: WRITING, led: REHEARSED }), 5),
    { changes: { ...FILL, text: "=$B5", writing: "C5", flipped: false } },
  ],
  "a rehearsal began while more was typed: that stays": [
    when(asked({ does: ["rehearses"], sent: WRITING, now: MORE, led: REHEARSED }), 5),
    { changes: FILL },
  ],
  "a rehearsal was dropped since: it does not come back": [
    when(asked({ does: ["rehearses"], ended: 4, sent: WRITING, now: WRITING, led: REHEARSED }), 5),
    { changes: {}, lost: false },
  ],
};

for (const [name, [given, expected]] of Object.entries(CASES))
  test(name, () => assert.deepEqual(adoption(given), expected));
