// Fingers on the grid: a swipe scrolls, a tap selects, a long press begins to select an area.
import { onTouch } from "./pointing.js";
import { scrollByPixels } from "./scrolling.js";
import { grid } from "./places.js";

const LONG = 450;
const SLOP = 8;
let finger = null;

grid.addEventListener(
  "pointerdown",
  (event) => {
    if (
      event.pointerType !== "touch" ||
      event.target.closest(".scroll, .grip, .grip-reach, .chart, .cell-entry, [data-frame]")
    )
      return;
    event.stopImmediatePropagation();
    if (finger) return;
    grid.setPointerCapture(event.pointerId);
    finger = { id: event.pointerId, x: event.clientX, y: event.clientY, event, swipes: false };
    finger.timer = setTimeout(() => {
      finger.presses = true;
      onTouch.down(event);
    }, LONG);
  },
  true,
);

grid.addEventListener(
  "pointermove",
  (event) => {
    if (finger?.id !== event.pointerId || finger.presses) return;
    event.stopImmediatePropagation();
    const [columns, rows] = [finger.x - event.clientX, finger.y - event.clientY];
    if (!finger.swipes && Math.hypot(columns, rows) < SLOP) return;
    clearTimeout(finger.timer);
    finger.swipes = true;
    scrollByPixels(columns, rows);
    Object.assign(finger, { x: event.clientX, y: event.clientY });
  },
  true,
);

for (const name of ["pointerup", "pointercancel"])
  grid.addEventListener(
    name,
    (event) => {
      if (finger?.id !== event.pointerId) return;
      const { event: began, swipes, presses, timer } = finger;
      clearTimeout(timer);
      finger = null;
      if (presses) return;
      event.stopImmediatePropagation();
      if (swipes || name === "pointercancel") return;
      onTouch.down(began);
      onTouch.up(event);
    },
    true,
  );

// A long press is no wish for the list of what can be done.
grid.addEventListener(
  "contextmenu",
  (event) => {
    if (event.pointerType !== "touch") return;
    event.preventDefault();
    event.stopImmediatePropagation();
  },
  true,
);
