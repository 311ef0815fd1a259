// Pages for paper: they print on request, and draw their charts before.
import { optionOf } from "./chart_option.js";

const LIBRARY = "/static/vendor/echarts/echarts.common.min.js";
const WIDTH = 640;
const HEIGHT = 340;

for (const button of document.querySelectorAll("[data-print]"))
  button.addEventListener("click", () => print());

const figures = document.querySelectorAll("[data-chart]");
if (figures.length) {
  await import(LIBRARY);
  for (const figure of figures) {
    const drawn = JSON.parse(figure.dataset.chart);
    if (drawn.problem) figure.textContent = drawn.problem;
    else {
      const size = { renderer: "svg", width: WIDTH, height: HEIGHT };
      globalThis.echarts.init(figure, null, size).setOption(optionOf(drawn));
    }
  }
}
document.body.dataset.ready = "true";
