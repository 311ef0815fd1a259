// Addresses as the page says them: [column, row], both counted from 1.
// The last of each as in core/grid; tests/web/test_static_files.py holds them together.
export const LAST = [18278, 1000000];

export function letters(column) {
  let text = "";
  for (; column > 0; column = Math.floor((column - 1) / 26))
    text = String.fromCharCode(65 + ((column - 1) % 26)) + text;
  return text;
}

export function address([column, row]) {
  return letters(column) + row;
}

export function cell(text) {
  const [, name, row] = /^([A-Z]+)(\d+)$/.exec(text);
  return [[...name].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0), Number(row)];
}

// The area that two cells span, as [left, top, right, bottom].
export function span([a, b], [c, d]) {
  return [Math.min(a, c), Math.min(b, d), Math.max(a, c), Math.max(b, d)];
}

export function area(text) {
  const [first, last] = text.split(":");
  return span(cell(first), cell(last ?? first));
}

export function holds([left, top, right, bottom], [column, row]) {
  return column >= left && column <= right && row >= top && row <= bottom;
}

export function areaText([left, top, right, bottom]) {
  const first = address([left, top]);
  const last = address([right, bottom]);
  return first === last ? first : `${first}:${last}`;
}

// The cell where entries go on in an area, round and round: column by column where the step leads up
// or down, row by row where it leads aside.
export function roundNext([left, top, right, bottom], [column, row], [across, down]) {
  const size = [right - left + 1, bottom - top + 1];
  const place = [column - left, row - top];
  const along = down ? 1 : 0;
  const count = size[0] * size[1];
  const index = place[1 - along] * size[along] + place[along] + across + down;
  const next = (index + count) % count;
  const there = [];
  there[along] = next % size[along];
  there[1 - along] = Math.floor(next / size[along]);
  return [left + there[0], top + there[1]];
}
