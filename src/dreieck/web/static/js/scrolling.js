// Scrolling by wheel and by the two bars, a whole cell at a time.
import { LAST } from "./address.js";
import { scene, show } from "./exchange.js";
import { set, state } from "./state.js";
import { grid, scrollable, scrolled } from "./places.js";

const bars = [...grid.querySelectorAll(".scroll")].map((track) => ({
  track,
  thumb: track.firstElementChild,
  axis: track.classList.contains("down") ? 1 : 0,
}));
// So far the wheel turns for one of them, in pixels.
const [COLUMN, ROW] = [90, 29];
let restX = 0;
let restY = 0;

grid.addEventListener(
  "wheel",
  (event) => {
    // With Ctrl the page is zoomed.
    if (event.ctrlKey) return;
    event.preventDefault();
    const unit = event.deltaMode === 1 ? ROW : 1;
    scrollByPixels(
      (event.shiftKey ? event.deltaY : event.deltaX) * unit,
      (event.shiftKey ? 0 : event.deltaY) * unit,
    );
  },
  { passive: false },
);

export function scrollByPixels(right, down) {
  restX += right;
  restY += down;
  const columns = Math.trunc(restX / COLUMN);
  const rows = Math.trunc(restY / ROW);
  restX -= columns * COLUMN;
  restY -= rows * ROW;
  if (columns || rows) scrollTo(scrolled(0, columns), scrolled(1, rows));
}

function scrollTo(left, top) {
  const next = {
    left: Math.min(Math.max(left, 1), LAST[0]),
    top: Math.min(Math.max(top, 1), LAST[1]),
  };
  if (next.left === state.left && next.top === state.top) return;
  set(next);
  show();
}

// How much of the sheet a bar stands for: what is filled, and some more beyond the view.
function extent(axis) {
  const { first: least, shown } = scrollable(axis);
  const first = axis ? state.top : state.left;
  return {
    first,
    least,
    shown,
    whole: Math.min(Math.max(scene.used[axis] + 10, first + shown * 2), LAST[axis]),
  };
}

export function drawBars() {
  for (const { track, thumb, axis } of bars) {
    const { first, least, shown, whole } = extent(axis);
    const length = axis ? track.clientHeight : track.clientWidth;
    const size = Math.max((shown / whole) * length, 26);
    const at = ((first - least) / Math.max(whole - shown, 1)) * (length - size);
    thumb.style[axis ? "height" : "width"] = `${size}px`;
    thumb.style[axis ? "top" : "left"] = `${Math.min(at, length - size)}px`;
  }
}

for (const { track, thumb, axis } of bars) {
  track.addEventListener("pointerdown", (event) => {
    event.preventDefault();
    event.stopPropagation();
    track.setPointerCapture(event.pointerId);
    track.classList.add("held");
    const { least, shown, whole } = extent(axis);
    const place = axis ? event.offsetY : event.offsetX;
    const grabbed =
      event.target === thumb ? place : (axis ? thumb.clientHeight : thumb.clientWidth) / 2;
    const pull = (moved) => {
      const frame = track.getBoundingClientRect();
      const length = axis ? frame.height - thumb.clientHeight : frame.width - thumb.clientWidth;
      const at = (axis ? moved.clientY - frame.top : moved.clientX - frame.left) - grabbed;
      const first = least + Math.round((at / Math.max(length, 1)) * (whole - shown));
      if (axis) scrollTo(state.left, first);
      else scrollTo(first, state.top);
    };
    pull(event);
    track.addEventListener("pointermove", pull);
    track.addEventListener(
      "pointerup",
      () => {
        track.removeEventListener("pointermove", pull);
        track.classList.remove("held");
      },
      { once: true },
    );
  });
}
