// Asks for an action, whoever wants it: a button, a key, a form.
import { forget } from "./clipboard.js";
import { act } from "./exchange.js";
import { state } from "./state.js";
import { keep, land, writingNow } from "./writing.js";

// What the page has to do of itself before the server is asked.
const BEFORE = [
  [/^land$/, (action, wish) => land(wish)],
  [/-sheet$/, toSheet],
  [
    /^((insert|delete|move|nudge|duplicate)-lines|move-cells|order-rows)$/,
    (action, wish) => {
      forget();
      act(action, wish);
    },
  ],
];

export function perform(action, wish = {}) {
  const [, does] = BEFORE.find(([names]) => names.test(action)) ?? [null, act];
  does(action, wish);
}

// A formula stays open on other sheets, to point there; another entry is kept first.
function toSheet(action, wish) {
  if (writingNow() && (action !== "show-sheet" || !state.text.startsWith("="))) keep("");
  act(action, wish);
}
