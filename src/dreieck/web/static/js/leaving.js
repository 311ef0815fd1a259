// A link to another page waits until what was entered is kept.
import { allKept, waits, whenAnswered } from "./exchange.js";
import { keep, writingNow } from "./writing.js";

function leaves(event) {
  const link = event.target.closest("a[href]");
  const isElsewhere = event.ctrlKey || event.metaKey || event.shiftKey || link?.target;
  if (!link || isElsewhere || event.defaultPrevented || link.dataset.action) return null;
  return writingNow() || waits() ? link : null;
}

// Keys that wait for their turn are for the place that has the focus now.
document.addEventListener("mousedown", (event) => {
  if (leaves(event)) event.preventDefault();
});

document.addEventListener("click", async (event) => {
  const link = leaves(event);
  if (!link) return;
  event.preventDefault();
  // Keys that wait for their turn come before the link: they may lead elsewhere, and begin entries.
  do {
    while (waits()) await whenAnswered();
    if (writingNow()) keep("");
    await whenAnswered();
  } while ((writingNow() || waits()) && allKept());
  if (allKept()) location.assign(link.href);
});
