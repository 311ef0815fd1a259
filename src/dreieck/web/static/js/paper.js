// Pages for paper: they print on request, and draw their charts before.
import { LIBRARY, optionOf } from "./chart_option.js";

const WIDTH = 640;
const HEIGHT = 340;

for (const button of document.querySelectorAll("[data-print]"))
  button.addEventListener("click", () => print());

const figures = [...document.querySelectorAll("[data-chart]")];

async function drawCharts() {
  try {
    await import(LIBRARY);
  } catch {
    for (const figure of figures)
      figure.textContent = "This chart cannot be drawn: what draws it did not come.";
    return;
  }
  for (const figure of figures) {
    const drawn = JSON.parse(figure.dataset.chart);
    if (drawn.problem) figure.textContent = drawn.problem;
    else {
      const size = { renderer: "svg", width: WIDTH, height: HEIGHT };
      globalThis.echarts.init(figure, null, size).setOption(optionOf(drawn));
    }
  }
}

if (figures.length) await drawCharts();
document.body.dataset.ready = "true";
