// What was being written when the page was left, and was not entered yet, is kept in this browser
// and offered again.
import { onScene, show, whenAnswered } from "./exchange.js";
import { offer } from "./notice.js";
import { set, standsApart, state } from "./state.js";
import { desk, drawWriting, keep, writingNow } from "./writing.js";

const form = document.getElementById("page-state");
const name = `draft ${form.dataset.pages}`;

addEventListener("pagehide", () => {
  const { writing, text, home, sheet, flipped } = state;
  if (text && !flipped && !standsApart())
    localStorage.setItem(name, JSON.stringify({ cell: writing, text, sheet: home || sheet }));
});

// Once the first picture is there, and what a link asked for is answered.
let isOffered = false;
onScene(() => {
  if (!isOffered) whenAnswered().then(offerDraft);
  isOffered = true;
});

function offerDraft() {
  // Older pages kept several in a list.
  const [draft] = [JSON.parse(localStorage.getItem(name) ?? "null")].flat();
  if (!draft) return;
  localStorage.removeItem(name);
  offer(`What you were writing into ${draft.cell} was not kept: ${draft.text.slice(0, 300)}`, {
    "Write on": () => take(draft),
    "Drop it": () => {},
  });
}

function take({ cell, text, sheet }) {
  if (writingNow()) keep("");
  set({ sheet, anchor: cell, focus: cell, writing: cell, text, caret: text.length, fresh: false });
  drawWriting();
  desk.focus();
  show({ reveal: cell });
}
