// The row of the shift log that is pointed at, pressed, or has the keys lights its arrow.
import { onLook } from "./looking.js";

let lit = null;

function light(row) {
  if (row === lit) return;
  lit = row;
  for (const each of document.querySelectorAll(".arrows .lit, .listing .lit"))
    each.classList.remove("lit");
  const { lights, letter } = row.dataset;
  row.classList.add("lit");
  const arrow = document.querySelector(
    `.arrows [data-letter="${letter}"] [data-landing="${lights}"]`,
  );
  arrow?.classList.add("lit");
  arrow?.parentElement.append(arrow);
}

onLook("[data-lights]", light);

const here = document.querySelector("tr.here");
if (here) light(here);
