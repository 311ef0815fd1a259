// What a key is on the layout in use: a shortcut by its letter, or a character that is typed. A
// shortcut is taken only where the key gives no character there.

// What keys give alone, by their place: as the browser knows it, and as they were pressed.
const alone = new Map();
navigator.keyboard?.getLayoutMap?.().then(
  (layout) => layout.forEach((key, code) => alone.set(code, key)),
  () => {},
);
const { platform, userAgent, userAgentData } = navigator;
const isMac = /mac|iphone|ipad/i.test([userAgentData?.platform, platform, userAgent].join(" "));
// These stand for shortcuts whatever modifier gives them; no layout types them by Option or AltGr.
const OURS = /^[a-z0-9.,/]$/i;

// Remembers what a key gives alone.
export function learn({ key, code, ctrlKey, altKey, metaKey, shiftKey }) {
  if (key.length === 1 && !ctrlKey && !altKey && !metaKey && !shiftKey) alone.set(code, key);
}

// Whether a key types a character, or begins one.
export function types(event) {
  const { key, code, ctrlKey, altKey, metaKey } = event;
  if (key === "Dead") return altKey || (!ctrlKey && !metaKey);
  if (key.length !== 1) return false;
  if (!ctrlKey && !altKey && !metaKey) return true;
  if (withControl(event)) return false;
  if (event.getModifierState?.("AltGraph") || (ctrlKey && altKey)) return true;
  if (!altKey || metaKey || OURS.test(key) || key === " ") return false;
  if (isMac) return true;
  const known = alone.get(code);
  if (known !== undefined) return known.toLowerCase() !== key.toLowerCase();
  // With Alt alone a layout of other letters gives them as it would without; signs are typed.
  return !/\p{L}/u.test(key) || /\p{Script=Latin}/u.test(key);
}

// Where Option types, Control held with it asks for what Alt asks for elsewhere.
function withControl({ ctrlKey, altKey, metaKey }) {
  return isMac && ctrlKey && altKey && !metaKey;
}

// By which letter and modifiers a key is looked up among the shortcuts; where the layout gives none
// of ours, by its place. Null where it types.
export function shortcut(event) {
  const { key, code, ctrlKey, altKey, metaKey, shiftKey } = event;
  const hasModifier = ctrlKey || metaKey || altKey;
  if (types(event) && (hasModifier || key !== " ")) return null;
  const isNamed = key.length > 1 && !["Process", "Unidentified"].includes(key);
  const letter = isNamed || OURS.test(key) || key === " " ? key.toLowerCase() : "";
  const isCtrl = (ctrlKey || metaKey) && !withControl(event);
  const held = [isCtrl ? "ctrl" : "", altKey ? "alt" : ""];
  const withShift = [...held, shiftKey ? "shift" : ""].filter(Boolean).join(" ");
  // Signs and figures may need Shift on a layout.
  const isSign = letter.length === 1 && !/[a-z ]/.test(letter);
  const modifiers = isSign ? [withShift, held.filter(Boolean).join(" ")] : [withShift];
  return { letter, code, modifiers };
}

// Option and an arrow go by word in a text where Option types.
export function goesByWord({ key, altKey, ctrlKey, metaKey }) {
  return isMac && altKey && !ctrlKey && !metaKey && ["ArrowLeft", "ArrowRight"].includes(key);
}
