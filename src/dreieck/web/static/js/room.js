// How large the grid is. To ask the browser makes it lay the page out anew, so it is asked only after
// the grid has got another size.
const grid = document.getElementById("grid");
let known = null;

export function room() {
  known ??= { width: grid.clientWidth, height: grid.clientHeight };
  return known;
}

new ResizeObserver(() => {
  known = null;
}).observe(grid);
