// Addresses as the page says them: [column, row], both counted from 1.
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
