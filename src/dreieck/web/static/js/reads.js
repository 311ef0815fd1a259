// On the reads map what is pointed at, or has the keys, stands out with all that feeds it or is fed.
import { onLook } from "./looking.js";
import { walkByKeys } from "./walking.js";

const map = document.querySelector(".reads svg");

function trace(number) {
  const ties = [...map.querySelectorAll(".feeds")];
  const lit = new Set();
  for (const [from, to] of [
    ["start", "end"],
    ["end", "start"],
  ]) {
    const waiting = [number];
    const seen = new Set(waiting);
    while (waiting.length) {
      const here = waiting.pop();
      for (const tie of ties.filter((each) => each.dataset[from] === here)) {
        lit.add(tie);
        if (!seen.has(tie.dataset[to])) waiting.push(tie.dataset[to]);
        seen.add(tie.dataset[to]);
      }
    }
    for (const each of seen) lit.add(map.querySelector(`[data-number="${each}"]`));
  }
  map.classList.add("traced");
  for (const each of map.querySelectorAll(".feeds, .knot"))
    each.classList.toggle("lit", lit.has(each));
}

if (map) {
  onLook(".knot[data-number]", ({ dataset }) => trace(dataset.number));
  map.addEventListener("pointerleave", () => {
    map.classList.remove("traced");
  });
  walkByKeys(map, ".knot");
}
