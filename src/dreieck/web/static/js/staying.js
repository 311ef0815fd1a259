// What had the keys has them again after a part of the page was drawn anew, with what was typed there.
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
  const typed = here.tagName === "INPUT" && here.value !== here.defaultValue;
  const { value, selectionStart, selectionEnd } = here;
  left = { id: target.id, told: told(here), typed, value, caret: [selectionStart, selectionEnd] };
});

document.addEventListener("htmx:oobAfterSwap", () => {
  if (!left) return;
  const drawn = document.getElementById(left.id);
  const all = [...drawn.querySelectorAll("a[href], button, input, select, textarea")];
  const same = all.find((each) => told(each) === left.told);
  same?.focus({ preventScroll: true });
  if (same && left.typed) {
    same.value = left.value;
    if (left.caret[0] !== null) same.setSelectionRange(...left.caret);
  }
  left = null;
});
