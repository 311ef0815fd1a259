// Draws the cells in view.
import { address, area, cell, holds, letters } from "./address.js";
import { entryOf, notKept, scene } from "./exchange.js";
import { HEAD_WIDTH, grid, measure } from "./places.js";
import { chosen, state } from "./state.js";

const table = grid.querySelector("table");
// What the cells were drawn from last; where it is the same they stand as they are.
let drawnFrom = [];

export function drawCells() {
  measure();
  const { cells: shown, columns: across, rows: down, rehearsed } = scene;
  const from = [shown, across, down, String(rehearsed), state.view, state.sheet];
  if (from.every((each, index) => each === drawnFrom[index])) return drawNotKept();
  drawnFrom = from;
  const sheet = document.querySelector("#sheets [aria-current]");
  if (sheet) table.setAttribute("aria-label", `Cells of ${sheet.textContent}`);
  const cells = new Map(scene.cells.map((each) => [`${each.column},${each.row}`, each]));
  const { lines: columns, fixed } = scene.columns;
  table.style.width = `${HEAD_WIDTH + columns.reduce((sum, column) => sum + column.size, 0)}px`;
  const head = make("tr");
  const corner = make("td");
  corner.className = "corner";
  corner.style.width = `${HEAD_WIDTH}px`;
  head.append(corner);
  for (const { number, size, gap } of columns)
    head.append(heading(letters(number), size, { column: number }, gap));
  table.tHead.replaceChildren(head);
  table.tBodies[0].replaceChildren(
    ...scene.rows.lines.map((row) => {
      const line = make("tr");
      line.setAttribute("aria-rowindex", row.number);
      line.append(heading(row.number, HEAD_WIDTH, { row: row.number }, row.gap));
      columns.forEach(({ number }, index) => {
        const next = index + 1 === fixed ? undefined : columns[index + 1];
        const free = next && !cells.has(`${next.number},${row.number}`);
        line.append(drawn(cells.get(`${number},${row.number}`), number, row, free));
      });
      return line;
    }),
  );
  drawNotKept();
}

function drawn(held, column, { number: row, size }, spills) {
  const box = make("td");
  box.dataset.cell = address([column, row]);
  box.setAttribute("aria-colindex", column);
  box.style.height = `${size}px`;
  if (!held) return box;
  box.className = held.kind;
  if (scene.rehearsed && holds(scene.rehearsed, [column, row])) box.classList.add("rehearsed");
  if (spills && held.kind.startsWith("text") && !held.kind.includes("heading"))
    box.classList.add("spill");
  box.textContent = held.shown;
  if (held.spans) spanOver(box, held);
  const formula = held.kind.includes("formula");
  if (formula && state.view === "formulas") {
    box.classList.add("as-formula");
    box.textContent = held.typed;
  } else if (formula && state.view === "both") {
    const below = make("small");
    below.textContent = held.typed;
    box.append(below);
  }
  if (held.hidden)
    box.title = `${held.hidden}: the column is too narrow; two clicks on the edge of its heading fit it`;
  else if (formula) box.title = held.typed;
  return box;
}

// An entry is shown as it was typed until the server has said what it comes to.
function unkept(box, text) {
  drawnFrom = [];
  box.className = "to-keep";
  box.title = "Not kept yet";
  box.textContent = text;
  return box;
}

// Draws the entries of this sheet that are not kept yet.
export function drawNotKept() {
  const { waiting, refused } = notKept();
  for (const each of [...refused, ...waiting]) {
    const entry = entryOf(each);
    if (!entry || entry.sheet !== state.sheet) continue;
    const box = table.querySelector(`td[data-cell="${entry.cell}"]`);
    if (box) unkept(box, entry.text);
  }
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
  box.scope = where.row ? "row" : "col";
  if (where.column) box.setAttribute("aria-colindex", where.column);
  return box;
}

// Tells which headings and cells the selection is in.
export function markSelected() {
  const places = [...state.also.split(",").filter(Boolean).map(area), chosen()];
  const [left, top, right, bottom] = chosen();
  for (const box of table.querySelectorAll("th")) {
    const { column, row } = box.dataset;
    box.classList.toggle(
      "lit",
      (column >= left && column <= right) || (row >= top && row <= bottom),
    );
  }
  for (const box of table.tBodies[0].querySelectorAll("td")) {
    const at = cell(box.dataset.cell);
    const isSelected = String(places.some((each) => holds(each, at)));
    if (box.getAttribute("aria-selected") !== isSelected)
      box.setAttribute("aria-selected", isSelected);
  }
}

function make(name) {
  return document.createElement(name);
}
