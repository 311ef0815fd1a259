// Says aloud where the hands are and what came of it, once they rest: not every step on the way.
import { onScene, scene, waits } from "./exchange.js";
import { active, state } from "./state.js";
import { cell } from "./address.js";
import { activeCell, entryInView } from "./writing.js";

const heard = document.getElementById("heard");
// So long the hands rest before something is said, in milliseconds; who writes is let write.
const REST = { selecting: 120, writing: 700 };
let timer = 0;

// Where the hands are is told at once; what stands there and what it means comes with the picture.
export function tellPlace() {
  const { cell: at, says } = scene.heard;
  const [column, row] = cell(active());
  activeCell.setAttribute("aria-rowindex", row);
  activeCell.setAttribute("aria-colindex", column);
  const known = at === active() && !waits();
  activeCell.setAttribute("aria-label", known ? says : `${active()} ${entryInView()}`.trim());
}

onScene(() => {
  const { cell: at, says } = scene.heard;
  tellPlace();
  clearTimeout(timer);
  timer = setTimeout(
    () => {
      if (waits() || at !== (state.writing || active()) || heard.textContent === says) return;
      heard.textContent = says;
    },
    state.text === null ? REST.selecting : REST.writing,
  );
});
