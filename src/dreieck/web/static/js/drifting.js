// Pulled beyond the edge of the grid, the view follows: slowly at first, faster further out and the
// longer it goes on.
import { show, waits } from "./exchange.js";
import { scrolled, under } from "./places.js";
import { set } from "./state.js";

const TICK = 60;
// So many ticks pass between two lines at first, and so far out one more line is passed at a time.
const SLOW = 4;
const FAR = [60, 24];
const MOST = [4, 40];

let timer = 0;
let ticks = 0;
let pointer = null;

// Lets the view follow a pointer; `fixed` is an axis that stays, `then` is done after each step.
export function driftTo(event, fixed, then) {
  pointer = event;
  if (!beyond(fixed).some(Boolean)) return stopDrift();
  if (!timer) timer = setInterval(() => step(fixed, then), TICK);
}

export function stopDrift() {
  clearInterval(timer);
  timer = 0;
  ticks = 0;
}

function beyond(fixed) {
  return under(pointer).beyond.map((pixels, axis) => (axis === fixed ? 0 : pixels));
}

function step(fixed, then) {
  // The hands do not outrun the picture.
  if (waits()) return;
  ticks += 1;
  const [columns, rows] = beyond(fixed).map(speed);
  if (!columns && !rows) return;
  set({ left: scrolled(0, columns), top: scrolled(1, rows) });
  show().then(then);
}

// How many lines are passed in a tick.
function speed(pixels, axis) {
  const lines = Math.abs(pixels) / FAR[axis] + ticks / 40;
  if (!pixels || (lines < 1 && ticks % SLOW)) return 0;
  return Math.sign(pixels) * Math.min(Math.max(Math.round(lines), 1), MOST[axis]);
}
