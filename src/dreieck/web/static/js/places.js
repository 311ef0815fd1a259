// Where columns, rows and cells are, in pixels of the grid. The first ones of an axis may be fixed:
// they stay in view while the others are scrolled.
import { scene } from "./exchange.js";
import { firstAfter, lineAfter } from "./lines.js";
import { room } from "./room.js";
import { BAR, state } from "./state.js";

export const HEAD_WIDTH = 40;
export const HEAD_HEIGHT = 30;
export const grid = document.getElementById("grid");

const HEADS = [HEAD_WIDTH, HEAD_HEIGHT];
const NAMES = ["columns", "rows"];
// How near to the edge of a heading the pointer grasps it.
const NEAR = 4;
// What is out of view ends just beyond its part of the grid.
const BEYOND = 60;
// Columns and rows: the lines in view with their places, and their one or two parts.
let axes = [];

// Takes in what the scene shows.
export function measure() {
  const ends = [room().width, room().height];
  axes = NAMES.map((name, axis) => {
    let place = HEADS[axis];
    const lines = scene[name].lines.map((line) => {
      const from = place;
      place += line.size;
      return { ...line, from, to: place };
    });
    const { fixed, before } = scene[name];
    const border = lines[fixed].from;
    const parts = [
      { lines: lines.slice(0, fixed), from: HEADS[axis], to: border },
      { lines: lines.slice(fixed), from: border, to: ends[axis] },
    ].filter((part) => part.lines.length);
    return { lines, fixed, before, border, parts };
  });
}

// The parts of the grid that are scrolled on their own: one, two or four.
export function panes() {
  const [across, down] = axes;
  return down.parts.flatMap((rows) => across.parts.map((columns) => [columns, rows]));
}

// Where the headings that stay in view end; 0 where none do.
export function borders() {
  return axes.map((axis) => (axis.fixed ? axis.border : 0));
}

// The box of an area in one of the panes; without one, in that of its first cell.
export function box([left, top, right, bottom], pane = paneOf([left, top])) {
  const [columns, rows] = pane;
  const x = edge(columns, left);
  const y = edge(rows, top);
  return { x, y, width: edge(columns, right + 1) - x, height: edge(rows, bottom + 1) - y };
}

// Whether some of an area is shown in a pane.
export function isIn([left, top, right, bottom], [columns, rows]) {
  const meets = ({ lines }, first, last) => first <= lines.at(-1).number && last >= lines[0].number;
  return meets(columns, left, right) && meets(rows, top, bottom);
}

// The box of a cell; of one that is out of view the place at which the view leaves it out.
export function spot(cell) {
  const [[x, width], [y, height]] = cell.map((number, axis) => {
    const line = axes[axis].lines.find((each) => each.number === number);
    if (line) return [line.from, line.size];
    const { lines, parts, border } = axes[axis];
    return [
      number > lines.at(-1).number
        ? parts.at(-1).to + BEYOND
        : parts.length > 1
          ? border
          : border - BEYOND,
      0,
    ];
  });
  return { x, y, width, height };
}

export function inView(cell) {
  return cell.every((number, axis) => axes[axis].lines.some((line) => line.number === number));
}

function paneOf(cell) {
  return cell.map(
    (number, axis) => axes[axis].parts.findLast(isFrom(number)) ?? axes[axis].parts[0],
  );
}

function isFrom(number) {
  return (part, index) => index === 0 || number >= part.lines[0].number;
}

// Where a line begins in its part of the grid.
function edge({ lines, from, to }, number) {
  if (number < lines[0].number) return from - BEYOND;
  const last = lines.at(-1);
  if (number > last.number + 1) return to + BEYOND;
  return lines.find((line) => line.number >= number)?.from ?? last.to;
}

// What lies under a point of the page: a cell, whether it is one of the headings, and the line
// whose edge it is near to.
export function under(event) {
  const frame = grid.getBoundingClientRect();
  const point = [event.clientX - frame.left, event.clientY - frame.top];
  const size = [room().width, room().height];
  const [x, y] = point.map((place, axis) => place < HEADS[axis]);
  const part = y ? (x ? "corner" : "columns") : x ? "rows" : "cells";
  const axis = NAMES.indexOf(part);
  return {
    cell: axes.map(
      ({ lines }, index) => (lines.find((line) => point[index] < line.to) ?? lines.at(-1)).number,
    ),
    part,
    edge: axis < 0 ? undefined : axes[axis].lines.find((line) => isNear(line, point[axis])),
    // How far it lies beyond what is seen, in pixels.
    beyond: point.map(
      (place, index) =>
        Math.min(place - HEADS[index], 0) + Math.max(place - (size[index] - BAR), 0),
    ),
  };
}

function isNear(line, place) {
  return Math.abs(line.to - place) <= NEAR;
}

// The cell so many columns and rows further, past those that are hidden.
export function stepped(cell, columns, rows) {
  return [columns, rows].map((steps, axis) => lineAfter(axes[axis], axis, cell[axis], steps));
}

// Which line comes first when an axis, 0 or 1, is scrolled by so many lines.
export function scrolled(axis, steps) {
  return firstAfter(axes[axis], axis, axis ? state.top : state.left, steps);
}

// How many lines can be scrolled, of those that are in view, and which one comes first.
export function scrollable(axis) {
  return { first: axes[axis].fixed + 1, shown: axes[axis].lines.length - axes[axis].fixed };
}
