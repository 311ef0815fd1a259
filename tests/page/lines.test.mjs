// Going from line to line, past those that are hidden, where some stay in view.
import assert from "node:assert/strict";
import { test } from "node:test";

const { firstAfter, lineAfter } = await import("#js/lines.js");

const ROW = 1;

function axis(numbers, { fixed = 0, before = [] } = {}) {
  return { lines: numbers.map((number) => ({ number })), fixed, before };
}

const CASES = [
  // what is in view, from, steps, where it leads
  ["all in view", axis([1, 2, 3, 4]), 2, 1, 3],
  ["the same line", axis([1, 2, 3]), 2, 0, 2],
  ["past hidden ones", axis([1, 2, 5, 6]), 2, 1, 5],
  ["past hidden ones, back", axis([1, 2, 5, 6]), 5, -1, 2],
  ["out of view", axis([1, 2, 3]), 3, 1, 4],
  ["before the first", axis([1, 2, 3]), 1, -1, 1],
  ["beyond the last of the sheet", axis([999999, 1000000]), 1000000, 1, 1000000],
  ["from a line that is not in view", axis([10, 11]), 3, 2, 5],
  ["within those that stay", axis([1, 2, 8, 9], { fixed: 2, before: [7, 6] }), 1, 1, 2],
  [
    "out of those that stay: the next, though it is not in view",
    axis([1, 2, 8, 9], { fixed: 2, before: [7, 6] }),
    2,
    1,
    3,
  ],
  [
    "back over the edge: the one before, though it is not in view",
    axis([1, 2, 8, 9], { fixed: 2, before: [7, 5] }),
    8,
    -1,
    7,
  ],
  [
    "back over the edge by two: past one that is hidden",
    axis([1, 2, 8, 9], { fixed: 2, before: [7, 5] }),
    8,
    -2,
    5,
  ],
  ["back over the edge with nothing between", axis([1, 2, 3], { fixed: 2 }), 3, -1, 2],
];

for (const [name, shown, from, steps, expected] of CASES)
  test(`a step leads on: ${name}`, () =>
    assert.equal(lineAfter(shown, ROW, from, steps), expected));

const SCROLLS = [
  ["down by one", axis([4, 5, 6], { before: [3, 2] }), 4, 1, 5],
  ["down past a hidden one", axis([4, 6, 7]), 4, 1, 6],
  ["up by two", axis([4, 5, 6], { before: [3, 1] }), 4, -2, 1],
  ["up beyond what is known", axis([40, 41], { before: [39, 37] }), 40, -4, 35],
  ["up beyond the first", axis([2, 3], { before: [1] }), 2, -5, 1],
  ["down beyond what is in view", axis([4, 5, 6]), 4, 10, 14],
  ["the fixed ones do not count", axis([1, 2, 8, 9, 10], { fixed: 2, before: [7] }), 8, 2, 10],
  ["from a line that is not in view", axis([4, 5]), 20, 3, 23],
];

for (const [name, shown, first, steps, expected] of SCROLLS)
  test(`the view is scrolled: ${name}`, () =>
    assert.equal(firstAfter(shown, ROW, first, steps), expected));
