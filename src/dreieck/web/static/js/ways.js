// Four ways: rails around what a landing reads, and one's own table, written as on the workbench.
import { ARROWS } from "./directions.js";
import { onLook } from "./looking.js";

const SVG = "http://www.w3.org/2000/svg";

function draw(grid, landing) {
  const svg = grid.querySelector("svg");
  const lines = [];
  if (landing?.dataset.frame) {
    const [left, top, right, bottom, ...locked] = landing.dataset.frame.split(" ").map(Number);
    const cells = [...grid.querySelectorAll("tbody tr")].map((row) => [
      ...row.querySelectorAll("td"),
    ]);
    const begin = cells[top][left];
    const end = cells[bottom - 1][right - 1];
    const [x1, y1] = [begin.offsetLeft + 2, begin.offsetTop + 2];
    const [x2, y2] = [end.offsetLeft + end.offsetWidth - 2, end.offsetTop + end.offsetHeight - 2];
    const edges = [
      [x1, y1, x1, y2],
      [x1, y1, x2, y1],
      [x2, y1, x2, y2],
      [x1, y2, x2, y2],
    ];
    edges.forEach((edge, index) => lines.push(line(edge, locked[index] ? "solid" : "free")));
    const from = [
      landing.offsetLeft + landing.offsetWidth / 2,
      landing.offsetTop + landing.offsetHeight - 4,
    ];
    lines.push(line([...from, (x1 + x2) / 2, y2 - 3], "new"));
  }
  svg.replaceChildren(...lines);
  for (const each of grid.querySelectorAll(".here")) each.classList.remove("here");
  landing?.classList.add("here");
  grid.nextElementSibling.textContent = landing?.dataset.reads ?? "";
}

function line([x1, y1, x2, y2], name) {
  const made = document.createElementNS(SVG, "line");
  for (const [key, value] of Object.entries({ x1, y1, x2, y2, class: name }))
    made.setAttribute(key, value);
  return made;
}

// What is pointed at in one way is shown in all, so that they can be compared.
function showAll(at) {
  for (const grid of document.querySelectorAll(".way .small-grid"))
    draw(grid, grid.querySelector(`[data-at="${at}"][data-reads]`));
}

for (const grid of document.querySelectorAll(".way .small-grid")) {
  const first = grid.querySelector(`[data-at="${grid.dataset.start}"]`);
  if (first) first.tabIndex = 0;
  draw(grid, first);
}

onLook(".way [data-reads]", (landing) => showAll(landing.dataset.at));

// Arrows go from cell to cell.
document.addEventListener("keydown", (event) => {
  const step = ARROWS[event.key] ?? (event.key === "Enter" ? [0, 1] : null);
  const box = event.target.closest(".small-grid td");
  if (!step || !box) return;
  const own = event.target.tagName === "INPUT";
  if (
    own &&
    step[0] &&
    !event.target.readOnly &&
    event.target.value &&
    !atEnd(event.target, step[0])
  )
    return;
  event.preventDefault();
  const row = box.parentElement.parentElement.rows[box.parentElement.rowIndex - 1 + step[1]];
  const next = row?.cells[box.cellIndex + step[0]];
  const place = own ? next?.querySelector("input") : next;
  if (!place || (!own && !place.dataset.reads)) return;
  if (!own) {
    event.target.tabIndex = -1;
    place.tabIndex = 0;
  }
  place.focus();
});

function atEnd({ selectionStart, selectionEnd, value }, direction) {
  return direction < 0 ? selectionEnd === 0 : selectionStart === value.length;
}

const PLACE = "place in one's own table";

// A cell shows what it comes to; the one that is written shows its entry.
for (const each of document.querySelectorAll(".own-grid input")) {
  let entry = each.value;
  const rest = () => {
    const changed = each.value !== entry;
    entry = each.value;
    if (!changed && each.dataset.shown) each.value = each.dataset.shown;
    if (!changed) return;
    // Where the hands went on is found again on the page that comes.
    setTimeout(() => {
      sessionStorage.setItem(PLACE, document.activeElement.name ?? "");
      each.form.requestSubmit();
    });
  };
  each.addEventListener("focus", () => {
    each.value = entry;
    each.select();
  });
  each.addEventListener("blur", rest);
  each.form.addEventListener("formdata", ({ formData }) => formData.set(each.name, entry));
  rest();
}
document.querySelector(`.own-grid [name="${sessionStorage.getItem(PLACE)}"]`)?.focus();
sessionStorage.removeItem(PLACE);
