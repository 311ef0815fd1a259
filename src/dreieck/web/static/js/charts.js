// Charts over the grid: drawn, chosen, moved, sized, and handed out as pictures.
import { areaText } from "./address.js";
import { LIBRARY, optionOf } from "./chart_option.js";
import { ARROWS } from "./directions.js";
import { act, scene, show } from "./exchange.js";
import { hideGuide, showGuide } from "./guide.js";
import { tell } from "./notice.js";
import { box, under } from "./places.js";
import { set, state } from "./state.js";
import { keep, toCells, writingNow } from "./writing.js";

const layer = document.getElementById("charts");
// The charts in view by their numbers: figure, picture, and what it shows.
const known = new Map();
let library = null;

export async function drawCharts() {
  const { charts } = scene;
  for (const [number, chart] of known)
    if (!charts.some((each) => each.number === number)) discardChart(number, chart);
  if (!charts.length) return;
  library ??= import(LIBRARY);
  try {
    await library;
  } catch {
    library = null;
    return tell("The charts cannot be drawn: what draws them did not come.");
  }
  for (const chart of scene.charts) if (chart.drawn) drawChart(chart);
}

function drawChart({ number, box: [x, y, width, height, cutLeft, cutTop], drawn }) {
  if (!known.has(number)) known.set(number, begin(number, { width, height }));
  const chart = known.get(number);
  const { figure } = chart;
  Object.assign(figure.style, {
    left: `${x}px`,
    top: `${y}px`,
    width: `${width}px`,
    height: `${height}px`,
    clipPath: cutLeft || cutTop ? `inset(${cutTop}px -20px -20px ${cutLeft}px)` : "",
  });
  figure.classList.toggle("chosen", state.chart === number);
  figure.setAttribute("aria-label", `Chart ${drawn.title}: ${drawn.kind}`);
  figure.querySelector(".problem").textContent = drawn.problem;
  const size = `${width} ${height}`;
  if (chart.size !== size) chart.picture.resize({ width, height });
  if (chart.drawn !== drawn) chart.picture.setOption(optionOf(drawn), { notMerge: true });
  Object.assign(chart, { drawn, size });
}

function begin(number, { width, height }) {
  const figure = document.createElement("figure");
  figure.className = "chart";
  figure.tabIndex = 0;
  figure.dataset.chart = number;
  const body = document.createElement("div");
  const problem = document.createElement("p");
  problem.className = "problem";
  const corner = document.createElement("i");
  corner.className = "chart-corner";
  figure.append(body, problem, corner);
  layer.append(figure);
  const picture = globalThis.echarts.init(body, null, { renderer: "svg", width, height });
  picture.on("click", ({ seriesIndex, dataIndex }) => {
    const mark = known.get(number).drawn.series[seriesIndex]?.marks[dataIndex];
    if (mark && !dragged) act("go-to", { to: mark.place }).then(() => toCells());
  });
  return { figure, picture, drawn: null, size: `${width} ${height}` };
}

function discardChart(number, { figure, picture }) {
  picture.dispose();
  if (figure.contains(document.activeElement)) toCells();
  figure.remove();
  known.delete(number);
}

// The pointer on a chart chooses it; pulled, it moves it, and by its corner sizes it.
let hold = null;
let dragged = false;

layer.addEventListener("pointerdown", (event) => {
  const figure = event.target.closest(".chart");
  if (!figure || event.button !== 0) return;
  event.stopPropagation();
  const number = Number(figure.dataset.chart);
  const { place } = scene.charts.find((each) => each.number === number);
  const [column, row] = under(event).cell;
  hold = { number, place, corner: event.target.className === "chart-corner", column, row };
  dragged = false;
});

document.addEventListener("pointermove", (event) => {
  if (!hold) return;
  const { place, corner, column, row } = hold;
  const at = under(event).cell;
  const [left, top, right, bottom] = place;
  const [columns, rows] = [
    Math.max(at[0] - column, corner ? left - right : 1 - left),
    Math.max(at[1] - row, corner ? top - bottom : 1 - top),
  ];
  if (!dragged && !columns && !rows) return;
  dragged = true;
  hold.to = corner
    ? [left, top, right + columns, bottom + rows]
    : [left + columns, top + rows, right + columns, bottom + rows];
  showGuide(box(hold.to), areaText(hold.to));
});

for (const name of ["pointerup", "pointercancel"])
  document.addEventListener(name, () => {
    if (!hold) return;
    const { number, to, place } = hold;
    hold = null;
    hideGuide();
    if (name === "pointercancel") return;
    if (to && String(to) !== String(place)) act("place-chart", { number, to: areaText(to) });
    else chooseChart(number);
    known.get(number)?.figure.focus();
  });

export function chooseChart(number) {
  if (state.target) return;
  if (writingNow()) keep("");
  if (state.chart !== number) act("choose-chart", { number });
}

// A chart that was chosen by a key, or drawn just now, has the keys.
let last = 0;
export function focusChosen() {
  if (state.chart && state.chart !== last) known.get(state.chart)?.figure.focus();
  last = state.chart;
}

export function leaveChart() {
  set({ chart: 0 });
  show({ reveal: state.anchor });
  toCells();
}

export const chartPictures = {
  svg: () => hand(svgOf, "image/svg+xml", "svg"),
  png: () => hand(pngOf, "image/png", "png"),
};

// Hands the chosen chart out as a picture.
async function hand(draw, type, ending) {
  const chart = known.get(state.chart);
  if (!chart?.drawn || chart.drawn.problem) return tell("There is no picture to hand out.");
  const { width, height } = chart.figure.getBoundingClientRect();
  const blob = new Blob([await draw(optionOf(chart.drawn), { width, height })], { type });
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = `${chart.drawn.title.replace(/[^\p{L}\p{N}]+/gu, " ").trim() || "chart"}.${ending}`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

function svgOf(option, size) {
  const made = globalThis.echarts.init(null, null, { renderer: "svg", ssr: true, ...size });
  made.setOption(option);
  const text = made.renderToSVGString();
  made.dispose();
  return text;
}

async function pngOf(option, size) {
  const place = document.createElement("div");
  const made = globalThis.echarts.init(place, null, {
    renderer: "canvas",
    devicePixelRatio: 2,
    ...size,
  });
  made.setOption(option);
  const canvas = made.renderToCanvas({ pixelRatio: 2 });
  const blob = await new Promise((resolve) => canvas.toBlob(resolve));
  made.dispose();
  return blob;
}

// Keys on a chart.

export function chartKey({ key, shiftKey: widen }) {
  const [columns, rows] = ARROWS[key] ?? [];
  const number = Number(document.activeElement.dataset.chart);
  if (key === "Escape") leaveChart();
  else if (key === "Enter" || key === " ") chooseChart(number);
  else if (state.chart !== number) return false;
  else if (columns !== undefined) act("step-chart", { columns, rows, widen });
  else if (key === "Delete" || key === "Backspace") act("delete-chart");
  else return false;
  return true;
}
