// Pulls the edge of a heading: the column or row, or all that are selected, take the new size.
import { act } from "./exchange.js";
import { hideGuide, showGuide } from "./guide.js";
import { grid } from "./places.js";

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
      hideGuide();
      if (twice) act("fit-lines", { axis, at: edge.number });
      else if (size !== edge.size) act("resize-lines", { axis, at: edge.number, size });
    },
  };
}

function drawGuide(across, at, size) {
  const bar = across
    ? { x: at, y: 0, width: 2, height: grid.clientHeight }
    : { x: 0, y: at, width: grid.clientWidth, height: 2 };
  showGuide(bar, `${size} px`);
}
