// Where Option types, Control held with it asks for what Alt asks for elsewhere.
import assert from "node:assert/strict";
import { test } from "node:test";

Object.defineProperty(globalThis, "navigator", { value: { platform: "MacIntel" } });
const { goesByWord, shortcut, types } = await import("#js/layouts.js");

const NONE = { ctrlKey: false, altKey: false, metaKey: false, shiftKey: false };

test("with Option alone a character is typed, with Control, too, it is a shortcut", () => {
  const held = { ...NONE, key: "ç", code: "KeyC", altKey: true };
  assert.ok(types(held));
  const { letter, code, modifiers } = shortcut({ ...held, ctrlKey: true });
  assert.deepEqual([letter, code, modifiers], ["", "KeyC", ["alt"]]);
});

test("Option and an arrow go by word", () => {
  const held = { ...NONE, code: "ArrowLeft", altKey: true };
  assert.ok(goesByWord({ ...held, key: "ArrowLeft" }));
  assert.ok(!goesByWord({ ...held, key: "ArrowDown" }));
  assert.ok(!goesByWord({ ...held, key: "ArrowLeft", ctrlKey: true }));
});
