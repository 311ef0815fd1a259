// What had the keys has them again after a part of the page was drawn anew.
import { rove } from "./roving.js";

let left = null;

function told(element) {
  const { tagName, name, dataset, textContent } = element;
  return JSON.stringify([
    tagName,
    name ?? "",
    { ...dataset },
    dataset.action ? "" : textContent.trim(),
  ]);
}

document.addEventListener("htmx:oobBeforeSwap", ({ detail: { target } }) => {
  const here = document.activeElement;
  if (!target.contains(here) || here === target) return;
  left = { id: target.id, told: told(here) };
});

document.addEventListener("htmx:oobAfterSwap", () => {
  if (!left) return;
  const drawn = document.getElementById(left.id);
  const all = [...drawn.querySelectorAll("a[href], button, input, select, textarea")];
  const same = all.find((each) => told(each) === left.told);
  left = null;
  same?.focus({ preventScroll: true });
  rove(drawn);
});
