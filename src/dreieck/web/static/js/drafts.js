// What was being written when the page was left is kept in this browser, and offered again.
import { onScene, show, unsent, whenAnswered } from "./exchange.js";
import { offer } from "./notice.js";
import { set, standsApart, state } from "./state.js";
import { desk, drawWriting, keep, writingNow } from "./writing.js";

const form = document.getElementById("page-state");
const name = `draft ${form.dataset.pages}`;

addEventListener("pagehide", () => {
  const { writing, text, home, sheet, flipped } = state;
  const drafts = unsent().map((each) => ({
    cell: each.writing,
    text: each.text,
    sheet: each.home || each.sheet,
  }));
  if (text && !flipped && !standsApart())
    drafts.push({ cell: writing, text, sheet: home || sheet });
  if (drafts.length) localStorage.setItem(name, JSON.stringify(drafts));
});

// Once the first picture is there, and what a link asked for is answered.
let isOffered = false;
onScene(() => {
  if (!isOffered) whenAnswered().then(offerDrafts);
  isOffered = true;
});

function offerDrafts() {
  const [draft, ...others] = JSON.parse(localStorage.getItem(name) ?? "[]");
  if (!draft) return;
  localStorage.removeItem(name);
  if (others.length) localStorage.setItem(name, JSON.stringify(others));
  offer(`What you were writing into ${draft.cell} was not kept: ${draft.text.slice(0, 300)}`, {
    "Write on": () => take(draft),
    "Let it go": offerDrafts,
  });
}

function take({ cell, text, sheet }) {
  if (writingNow()) keep("");
  set({ sheet, anchor: cell, focus: cell, writing: cell, text, caret: text.length, fresh: false });
  drawWriting();
  desk.focus();
  show({ reveal: cell });
}
