// A key that is pressed in a field is what the field asks for. Tab goes on, Backspace empties it, and
// what types a character is typed.
import { shortcut } from "./layouts.js";

const NAMES = { " ": "Space" };

document.addEventListener("keydown", (event) => {
  const field = event.target.closest("[data-shortcut]");
  if (!field || ["Tab", "Enter", "Escape"].includes(event.key)) return;
  if (event.key === "Backspace" || event.key === "Delete") {
    event.preventDefault();
    field.value = "";
    return;
  }
  const found = shortcut(event);
  const isFunction = /^F\d+$/.test(event.key);
  if (!found || !(event.ctrlKey || event.metaKey || event.altKey || isFunction)) return;
  if (event.key.length > 1 && !isFunction) return;
  event.preventDefault();
  const key = found.letter || found.code.replace(/^(Key|Digit)/, "");
  const held = [
    event.ctrlKey || event.metaKey ? "Ctrl" : "",
    event.altKey ? "Alt" : "",
    event.shiftKey ? "Shift" : "",
  ];
  field.value = [...held.filter(Boolean), NAMES[key] ?? key.toUpperCase()].join(" + ");
});
