// The pointer on the grid: selecting, pulling the grip, scrolling.
import { LAST, address, area, areaText, cell, holds, letters, span } from "./address.js";
import { act, actLatest, scene, show } from "./exchange.js";
import { hush, tell } from "./notice.js";
import { allSelected, chosen, selected, set, state } from "./state.js";
import { driftTo, stopDrift } from "./drifting.js";
import { box, grid, under } from "./places.js";
import { holdPress } from "./holding.js";
import { about } from "./acts.js";
import { drawOverlay } from "./overlay.js";
import { grasped, startDrag } from "./dragging.js";
import { startSizing } from "./sizing.js";
import { desk, inCell, keep, toCells, write, writingNow } from "./writing.js";

let hold = null;
// How far from what it moves the pointer grasped it.
let grasp = [0, 0];
// An edge of a heading, or the selection, that is pulled.
let pull = null;
let down = false;
let selecting = false;
// On which part of the grid the pointer went down.
let began = "cells";
let last = null;
let pulled = false;
let taking = false;
// At which cell was pointed last, and when.
let pointedAt = {};
let gripped = -1000;

grid.addEventListener("pointerdown", goesDown);

function goesDown(event) {
  if (event.button !== 0 || event.target === inCell || event.target.closest(".scroll")) return;
  event.preventDefault();
  grid.setPointerCapture(event.pointerId);
  const at = under(event);
  if (event.target.closest(".grip, .grip-reach"))
    return clickedTwice() ? act("alongside") : startPull(event);
  const aimed = event.target.closest("[data-frame]");
  if (aimed) return startAim(aimed.dataset, at.cell);
  if (state.aiming >= 0) return startTake(at);
  if (state.target) return choose(at);
  if (at.edge) {
    pull = startSizing(at, event);
    return;
  }
  const kind = event.shiftKey || event.ctrlKey || event.metaKey ? "" : grasped(at, event);
  if (kind) {
    toCells();
    pull = startDrag(kind, at);
    return;
  }
  down = true;
  last = at;
  began = at.part;
  const press = () => pressed(at, event.shiftKey, event.ctrlKey || event.metaKey);
  if (!holdPress(() => late(press))) press();
}

function pressed(at, widen, more) {
  if (canPoint()) return startPoint(at, widen);
  if (writingNow() && state.home)
    return tell("Put the caret where a reference may stand, or into one, then point at its cells.");
  if (state.rule_for && holds(area(state.rule_for), at.cell))
    return act("look-at", { to: address(at.cell) });
  if (writingNow()) keep("");
  else hush();
  toCells();
  // With Ctrl one more area is selected.
  startSelect(at, widen, more ? allSelected() : "");
}

// A press whose turn came late takes in where the pointer went meanwhile.
function late(press) {
  press();
  hold?.(last);
  if (!down) hold = null;
}

grid.addEventListener("pointermove", (event) => {
  if (pull) return pull.move(event);
  const at = pointed(event);
  if (down) last = at;
  if (!hold) return;
  // Over headings there is nothing beyond them.
  const fixed = { columns: 1, rows: 0 }[began];
  driftTo(event, fixed, () => hold?.(pointed(event)));
  hold(at);
});

for (const name of ["pointerup", "pointercancel"]) grid.addEventListener(name, comesUp);

function comesUp(event) {
  const isUp = event.type === "pointerup";
  stopDrift();
  // Selected lines that were not moved are pressed like others.
  if (isUp && pull?.end() === false) startSelect(under(event), false);
  hold = null;
  grasp = [0, 0];
  pull = null;
  down = false;
  if (pulled) act("release");
  if (taking) act("find-locks", { to: selected() });
  taking = false;
  if (selecting && state.look_taken && isUp) act("give-look");
  selecting = false;
  pulled = false;
  if (document.activeElement !== desk) toCells();
}

// What a finger does that neither swipes nor scrolls.
export const onTouch = { down: goesDown, up: comesUp };

grid.addEventListener("dblclick", (event) => {
  const onGrip = performance.now() - gripped < 600;
  if (!onGrip && !state.target && under(event).part === "cells") write(inCell);
});

// The other button asks what can be done with what is under it, or with the selection around it.
grid.addEventListener("contextmenu", (event) => {
  event.preventDefault();
  if (state.target || (writingNow() && state.text.startsWith("="))) return;
  if (writingNow()) keep("");
  const at = under(event);
  const [left, top, right, bottom] = chosen();
  const [column, row] = at.cell;
  const inside =
    (at.part === "rows" || (column >= left && column <= right)) &&
    (at.part === "columns" || (row >= top && row <= bottom));
  if (!inside) startSelect(at, false);
  hold = null;
  about();
});

// What lies under the pointer, or under what it grasps a little way off.
function pointed({ clientX, clientY }) {
  return under({ clientX: clientX - grasp[0], clientY: clientY - grasp[1] });
}

function canPoint() {
  return (
    writingNow() && (state.pointed_from >= 0 || (scene.may_point && scene.text === state.text))
  );
}

// Points at a cell, a range, or whole columns and rows, for the formula that is written; a second
// click at the same cell takes its whole list, one with Shift all up to there.
function startPoint({ cell: from, part }, reach) {
  let last = "";
  const again = pointedAt.cell === String(from) && performance.now() - pointedAt.time < 500;
  pointedAt = { cell: String(from), time: performance.now() };
  if (part === "cells" && (again || reach)) {
    act("point-at", { to: address(from), whole: again, reach });
    return;
  }
  hold = ({ cell: to }) => {
    const [left, top, right, bottom] = span(from, to);
    const text =
      { columns: `${letters(left)}:${letters(right)}`, rows: `${top}:${bottom}` }[part] ??
      areaText([left, top, right, bottom]);
    if (text === last) return;
    last = text;
    actLatest("point-at", { to: text });
  };
  hold({ cell: from });
}

// Takes the cells that a landing should read.
function startTake({ cell: from }) {
  hold = ({ cell: to }) => {
    const [left, top, right, bottom] = span(from, to);
    set({ anchor: address([left, top]), focus: address([right, bottom]) });
    drawOverlay();
  };
  taking = true;
  hold({ cell: from });
}

// Moves the frame of a reference, or pulls one of its corners.
function startAim({ frame, corner }, from) {
  const {
    index,
    area: [left, top, right, bottom],
  } = scene.frames[frame];
  let last = "";
  hold = ({ cell: [column, row] }) => {
    const [columns, rows] = [column - from[0], row - from[1]];
    const fixed = [corner?.includes("left") ? right : left, corner?.includes("top") ? bottom : top];
    const aimed = corner
      ? span(fixed, [column, row])
      : [left + columns, top + rows, right + columns, bottom + rows];
    if (aimed[0] < 1 || aimed[1] < 1 || areaText(aimed) === last) return;
    last = areaText(aimed);
    actLatest("move-frame", { index, to: last });
  };
}

// Along which axes all is selected where a heading is pressed.
const WHOLE = { columns: [false, true], rows: [true, false], corner: [true, true] };

function startSelect({ cell: at, part }, widen, also = "") {
  selecting = true;
  const from = widen ? cell(state.anchor) : at;
  const reaching = (place, end) => place.map((at, axis) => (WHOLE[part]?.[axis] ? end[axis] : at));
  const whole = (place) => reaching(place, LAST);
  const first = (place) => reaching(place, [1, 1]);
  hold = ({ cell: to }) => {
    const [left, top, right, bottom] =
      part === "cells" ? [...from, ...to] : span(first(from), first(to));
    const focus = part === "cells" ? [right, bottom] : whole([right, bottom]);
    if (
      state.anchor === address([left, top]) &&
      state.focus === address(focus) &&
      state.also === also
    )
      return;
    set({ anchor: address([left, top]), focus: address(focus), also, landing: "", step: "" });
    show();
  };
  hold({ cell: at });
}

// The grid captures the pointer, so two clicks on the grip are told by their times.
function clickedTwice() {
  const before = gripped;
  gripped = performance.now();
  return gripped - before < 400;
}

function startPull(event) {
  const source = state.source || state.writing || selected();
  const [left, top, right, bottom] = area(source);
  // The flag lies outside of the last cell: what is pulled is the corner of that.
  const frame = grid.getBoundingClientRect();
  const corner = box(area(state.target || source));
  grasp = [
    event.clientX - frame.left - (corner.x + corner.width - 2),
    event.clientY - frame.top - (corner.y + corner.height - 2),
  ];
  hold = ({ cell: [column, row] }) => {
    const target = areaText([
      Math.min(left, column),
      Math.min(top, row),
      Math.max(right, column),
      Math.max(bottom, row),
    ]);
    if (target === (state.target || source)) return;
    pulled = true;
    set({ source, target, landing: "", step: "" });
    show();
  };
}

// While a fill is rehearsed, a click looks at one landing.
function choose({ cell: at, part }) {
  const isLanding = part === "cells" && holds(scene.rehearsed ?? area(state.target), at);
  if (isLanding) act("look-at", { to: address(at) });
  else
    tell(
      "A fill is being rehearsed. Land it with Enter or drop it with Esc; a click inside it looks at one landing.",
    );
}
