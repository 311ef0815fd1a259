// What was being written when the page was left is kept in the browser, and offered again.
import assert from "node:assert/strict";
import { test } from "node:test";
import { openPage } from "./skeleton.mjs";

const DRAFTS = "draft /workbooks/1/sheets/";
const OLD = { cell: "B2", text: "=A1*1.5", sheet: 2 };
const window = openPage({ [DRAFTS]: JSON.stringify(OLD) });
const { onScene, show, waits } = await import("#js/exchange.js");
const { measure } = await import("#js/places.js");
const { NOTHING, set, state } = await import("#js/state.js");
onScene(measure);
await import("#js/drafts.js");

const notice = document.getElementById("notice");
const leave = () => window.dispatchEvent(new window.Event("pagehide"));
const kept = () => JSON.parse(localStorage.getItem(DRAFTS));
const press = (label) =>
  [...notice.querySelectorAll("button")].find((each) => each.textContent === label).click();

test("a draft is offered once the first picture is there, and written on", async () => {
  show();
  assert.equal(notice.textContent, "");
  await htmx.answer();
  assert.match(notice.textContent, /B2 was not kept: =A1\*1\.5/);
  press("Write on");
  assert.deepEqual([state.sheet, state.writing, state.text], [2, "B2", "=A1*1.5"]);
  assert.equal(document.activeElement.id, "desk-line");
  assert.equal(kept(), null);
  while (waits()) await htmx.answer();
});

test("what is being written is kept when the page is left", () => {
  set({ ...NOTHING, sheet: 1, home: 0, writing: "B3", text: "44" });
  leave();
  assert.deepEqual(kept(), { cell: "B3", text: "44", sheet: 1 });
  localStorage.clear();
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
    assert.equal(kept(), null);
    set(NOTHING);
  });
