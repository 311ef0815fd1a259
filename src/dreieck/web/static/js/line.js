// Whether the server can be reached, and when it is tried again.

// So long it may be silent, in milliseconds, before hands no longer wait for its word.
const PATIENCE = 1500;
const FIRST_PAUSE = 250;
const LONGEST_PAUSE = 15_000;

const listeners = [];
let failing = false;
let down = false;
let timer = 0;
let wake = null;

export function onLine(listener) {
  listeners.push(listener);
}

// Whether the server has not been reached for a while.
export function isDown() {
  return down;
}

export function fails() {
  if (failing) return;
  failing = true;
  timer = setTimeout(() => turn(true), PATIENCE);
}

export function works() {
  failing = false;
  clearTimeout(timer);
  turn(false);
}

function turn(isNow) {
  if (down === isNow) return;
  down = isNow;
  for (const listener of listeners) listener();
}

// Waits longer with every try in vain, and no longer once the line may be back.
export function pause(tries) {
  const length = Math.min(FIRST_PAUSE * 2 ** tries, LONGEST_PAUSE);
  return new Promise((resolve) => {
    wake = resolve;
    setTimeout(resolve, length);
  });
}

export function tryNow() {
  wake?.();
}

addEventListener("online", tryNow);
