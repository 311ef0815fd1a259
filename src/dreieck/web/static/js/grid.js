// Draws the cells in view and knows where they are.
import { address } from "./address.js";
import { scene } from "./exchange.js";
import { state } from "./state.js";

export const HEAD_WIDTH = 40;
export const HEAD_HEIGHT = 30;
export const grid = document.getElementById("grid");
const table = grid.querySelector("table");

export function drawCells() {
  const cells = new Map(scene.cells.map((cell) => [`${cell.column},${cell.row}`, cell]));
  const rows = visibleRows();
  table.style.width = `${HEAD_WIDTH + scene.columns.reduce((sum, column) => sum + column.width, 0)}px`;
  const head = make("tr");
  head.append(heading("", HEAD_WIDTH));
  for (const column of scene.columns)
    head.append(heading(column.letters, column.width, { column: column.number }));
  table.tHead.replaceChildren(head);
  table.tBodies[0].replaceChildren(
    ...rows.map((row) => {
      const line = make("tr");
      line.append(heading(row, HEAD_WIDTH, { row }));
      scene.columns.forEach((column, index) => {
        const next = scene.columns[index + 1];
        const free = next && !cells.has(`${next.number},${row}`);
        line.append(drawn(cells.get(`${column.number},${row}`), column.number, row, free));
      });
      return line;
    }),
  );
}

function drawn(cell, column, row, spills) {
  const box = make("td");
  box.dataset.cell = address([column, row]);
  box.style.height = `${scene.row_height}px`;
  if (!cell) return box;
  box.className = cell.kind;
  if (inside(scene.rehearsed, column, row)) box.classList.add("rehearsed");
  if (spills && cell.kind.startsWith("text") && !cell.kind.includes("heading"))
    box.classList.add("spill");
  box.textContent = cell.shown;
  const formula = cell.kind.includes("formula");
  if (formula && state.view === "formulas") {
    box.classList.add("as-formula");
    box.textContent = cell.typed;
  } else if (formula && state.view === "both") {
    const below = make("small");
    below.textContent = cell.typed;
    box.append(below);
  }
  if (formula) box.title = cell.typed;
  return box;
}

function heading(text, width, where = {}) {
  const box = make("th");
  box.textContent = text;
  box.style.width = `${width}px`;
  Object.assign(box.dataset, where);
  return box;
}

export function lightHeadings([left, top, right, bottom]) {
  for (const box of table.querySelectorAll("th")) {
    const { column, row } = box.dataset;
    box.classList.toggle(
      "lit",
      (column >= left && column <= right) || (row >= top && row <= bottom),
    );
  }
}

function visibleRows() {
  const first = scene.state.top;
  const count = Math.ceil((grid.clientHeight - HEAD_HEIGHT) / scene.row_height);
  return Array.from({ length: Math.min(count, 1000000 - first + 1) }, (_, index) => first + index);
}

// The box of an area in pixels of the grid; what is out of view ends just beyond its edge.
export function box([left, top, right, bottom]) {
  const x = edgeOf(left);
  const y = lineOf(top);
  return { x, y, width: edgeOf(right + 1) - x, height: lineOf(bottom + 1) - y };
}

function edgeOf(column) {
  const first = scene.columns[0].number;
  if (column < first) return HEAD_WIDTH - 60;
  let x = HEAD_WIDTH;
  for (const shown of scene.columns) {
    if (shown.number === column) return x;
    x += shown.width;
  }
  return column === scene.columns.at(-1).number + 1 ? x : grid.clientWidth + 60;
}

function lineOf(row) {
  const y = HEAD_HEIGHT + (row - scene.state.top) * scene.row_height;
  return Math.min(Math.max(y, HEAD_HEIGHT - 60), grid.clientHeight + 60);
}

// What lies under a point of the page: a cell, and whether it is one of the headings.
export function under(event) {
  const frame = grid.getBoundingClientRect();
  const x = event.clientX - frame.left;
  const y = event.clientY - frame.top;
  let left = HEAD_WIDTH;
  let column = scene.columns[0].number;
  for (const shown of scene.columns) {
    if (x < left) break;
    column = shown.number;
    left += shown.width;
  }
  const row = Math.max(
    scene.state.top + Math.floor((y - HEAD_HEIGHT) / scene.row_height),
    scene.state.top,
  );
  return {
    cell: [column, Math.min(row, 1000000)],
    part:
      y < HEAD_HEIGHT ? (x < HEAD_WIDTH ? "corner" : "columns") : x < HEAD_WIDTH ? "rows" : "cells",
    beyond: [
      x < HEAD_WIDTH ? -1 : x > grid.clientWidth ? 1 : 0,
      y < HEAD_HEIGHT ? -1 : y > grid.clientHeight ? 1 : 0,
    ],
  };
}

function inside(area, column, row) {
  return area && column >= area[0] && row >= area[1] && column <= area[2] && row <= area[3];
}

function make(name) {
  return document.createElement(name);
}
