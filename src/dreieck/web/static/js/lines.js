// Going from line to line of an axis, 0 for columns and 1 for rows, past those that are hidden. What
// is known of an axis: the `lines` in view by number, of which the first `fixed` ones stay in view,
// and the numbers of those `before` the first one that is scrolled. Nothing here touches the page.
import { LAST } from "./address.js";

// The line so many lines further.
export function lineAfter({ lines, fixed, before }, axis, from, steps) {
  const index = lines.findIndex((line) => line.number === from);
  const next = lines[index + steps];
  const number = from + steps;
  if (steps === 0 || index < 0 || !next) return limited(number, axis);
  if (index < fixed === index + steps < fixed) return next.number;
  return index < fixed ? number : (before[-1 - (index + steps - fixed)] ?? next.number);
}

// The line that comes first, where `first` did, once it is scrolled by so many lines.
export function firstAfter({ lines, fixed, before }, axis, first, steps) {
  const others = lines.slice(fixed);
  const index = others.findIndex((line) => line.number === first);
  // The lines that can be reached without a leap, and where the first one in view is among them.
  const near = [...before.toReversed(), ...others.map((line) => line.number)];
  const there = before.length + index + steps;
  if (index < 0) return limited(first + steps, axis);
  if (there < 0) return limited(near[0] + there, axis);
  return near[there] ?? limited(near.at(-1) + there - near.length + 1, axis);
}

function limited(number, axis) {
  return Math.min(Math.max(number, 1), LAST[axis]);
}
