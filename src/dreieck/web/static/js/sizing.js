// Pulls the edge of a heading: the column or row, or all that are selected, take the new size.
import { act } from "./exchange.js";
import { grid, under } from "./places.js";

const guide = document.getElementById("size-guide");
const SMALLEST = 12;
// Two presses within so many milliseconds fit the size to what is shown.
const TWICE = 400;
let last = { line: "", at: -TWICE };

// The pointer went down on an edge: what to do when it moves and when it comes up.
export function startSizing({ part, edge }, event) {
  const across = part === "columns";
  const axis = across ? "column" : "row";
  const line = `${axis} ${edge.number}`;
  const twice = last.line === line && event.timeStamp - last.at < TWICE;
  last = { line, at: event.timeStamp };
  const place = (moved) => (across ? moved.clientX : moved.clientY);
  const begun = place(event);
  let size = edge.size;
  return {
    move(moved) {
      size = Math.max(edge.size + Math.round(place(moved) - begun), SMALLEST);
      drawGuide(across, edge.from + size, size);
    },
    end() {
      guide.hidden = true;
      if (twice) act("fit-lines", { axis, at: edge.number });
      else if (size !== edge.size) act("resize-lines", { axis, at: edge.number, size });
    },
  };
}

function drawGuide(across, at, size) {
  guide.hidden = false;
  guide.className = across ? "across" : "down";
  guide.style.left = across ? `${at}px` : "0";
  guide.style.top = across ? "0" : `${at}px`;
  guide.firstElementChild.textContent = `${size} px`;
}

// The pointer tells where an edge can be pulled.
grid.addEventListener("pointermove", (event) => {
  const { part, edge } = under(event);
  grid.style.cursor = edge ? (part === "columns" ? "col-resize" : "row-resize") : "";
});
