// Moves the selection by its edge, and selected rows and columns by their headings.
import { perform } from "./acting.js";
import { LAST, address, areaText, letters } from "./address.js";
import { hideGuide, showGuide } from "./guide.js";
import { box, grid, spot, under } from "./places.js";
import { chosen, state } from "./state.js";

// So near to the edge of the selection the pointer grasps it.
const NEAR = 4;
const AXES = ["column", "row"];

// What the pointer grasps: "cells", "columns", "rows", or nothing.
export function grasped(at, event) {
  if (state.text !== null || state.target || state.also || state.look_taken) return "";
  const area = chosen();
  const isAll = [0, 1].map((axis) => area[axis] === 1 && area[axis + 2] === LAST[axis]);
  const axis = ["columns", "rows"].indexOf(at.part);
  if (axis >= 0) {
    const isAmong = at.cell[axis] >= area[axis] && at.cell[axis] <= area[axis + 2];
    return isAll[1 - axis] && !isAll[axis] && isAmong ? at.part : "";
  }
  return at.part === "cells" && !isAll[0] && !isAll[1] && onEdge(area, event) ? "cells" : "";
}

function onEdge(area, event) {
  const frame = grid.getBoundingClientRect();
  const { x, y, width, height } = box(area);
  const left = event.clientX - frame.left - x;
  const top = event.clientY - frame.top - y;
  const inside = left > -NEAR && top > -NEAR && left < width + NEAR && top < height + NEAR;
  const within = left > NEAR && top > NEAR && left < width - NEAR && top < height - NEAR;
  return inside && !within;
}

// The pointer went down on what it grasps: what to do when it moves and when it comes up.
export function startDrag(kind, at) {
  return kind === "cells" ? dragCells(at) : dragLines(kind === "rows" ? 1 : 0, at);
}

function dragCells({ cell: [column, row] }) {
  const [left, top, right, bottom] = chosen();
  let to = null;
  return {
    move(event) {
      const now = under(event).cell;
      const columns = Math.min(Math.max(now[0] - column, 1 - left), LAST[0] - right);
      const rows = Math.min(Math.max(now[1] - row, 1 - top), LAST[1] - bottom);
      const place = [left + columns, top + rows, right + columns, bottom + rows];
      to = columns || rows ? place : null;
      showGuide(box(place), areaText(place));
    },
    end() {
      hideGuide();
      if (to) perform("move-cells", { to: address(to.slice(0, 2)) });
      return to !== null;
    },
  };
}

function dragLines(axis, begun) {
  const area = chosen();
  const [first, last] = [area[axis], area[axis + 2]];
  let before = 0;
  return {
    move(event) {
      const now = under(event).cell[axis];
      if (now === begun.cell[axis] && !before) return;
      before = now < first ? now : now > last ? now + 1 : 0;
      if (!before) return hideGuide();
      drawBar(axis, now, before > now);
    },
    end() {
      hideGuide();
      if (before) perform("move-lines", { axis: AXES[axis], before });
      return before > 0;
    },
  };
}

// A bar where the lines would come to stand.
function drawBar(axis, number, behind) {
  const { x, y, width, height } = spot(axis ? [1, number] : [number, 1]);
  const [begin, size] = axis ? [y, height] : [x, width];
  const at = begin + (behind ? size : 0) - 2;
  const all = axis ? grid.clientWidth : grid.clientHeight;
  const says = `to ${AXES[axis]} ${axis ? number : letters(number)}`;
  const bar = axis
    ? { x: 0, y: at, width: all, height: 3 }
    : { x: at, y: 0, width: 3, height: all };
  showGuide(bar, says);
}

// The pointer tells what it grasps.
grid.addEventListener("pointermove", (event) => {
  const at = under(event);
  if (at.edge) grid.style.cursor = at.part === "columns" ? "col-resize" : "row-resize";
  else grid.style.cursor = grasped(at, event) && !event.buttons ? "grab" : "";
});
