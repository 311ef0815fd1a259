// A link to another page waits until what was entered is kept.
import { allKept, waits, whenAnswered } from "./exchange.js";
import { keep, writingNow } from "./writing.js";

document.addEventListener("click", async (event) => {
  const link = event.target.closest("a[href]");
  const isElsewhere = event.ctrlKey || event.metaKey || event.shiftKey || link?.target;
  if (!link || isElsewhere || event.defaultPrevented || link.dataset.action) return;
  if (!writingNow() && !waits()) return;
  event.preventDefault();
  // Keys whose turn comes late may have begun another entry meanwhile.
  do {
    if (writingNow()) keep("");
    await whenAnswered();
  } while (writingNow() && allKept());
  if (allKept()) location.assign(link.href);
});
