// Links drawn on a picture: one is reached by Tab, arrows go to the nearest one in their direction.
import { ARROWS } from "./directions.js";

function middle(element) {
  const { x, y, width, height } = element.getBoundingClientRect();
  return [x + width / 2, y + height / 2];
}

function nearest(all, from, [right, down]) {
  const [x, y] = middle(from);
  let best = null;
  let least = Infinity;
  for (const each of all) {
    const [toX, toY] = middle(each);
    const along = (toX - x) * right + (toY - y) * down;
    const aside = Math.abs((toX - x) * down) + Math.abs((toY - y) * right);
    const far = along + 2 * aside;
    if (each !== from && along > 1 && far < least) [best, least] = [each, far];
  }
  return best;
}

export function walkByKeys(picture, links) {
  const all = [...picture.querySelectorAll(links)];
  all.forEach((each, index) => each.setAttribute("tabindex", index ? "-1" : "0"));
  picture.addEventListener("keydown", (event) => {
    const way = ARROWS[event.key];
    const here = event.target.closest(links);
    if (!way || !here) return;
    event.preventDefault();
    const next = nearest(all, here, way);
    if (!next) return;
    for (const each of all) each.setAttribute("tabindex", each === next ? "0" : "-1");
    next.focus();
  });
}
