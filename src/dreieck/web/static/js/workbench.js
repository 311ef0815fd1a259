// Puts the workbench together: every scene is drawn, every control asks for its action.
import { cell, span } from "./address.js";
import { act, onScene, set, show, state } from "./exchange.js";
import { drawCells, grid, lightHeadings } from "./grid.js";
import { help, setView } from "./keyboard.js";
import { drawOverlay } from "./overlay.js";
import "./pointing.js";
import { drawBars } from "./scrolling.js";
import { discard, drawWriting, drop, inCell, keep, write } from "./writing.js";

const OWN_ACTS = { write: () => write(), keep: () => (state.target ? act("land") : keep("down")), discard, drop, help };

onScene(() => {
  drawCells();
  drawOverlay();
  drawWriting();
  drawBars();
  lightHeadings(span(cell(state.anchor), cell(state.focus)));
  const address = document.getElementById("address");
  if (document.activeElement !== address) address.value = state.writing || state.anchor;
});

document.addEventListener("click", (event) => {
  const control = event.target.closest("[data-action], [data-act], [data-step], [data-view]");
  if (!control) return;
  event.preventDefault();
  const { action, act: own, step, view, ...wish } = control.dataset;
  if (action) act(action, wish);
  else if (own) OWN_ACTS[own]();
  else if (view) setView(view);
  else {
    set({ step });
    show();
  }
  if (own !== "write" && own !== "help") (document.activeElement?.closest(".line") ? document.activeElement : inCell).focus();
});

document.addEventListener("submit", (event) => {
  const form = event.target.closest("[data-form]");
  if (!form) return;
  event.preventDefault();
  act(form.dataset.form, Object.fromEntries(new FormData(form)));
  inCell.focus();
});

document.getElementById("help").addEventListener("click", (event) => {
  if (event.target.id === "help" || event.target.closest("[data-close]")) event.currentTarget.close();
});

new ResizeObserver(() => show()).observe(grid);
document.fonts.ready.then(() => show());
inCell.focus();
