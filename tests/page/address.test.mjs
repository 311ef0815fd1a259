// Addresses, and where entries go round in an area.
import assert from "node:assert/strict";
import { test } from "node:test";

const { LAST, address, area, areaText, cell, holds, letters, roundNext, span } =
  await import("#js/address.js");

test("every column has letters of its own, and they lead back to it", () => {
  const all = Array.from({ length: LAST[0] }, (_, index) => letters(index + 1));
  assert.equal(new Set(all).size, LAST[0]);
  for (const [index, name] of all.entries()) assert.deepEqual(cell(`${name}7`), [index + 1, 7]);
  assert.deepEqual(
    [all[25], all[26], all[701], all[702], all.at(-1)],
    ["Z", "AA", "ZZ", "AAA", "ZZZ"],
  );
});

test("an area is told by its corners, whichever of them comes first", () => {
  assert.deepEqual(area("C5:A9"), [1, 5, 3, 9]);
  assert.equal(areaText(span(cell("C9"), cell("A5"))), "A5:C9");
  assert.equal(areaText(area("B2:B2")), "B2");
  assert.equal(address([18278, 1000000]), "ZZZ1000000");
});

test("an area holds its edges and nothing beyond them", () => {
  const inner = area("B2:C4");
  for (const each of ["B2", "C2", "B4", "C4", "B3"]) assert.ok(holds(inner, cell(each)), each);
  for (const each of ["A2", "D2", "B1", "B5"]) assert.ok(!holds(inner, cell(each)), each);
});

const STEPS = { down: [0, 1], up: [0, -1], right: [1, 0], left: [-1, 0] };

for (const [name, step] of Object.entries(STEPS))
  test(`going ${name} leads through each cell of an area once, and back to where it began`, () => {
    for (const text of ["C5:C9", "C5:F5", "C5:F10", "B2:C3"]) {
      const within = area(text);
      const size = (within[2] - within[0] + 1) * (within[3] - within[1] + 1);
      let at = [within[0], within[1]];
      const seen = new Set();
      for (let count = 0; count < size; count += 1) {
        seen.add(address(at));
        at = roundNext(within, at, step);
        assert.ok(holds(within, at));
        const back = roundNext(within, at, [-step[0], -step[1]]);
        assert.ok(seen.has(address(back)));
      }
      assert.equal(seen.size, size);
      assert.deepEqual(at, [within[0], within[1]]);
    }
  });

test("down goes column by column, aside row by row", () => {
  assert.deepEqual(roundNext(area("B2:C3"), cell("B3"), STEPS.down), cell("C2"));
  assert.deepEqual(roundNext(area("B2:C3"), cell("C2"), STEPS.right), cell("B3"));
  assert.deepEqual(roundNext(area("B2:C3"), cell("B2"), STEPS.up), cell("C3"));
  assert.deepEqual(roundNext(area("B2:C3"), cell("B2"), STEPS.left), cell("C3"));
});
