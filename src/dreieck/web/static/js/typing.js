// What the browser would have done with a key that had to wait: in the entry that is open, in a field.
import { activeCell, typeInto } from "./writing.js";

export function isText(place) {
  return place.tagName === "TEXTAREA" || (place.tagName === "INPUT" && place.type !== "checkbox");
}

// Puts text to the caret, or takes so many characters away before it or behind it.
export function insert(text, back = 0, forth = 0) {
  const place = document.activeElement;
  if (place === activeCell && text) return typeInto(text);
  if (text === " " && place.tagName === "BUTTON") return place.click();
  if (!isText(place)) return;
  const { selectionStart: from, selectionEnd: to, value } = place;
  const marked = from !== to;
  place.setRangeText(
    text,
    marked ? from : Math.max(from - back, 0),
    marked ? to : Math.min(to + forth, value.length),
    "end",
  );
  place.dispatchEvent(new InputEvent("input", { bubbles: true }));
}

export function typeLate({ key, ctrlKey, metaKey, shiftKey }) {
  const place = document.activeElement;
  if (!isText(place)) return;
  if (key === "Backspace") insert("", 1);
  else if (key === "Delete") insert("", 0, 1);
  else if (key.toLowerCase() === "a" && (ctrlKey || metaKey)) place.select();
  else moveCaret(place, key, shiftKey);
}

function moveCaret(place, key, widen) {
  const { selectionStart, selectionEnd, selectionDirection, value } = place;
  const isBack = selectionDirection === "backward";
  const near = isBack ? selectionStart : selectionEnd;
  const fixed = isBack ? selectionEnd : selectionStart;
  const single = selectionStart === selectionEnd;
  const to = {
    Home: 0,
    End: value.length,
    ArrowLeft: widen || single ? Math.max(near - 1, 0) : selectionStart,
    ArrowRight: widen || single ? Math.min(near + 1, value.length) : selectionEnd,
  }[key];
  if (to === undefined) return;
  if (widen)
    place.setSelectionRange(
      Math.min(fixed, to),
      Math.max(fixed, to),
      to < fixed ? "backward" : "forward",
    );
  else place.setSelectionRange(to, to);
  place.dispatchEvent(new Event("select"));
}
