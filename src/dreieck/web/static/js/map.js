// The shape map: larger for large sheets, and walked by keys.
import { walkByKeys } from "./walking.js";

const map = document.querySelector(".map");
const pane = document.querySelector(".map-pane");

document.addEventListener("click", ({ target }) => {
  const times = target.closest("[data-zoom]")?.dataset.zoom;
  if (!times) return;
  // What is in the middle stays there.
  const at = [
    (pane.scrollLeft + pane.clientWidth / 2) / map.clientWidth,
    (pane.scrollTop + pane.clientHeight / 2) / map.clientHeight,
  ];
  map.style.width = `${100 * times}%`;
  map.style.height = `${618 * times}px`;
  pane.scrollTo(
    at[0] * map.clientWidth - pane.clientWidth / 2,
    at[1] * map.clientHeight - pane.clientHeight / 2,
  );
  for (const each of document.querySelectorAll("[data-zoom]"))
    each.setAttribute("aria-pressed", String(each.dataset.zoom === times));
});

walkByKeys(map, "a");
