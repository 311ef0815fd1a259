// A drill: cells are pointed at by pointer or arrows, and go to the field that was used last.
import { ARROWS } from "./directions.js";

const table = document.querySelector("[data-picks]");
const form = document.querySelector(".drill-answer");
const cellField = form?.querySelector("[name=cell]");
const formulaField = form?.querySelector("[name=formula]");
let taking = cellField ?? formulaField;

form?.addEventListener("focusin", ({ target }) => {
  if (target === cellField || target === formulaField) taking = target;
});

function pick(box) {
  if (!taking) return;
  if (taking === cellField) taking.value = box.dataset.at;
  else {
    const { selectionStart: from, selectionEnd: to } = taking;
    if (!taking.value) taking.value = "=";
    taking.setRangeText(box.dataset.at, Math.max(from, 1), Math.max(to, 1), "end");
  }
  show();
}

function show() {
  for (const box of table.querySelectorAll("[data-at]")) {
    const isPicked = box.dataset.at === cellField?.value.trim().toUpperCase();
    box.setAttribute("aria-selected", String(isPicked));
  }
}

if (table && taking) {
  const boxes = [...table.querySelectorAll("[data-at]")];
  reach(boxes.find((box) => box.classList.contains("asked")) ?? boxes[0]);
  cellField?.addEventListener("input", show);
  if (cellField) show();
  table.addEventListener("mousedown", (event) => {
    const box = event.target.closest("[data-at]");
    if (!box) return;
    event.preventDefault();
    reach(box);
    pick(box);
  });
  table.addEventListener("keydown", (event) => {
    const box = event.target.closest("[data-at]");
    if (!box || event.altKey || event.ctrlKey || event.metaKey) return;
    if (event.key === "Enter" || event.key === " ") pick(box);
    else if (event.key in ARROWS) step(box, ARROWS[event.key]);
    else return;
    event.preventDefault();
  });
}

// Of all cells one is reached by Tab.
function reach(box) {
  for (const other of table.querySelectorAll("[tabindex]")) other.removeAttribute("tabindex");
  box.tabIndex = 0;
}

function step(box, [across, down]) {
  const row = box.closest("tbody").rows[box.parentElement.sectionRowIndex + down];
  const next = row?.cells[box.cellIndex + across];
  if (!next?.dataset.at) return;
  reach(next);
  next.focus();
}
