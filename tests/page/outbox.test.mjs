// What a page that was closed left behind is sent by the next one, in order, and refused things listed.
import assert from "node:assert/strict";
import { test } from "node:test";
import { openPage } from "./skeleton.mjs";

const OUTBOX = "outbox /workbooks/1/sheets/ ";
const STATE = { sheet: 1, home: 0, anchor: "B2", focus: "B2", rule_for: "", proving: -1 };
const left = (piece, writing, text, more = {}) => [
  OUTBOX + piece,
  JSON.stringify({
    piece,
    action: "enter",
    wish: {},
    revision: 5,
    state: { ...STATE, writing, text },
    ...more,
  }),
];
openPage(
  Object.fromEntries([
    left("000000002bbbbbbbb.1", "B5", "50"),
    left("000000001aaaaaaaa.10", "B4", "40"),
    left("000000001aaaaaaaa.9", "B3", "30"),
    left("000000001aaaaaaaa.8", "B2", "20", { why: "B2 was changed elsewhere." }),
    [`${OUTBOX}broken`, "{"],
    ["outbox /workbooks/2/sheets/ 000000001aaaaaaaa.1", "{}"],
  ]),
);
const { show, waits } = await import("#js/exchange.js");
await import("#js/keeping.js");

test("it is sent as it was, the oldest first, and forgotten when it is answered", async () => {
  show();
  assert.match(document.getElementById("outbox").textContent, /B2: 20 B2 was changed elsewhere/);
  while (waits()) await htmx.answer();
  const sent = htmx.asked.map(({ values }) => [values.writing, values.text, values.revision]);
  assert.deepEqual(sent.slice(0, 3), [
    ["B3", "30", 5],
    ["B4", "40", 5],
    ["B5", "50", 5],
  ]);
  const pieces = htmx.asked.slice(0, 2).map(({ values }) => values.piece);
  assert.deepEqual(pieces, ["000000001aaaaaaaa.9", "000000001aaaaaaaa.10"]);
  const still = Object.keys(localStorage);
  assert.deepEqual(still.sort(), [
    "outbox /workbooks/1/sheets/ 000000001aaaaaaaa.8",
    "outbox /workbooks/2/sheets/ 000000001aaaaaaaa.1",
  ]);
});
