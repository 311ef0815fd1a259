// Draws over the grid: rails, the figures between start and landing, the selection, the grip.
import { area } from "./address.js";
import { scene } from "./exchange.js";
import { onLook } from "./looking.js";
import { chosen, standsApart, state } from "./state.js";
import { borders, box, grid, inView, isIn, panes, spot } from "./places.js";
import { room } from "./room.js";

const svg = grid.querySelector(".overlay");
// The figures lie below the cells, so that no line strikes through a number.
const below = grid.querySelector(".underlay");

export function drawOverlay() {
  const clips = element("defs", {});
  svg.replaceChildren(clips);
  const lit = chosenLetter();
  below.replaceChildren(
    ...scene.ties.filter((tie) => lit === null || tie.letter === lit).map(figure),
  );
  panes().forEach((pane, index) => {
    clips.append(clip(pane, index));
    const body = element("g", { "clip-path": `url(#pane-${index})` });
    drawPane(body, pane);
    svg.append(body);
  });
  borders().forEach((at, axis) => {
    if (at)
      svg.append(
        line(
          ...(axis
            ? [
                [0, at],
                [room().width, at],
              ]
            : [
                [at, 0],
                [at, room().height],
              ]),
          "border",
        ),
      );
  });
  for (const point of scene.ties.length ? [scene.start, scene.here] : [])
    if (inView(point)) dot(svg, point);
  if (!state.home && !standsApart())
    drawGrip(svg, scene.rehearsed ?? (state.writing ? area(state.writing) : chosen()));
}

// With many references the figure of one is drawn: that whose card is pointed at or has the keys, or
// that the caret is in, or the first.
let pointedAt = null;
const MANY = 3;

function chosenLetter() {
  const letters = [...new Set(scene.ties.map((tie) => tie.letter))];
  if (letters.length <= MANY) return null;
  const atCaret = scene.chips.find(({ start, end }) => start <= state.caret && state.caret <= end);
  return (
    [pointedAt, state.text !== null ? atCaret?.index : null].find((each) =>
      letters.includes(each),
    ) ?? letters[0]
  );
}

onLook("[data-letter]", ({ dataset }) => {
  if (Number(dataset.letter) === pointedAt) return;
  pointedAt = Number(dataset.letter);
  if (scene) drawOverlay();
});

// What lies in one of the parts of the grid that are scrolled on their own.
function drawPane(body, pane) {
  const outline = (held, name) => {
    if (isIn(held, pane)) drawOutline(body, box(held, pane), name);
  };
  const frames = scene.frames.filter((frame) => isIn(frame.area, pane));
  for (const reader of scene.dependents) outline(reader, "reader");
  if (scene.block && !scene.rehearsed) outline(scene.block, "block");
  if (scene.fan) {
    outline(scene.fan, "fan");
    outline([...scene.fan.slice(0, 2), ...scene.fan.slice(0, 2)], "origin");
  }
  if (scene.rehearsed) outline(scene.rehearsed, "rehearsal");
  if (scene.copied) outline(scene.copied, "copied");
  for (const each of scene.shared) outline(each, "shared");
  for (const frame of frames) drawFrame(body, frame, box(frame.area, pane));
  if (!scene.rehearsed)
    for (const each of state.also.split(",").filter(Boolean)) outline(area(each), "also");
  if (state.anchor !== state.focus && !scene.rehearsed) outline(chosen(), "area");
  if (scene.start && (scene.rehearsed || scene.block))
    outline([...scene.start, ...scene.start], "origin");
  outline(scene.rehearsed && scene.here ? [...scene.here, ...scene.here] : chosen(), "chosen");
  for (const frame of frames) drawLetter(body, frame, box(frame.area, pane));
  if (state.writing && state.proving < 0 && !state.home && !scene.rehearsed)
    outline(area(state.writing), "origin");
}

function figure(tie) {
  const same = String(tie.start_reads) === String(tie.here_reads);
  const ends = [
    [tie.start, tie.start_reads],
    [tie.here, tie.here_reads],
  ].map(([from, area]) => (same ? area.slice(0, 2) : nearest(from, area)));
  const points = [tie.start, ends[0], ends[1], tie.here].map(low);
  const group = element("g", { class: `c${tie.colour}` });
  group.append(
    element("polygon", {
      class: "figure",
      points: points.map((point) => point.join(",")).join(" "),
    }),
  );
  group.append(line(points[0], points[1], "old"), line(points[3], points[2], "new"));
  return group;
}

function drawFrame(body, frame, { x, y, width, height }) {
  const [left, top, right, bottom] = [x + 2, y + 2, x + width - 2, y + height - 2];
  const edges = [
    [
      [left, top],
      [left, bottom],
    ],
    [
      [left, top],
      [right, top],
    ],
    [
      [right, top],
      [right, bottom],
    ],
    [
      [left, bottom],
      [right, bottom],
    ],
  ];
  const group = element("g", { class: `c${frame.colour}${frame.at_start ? " at-start" : ""}` });
  edges.forEach(([from, to], index) =>
    group.append(line(from, to, frame.solid[index] ? "solid" : "free")),
  );
  body.append(group);
  // What a landing of a rule reads follows from its first cell.
  const isLanding = state.rule_for && scene.ties.length && !frame.at_start;
  if (state.text !== null && !scene.rehearsed && frame.index >= 0 && !isLanding)
    drawHandles(group, frame, { left, top, right, bottom });
}

// While a formula is written, a frame can be moved by its edges and pulled by its corners.
function drawHandles(group, frame, at) {
  const index = scene.frames.indexOf(frame);
  group.append(
    element("rect", {
      class: "frame-edge",
      "data-frame": index,
      x: at.left,
      y: at.top,
      width: at.right - at.left,
      height: at.bottom - at.top,
    }),
  );
  for (const corner of ["left top", "right top", "left bottom", "right bottom"]) {
    const [across, down] = corner.split(" ");
    group.append(
      element("rect", {
        class: "frame-corner",
        "data-frame": index,
        "data-corner": corner,
        x: at[across] - 4,
        y: at[down] - 4,
        width: 8,
        height: 8,
      }),
    );
  }
}

function drawLetter(body, frame, { x, y }) {
  if (frame.at_start) return;
  const letter = element("g", { class: `letter c${frame.colour}` });
  // Frames over the same cell show their letters one below the other.
  const same = scene.frames.filter(
    (other) => !other.at_start && String(other.area) === String(frame.area),
  );
  const shift = same.indexOf(frame) * 15;
  letter.append(element("circle", { cx: x + 3 + shift, cy: y + 14, r: 7.5 }));
  const text = element("text", { x: x + 3 + shift, y: y + 18 });
  text.textContent = frame.tag;
  letter.append(text);
  body.append(letter);
}

function drawGrip(body, held) {
  const last = held.slice(2);
  if (!inView(last)) return;
  const { x, y, width, height } = box([...last, ...last]);
  const [right, bottom] = [x + width + 2, y + height + 2];
  body.append(
    element("rect", { class: "grip-reach", x: right - 4, y: bottom - 4, width: 24, height: 24 }),
  );
  body.append(element("path", { class: "grip", d: `M${right} ${bottom}h15l-15 15z` }));
}

function drawOutline(body, { x, y, width, height }, name) {
  body.append(
    element("rect", {
      class: name,
      x: x + 1,
      y: y + 1,
      width: Math.max(width - 2, 1),
      height: Math.max(height - 2, 1),
    }),
  );
}

function dot(body, point) {
  const [cx, cy] = low(point);
  body.append(element("circle", { class: "dot", cx, cy, r: 3.5 }));
}

// The cell of an area that lies nearest to a cell outside of it.
function nearest([column, row], [left, top, right, bottom]) {
  return [Math.min(Math.max(column, left), right), Math.min(Math.max(row, top), bottom)];
}

// Lines run low in the cells, below the numbers, and along the right edge where formulas are shown.
function low(point) {
  const { x, y, width, height } = spot(point);
  return state.view === "values" ? [x + 16, y + height - 5] : [x + width - 5, y + height - 4];
}

function line([x1, y1], [x2, y2], name) {
  return element("line", { class: name, x1, y1, x2, y2 });
}

function clip([columns, rows], index) {
  const path = element("clipPath", { id: `pane-${index}` });
  const [x, y] = [columns.from - 9, rows.from - 1];
  path.append(element("rect", { x, y, width: columns.to - x, height: rows.to - y }));
  return path;
}

function element(name, attributes) {
  const made = document.createElementNS("http://www.w3.org/2000/svg", name);
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, value);
  return made;
}
