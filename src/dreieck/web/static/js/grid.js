// Draws the cells in view.
import { address, holds, letters } from "./address.js";
import { scene } from "./exchange.js";
import { HEAD_WIDTH, grid, measure } from "./places.js";
import { state } from "./state.js";

const table = grid.querySelector("table");

export function drawCells() {
  measure();
  const cells = new Map(scene.cells.map((cell) => [`${cell.column},${cell.row}`, cell]));
  const { lines: columns, fixed } = scene.columns;
  table.style.width = `${HEAD_WIDTH + columns.reduce((sum, column) => sum + column.size, 0)}px`;
  const head = make("tr");
  head.append(heading("", HEAD_WIDTH));
  for (const { number, size, gap } of columns)
    head.append(heading(letters(number), size, { column: number }, gap));
  table.tHead.replaceChildren(head);
  table.tBodies[0].replaceChildren(
    ...scene.rows.lines.map((row) => {
      const line = make("tr");
      line.append(heading(row.number, HEAD_WIDTH, { row: row.number }, row.gap));
      columns.forEach(({ number }, index) => {
        const next = index + 1 === fixed ? undefined : columns[index + 1];
        const free = next && !cells.has(`${next.number},${row.number}`);
        line.append(drawn(cells.get(`${number},${row.number}`), number, row, free));
      });
      return line;
    }),
  );
}

function drawn(cell, column, { number: row, size }, spills) {
  const box = make("td");
  box.dataset.cell = address([column, row]);
  box.style.height = `${size}px`;
  if (!cell) return box;
  box.className = cell.kind;
  if (scene.rehearsed && holds(scene.rehearsed, [column, row])) box.classList.add("rehearsed");
  if (spills && cell.kind.startsWith("text") && !cell.kind.includes("heading"))
    box.classList.add("spill");
  box.textContent = cell.shown;
  if (cell.spans) spanOver(box, cell);
  const formula = cell.kind.includes("formula");
  if (formula && state.view === "formulas") {
    box.classList.add("as-formula");
    box.textContent = cell.typed;
  } else if (formula && state.view === "both") {
    const below = make("small");
    below.textContent = cell.typed;
    box.append(below);
  }
  if (cell.hidden)
    box.title = `${cell.hidden}: the column is too narrow; two clicks on the edge of its heading fit it`;
  else if (formula) box.title = cell.typed;
  return box;
}

// The text of a cell that is centred over those to its right.
function spanOver(box, { column, shown, spans }) {
  const text = make("span");
  text.textContent = shown;
  const last = column + spans;
  const widths = scene.columns.lines.filter(({ number }) => number >= column && number <= last);
  text.style.width = `${widths.reduce((sum, { size }) => sum + size, 0) - 16}px`;
  box.classList.add("spill");
  box.replaceChildren(text);
}

function heading(text, width, where = {}, gap = false) {
  const box = make("th");
  box.textContent = text;
  box.style.width = `${width}px`;
  box.classList.toggle("gap", gap);
  if (gap) box.title = "What stands before it is hidden";
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

function make(name) {
  return document.createElement(name);
}
