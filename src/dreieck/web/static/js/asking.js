// The dialog: it asks what the server says, and keys typed before it is open wait for it.
import { whenAnswered } from "./exchange.js";
import { problem, refusal, refused, tell } from "./notice.js";
import { typeLate } from "./typing.js";

const dialog = document.getElementById("dialog");
// Keys wait for the dialog, but not for ever.
dialog.setAttribute("hx-request", JSON.stringify({ timeout: 15_000 }));
const listeners = [];
let comes = false;

// Opens the dialog with what the server says at an address.
export async function ask(address) {
  comes = true;
  dialog.replaceChildren();
  let said = "This cannot be asked just now; is the server still there?";
  const heard = (event) => {
    said = refusal(event.detail.xhr.responseText);
  };
  dialog.addEventListener("htmx:responseError", heard);
  const places = { source: dialog, target: dialog, swap: "innerHTML" };
  await htmx.ajax("GET", address, places).catch(() => {});
  dialog.removeEventListener("htmx:responseError", heard);
  comes = false;
  if (dialog.hasChildNodes()) {
    dialog.showModal();
    dialog.scrollTop = 0;
    // What stands there is only proposed: typing takes its place.
    document.activeElement.select?.();
  } else whenAnswered().then(() => tell(said));
  for (const listener of listeners) listener();
}

// Closes the dialog once what it asked for is done; otherwise says in it why not.
export async function closeWhenDone() {
  comes = true;
  dialog.querySelector(":scope > .notice")?.remove();
  await whenAnswered();
  comes = false;
  const why = refused();
  if (why) dialog.prepend(problem(why));
  else dialog.close();
  for (const listener of listeners) listener();
}

// Whether the dialog, or the word on what it asked for, is on its way.
export function dialogComes() {
  return comes;
}

export function onDialog(listener) {
  listeners.push(listener);
}

// A key for the open dialog whose turn came late.
export function keyInDialog({ key, shiftKey }) {
  if (!dialog.open) return false;
  // What the dialog itself does with a key, as the list of commands does, comes first.
  const late = new KeyboardEvent("keydown", { key, shiftKey, cancelable: true });
  if (!dialog.dispatchEvent(late)) return true;
  const place = document.activeElement;
  if (key === "Escape") dialog.close();
  else if (key === "Tab") stepTo(place, shiftKey ? -1 : 1);
  else if (key === "Enter")
    isField(place) && place.form ? place.form.requestSubmit() : place.click();
  else typeLate({ key, shiftKey });
  return true;
}

function isField({ tagName }) {
  return tagName === "INPUT" || tagName === "SELECT";
}

// The next control of the dialog, as Tab would find it.
function stepTo(place, step) {
  const all = [...dialog.querySelectorAll("a[href], button, input, select, textarea, summary")];
  const reached = all.filter(
    (each) =>
      !each.disabled && each.type !== "hidden" && each.tabIndex >= 0 && each.checkVisibility(),
  );
  reached.at((reached.indexOf(place) + step) % reached.length)?.focus();
}

dialog.addEventListener("click", (event) => {
  if (event.target === dialog) dialog.close();
});
