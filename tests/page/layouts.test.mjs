// Which keys are shortcuts and which type a character, on layouts with and without Option or AltGr.
import assert from "node:assert/strict";
import { test } from "node:test";

Object.defineProperty(globalThis, "navigator", { value: { platform: "Linux" } });
const { learn, shortcut, types } = await import("#js/layouts.js");

const press = (keys, key, code) => ({
  key,
  code,
  ctrlKey: keys.includes("ctrl"),
  altKey: keys.includes("alt"),
  shiftKey: keys.includes("shift"),
  metaKey: false,
  getModifierState: (name) => name === "AltGraph" && keys.includes("graph"),
});

// Layout, what is held, the character that the key gives, its place; and the shortcut, or that it types.
const TABLE = [
  ["US", "alt", "c", "KeyC", "alt c"],
  ["US", "alt shift", "J", "KeyJ", "alt shift j"],
  ["US", "alt", ".", "Period", "alt ."],
  ["US", "ctrl", "k", "KeyK", "ctrl k"],
  ["US", "ctrl shift", "Z", "KeyZ", "ctrl shift z"],
  ["US", "", "?", "Slash", "types"],
  ["US", "", "F2", "F2", "f2"],
  ["US", "ctrl", " ", "Space", "ctrl space"],
  ["US with Option", "alt", "ü", "KeyU", "types"],
  ["US with Option", "alt", "Dead", "KeyN", "types"],
  ["US with Option", "alt", "ç", "KeyC", "types"],
  ["US with Option", "alt", "≥", "Period", "types"],
  ["US with Option", "alt shift", "Á", "KeyY", "types"],
  ["US with Option", "alt", "ArrowDown", "ArrowDown", "alt arrowdown"],
  ["German", "alt", "z", "KeyY", "alt z"],
  ["German", "graph", "@", "KeyQ", "types"],
  ["German, Windows", "ctrl alt graph", "€", "KeyE", "types"],
  ["German, Windows", "ctrl alt", "{", "Digit7", "types"],
  ["German", "alt shift", "/", "Digit7", "alt /"],
  ["German with Option", "alt", "@", "KeyL", "types"],
  ["German with Option", "alt", "€", "KeyE", "types"],
  ["German with Option", "alt", "[", "Digit5", "types"],
  ["German with Option", "alt", "Dead", "KeyN", "types"],
  ["German with Option", "alt", "|", "Digit7", "types"],
  ["French", "alt shift", ".", "Comma", "alt ."],
  ["French", "alt", ",", "KeyM", "alt ,"],
  ["French", "alt shift", "1", "Digit1", "alt 1"],
  ["French", "graph", "#", "Digit3", "types"],
  ["French with Option", "alt", "ø", "KeyO", "types"],
  ["Russian", "alt", "с", "KeyC", "alt KeyC"],
  ["Russian", "ctrl", "я", "KeyZ", "ctrl KeyZ"],
  ["Greek", "alt", "ψ", "KeyC", "alt KeyC"],
  ["an input method", "ctrl", "Process", "KeyK", "ctrl KeyK"],
];

for (const [layout, keys, key, code, expected] of TABLE)
  test(`${layout}: ${keys} ${key} at ${code} is ${expected}`, () => {
    const found = shortcut(press(keys, key, code));
    if (expected === "types") assert.equal(found, null);
    else {
      const { letter, modifiers } = found;
      const said = letter === " " ? "space" : letter || code;
      assert.ok(modifiers.some((each) => `${each} ${said}`.trim() === expected));
    }
    assert.equal(types(press(keys, key, code)), expected === "types");
  });

test("what a key gives alone decides whether Option changed it", () => {
  const held = press("alt", "π", "KeyP");
  assert.equal(types(held), false);
  learn(press("", "p", "KeyP"));
  assert.equal(types(held), true);
  learn(press("", "π", "KeyP"));
  assert.equal(types(held), false);
});
