// What a chart shows, as the options of the library that draws it. Series are told apart by hatching,
// lines and symbols as well as by colour.
export const LIBRARY = new URL("../vendor/echarts/echarts.common.min.js", import.meta.url).href;
const TONES = ["c1", "c0", "c4", "c3", "c2", "c5"];
const LINES = ["solid", "dashed", "dotted"];
const SYMBOLS = ["circle", "rect", "triangle", "diamond", "roundRect", "arrow"];
const HATCHES = [
  null,
  { rotation: Math.PI / 4, dashArrayX: [1, 0], dashArrayY: [2, 5] },
  { symbol: "circle", dashArrayX: [[6, 6]], dashArrayY: [6, 6], symbolSize: 0.6 },
  { rotation: -Math.PI / 4, dashArrayX: [1, 0], dashArrayY: [2, 5] },
  { dashArrayX: [1, 0], dashArrayY: [3, 5] },
  { rotation: Math.PI / 2, dashArrayX: [1, 0], dashArrayY: [3, 5] },
];
const FONT = "IBM Plex Sans";
// A mark keeps its tone under the pointer; what it says is enough.
const CALM = { disabled: true };
// So many marks stand so close that they are drawn smaller.
const MANY = 60;

export function optionOf(drawn) {
  const tones = TONES.map(toneOf);
  const [ink, soft, hair] = ["--ink", "--soft", "--hair"].map(fromRoot);
  const base = {
    animation: false,
    color: tones,
    backgroundColor: fromRoot("--sheet"),
    textStyle: { fontFamily: FONT, color: ink },
    title: {
      text: drawn.title,
      left: 14,
      top: 9,
      textStyle: { fontSize: 14, fontWeight: 600, color: ink, fontFamily: FONT },
    },
    tooltip: {
      trigger: "item",
      renderMode: "richText",
      confine: true,
      formatter: ({ seriesIndex, dataIndex }) => said(drawn, seriesIndex, dataIndex),
    },
  };
  if (drawn.kind === "shares") return { ...base, series: [shares(drawn, tones)] };
  const several = drawn.series.length > 1;
  const [across, upward] = axes(drawn, { ink, soft, hair });
  return {
    ...base,
    legend: several
      ? { type: "scroll", left: 14, right: 14, top: 32, itemHeight: 11, textStyle: { color: ink } }
      : undefined,
    grid: { left: 22, right: 22, top: several ? 82 : 62, bottom: drawn.kind === "bars" ? 34 : 38 },
    xAxis: across,
    yAxis: upward,
    series: drawn.series.map((each, index) => series(drawn, each, index, tones)),
  };
}

function said(drawn, at, index) {
  const { name, marks } = drawn.series[at];
  return `${drawn.labels[index]}\n${name}: ${marks[index].text}`;
}

function axes(drawn, { ink, soft, hair }) {
  const line = { axisLine: { show: true, lineStyle: { color: soft } }, axisTick: { show: false } };
  const label = { color: ink, fontSize: 12, hideOverlap: true };
  const named = (name, place) => ({ name, nameTextStyle: { color: soft, fontSize: 12 }, ...place });
  const numbers = (ticks, rest) => ({
    type: "value",
    min: ticks[0]?.[0],
    max: ticks.at(-1)?.[0],
    interval: ticks.length > 1 ? ticks[1][0] - ticks[0][0] : undefined,
    axisLabel: { ...label, formatter: (value) => textAt(ticks, value) },
    splitLine: { lineStyle: { color: hair } },
    ...line,
    ...rest,
  });
  const atEnd = { nameLocation: "end", nameGap: 12, nameTextStyle: { align: "left", color: soft } };
  const below = { nameLocation: "middle", nameGap: 26 };
  const isBars = drawn.kind === "bars";
  const labels = {
    type: "category",
    data: drawn.labels,
    inverse: isBars,
    axisLabel: label,
    ...line,
    ...named(drawn.label_title, isBars ? { ...atEnd, nameLocation: "start" } : below),
  };
  if (drawn.kind === "points")
    return [
      numbers(drawn.across, named(drawn.label_title, below)),
      numbers(drawn.upward, named(drawn.value_title, atEnd)),
    ];
  if (isBars) return [numbers(drawn.upward, named(drawn.value_title, below)), labels];
  return [labels, numbers(drawn.upward, named(drawn.value_title, atEnd))];
}

// The text of the tick at a number.
function textAt(ticks, value) {
  const step = ticks.length > 1 ? ticks[1][0] - ticks[0][0] : 1;
  return ticks.find(([tick]) => Math.abs(tick - value) < step / 1000)?.[1] ?? "";
}

function series({ kind }, { name, marks }, index, tones) {
  const tone = tones[index % tones.length];
  const point = {
    symbol: SYMBOLS[index % SYMBOLS.length],
    symbolSize: marks.length > MANY ? 4 : 7,
    showAllSymbol: true,
  };
  const values = marks.map(({ value }) => value);
  if (kind === "points")
    return {
      type: "scatter",
      name,
      emphasis: CALM,
      ...point,
      symbolSize: 9,
      data: marks.map(({ across, value }) => [across, value]),
    };
  if (kind === "lines" || kind === "areas")
    return {
      type: "line",
      name,
      emphasis: CALM,
      ...point,
      data: values,
      lineStyle: { width: 2, type: LINES[index % LINES.length] },
      areaStyle: kind === "areas" ? { opacity: 0.25, decal: hatch(index, tone) } : undefined,
    };
  return {
    type: "bar",
    name,
    emphasis: CALM,
    data: values,
    stack: kind === "stacked" ? "all" : undefined,
    barMaxWidth: 44,
    itemStyle: { decal: hatch(index, "#fff9") },
  };
}

function shares(drawn, tones) {
  const { marks, name } = drawn.series[0];
  return {
    type: "pie",
    name,
    emphasis: CALM,
    radius: ["0%", "62%"],
    center: ["50%", "56%"],
    label: {
      color: fromRoot("--ink"),
      lineHeight: 15,
      formatter: ({ dataIndex }) => `${drawn.labels[dataIndex]}\n${marks[dataIndex].text}`,
    },
    itemStyle: { borderColor: fromRoot("--sheet"), borderWidth: 2 },
    data: marks.map(({ value }, index) => ({
      value,
      name: drawn.labels[index],
      itemStyle: { color: tones[index % tones.length], decal: hatch(index, "#fff9") },
    })),
  };
}

function hatch(index, color) {
  const pattern = HATCHES[index % HATCHES.length];
  return pattern && { symbol: "rect", color, ...pattern };
}

function fromRoot(name) {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim();
}

function toneOf(name) {
  const probe = document.createElement("i");
  probe.className = name;
  document.body.append(probe);
  const tone = getComputedStyle(probe).getPropertyValue("--ref").trim();
  probe.remove();
  return tone;
}
