// What was being written when the page was left is kept in the browser, and offered again.
import assert from "node:assert/strict";
import { test } from "node:test";
import { openPage } from "./skeleton.mjs";

const DRAFTS = "draft /workbooks/1/sheets/";
const OLD = [
  { cell: "B2", text: "=A1*1.5", sheet: 1 },
  { cell: "C9", text: "42", sheet: 2 },
];
const window = openPage({ [DRAFTS]: JSON.stringify(OLD) });
const { actNow, onScene, show, waits } = await import("#js/exchange.js");
const { measure } = await import("#js/places.js");
const { NOTHING, set, state } = await import("#js/state.js");
onScene(measure);
await import("#js/drafts.js");

const notice = document.getElementById("notice");
const leave = () => window.dispatchEvent(new window.Event("pagehide"));
const kept = () => JSON.parse(localStorage.getItem(DRAFTS) ?? "[]");
const press = (label) =>
  [...notice.querySelectorAll("button")].find((each) => each.textContent === label).click();

test("drafts are offered one by one once the first picture is there", async () => {
  show();
  assert.equal(notice.textContent, "");
  await htmx.answer();
  assert.match(notice.textContent, /B2 was not kept: =A1\*1\.5/);
  press("Let it go");
  assert.match(notice.textContent, /C9 was not kept: 42/);
  press("Write on");
  assert.deepEqual([state.sheet, state.writing, state.text], [2, "C9", "42"]);
  assert.equal(document.activeElement.id, "desk-line");
  await htmx.answer();
  assert.deepEqual(kept(), []);
});

test("what is written, and what was not sent yet, is kept when the page is left", async () => {
  set({ ...NOTHING, sheet: 1, home: 0 });
  show();
  set({ writing: "B2", text: "33" });
  actNow("enter");
  set({ writing: "B3", text: "44" });
  leave();
  assert.deepEqual(
    kept().map(({ cell, text }) => [cell, text]),
    [
      ["B2", "33"],
      ["B3", "44"],
    ],
  );
  localStorage.clear();
  while (waits()) await htmx.answer();
});

for (const [what, changes] of Object.entries({
  nothing: { text: null },
  "an empty entry": { text: "" },
  "an entry that a switch changed alone": { text: "=$A1", flipped: true },
  "a condition, which stands in no cell": { text: "=A1>2", rule_for: "A1:A9" },
}))
  test(`${what} is no draft`, () => {
    set({ ...NOTHING, writing: "B2", ...changes });
    leave();
    assert.deepEqual(kept(), []);
    set(NOTHING);
  });
