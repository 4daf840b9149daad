/** Rows of the table, kept between calls: words are short, and allocating would cost more than counting. */
const WIDEST = 512;
let before = new Uint16Array(WIDEST);
let row = new Uint16Array(WIDEST);
let next = new Uint16Array(WIDEST);

/**
 * Typing errors between two texts: letters changed, left out, added, or two neighbours swapped (optimal string
 * alignment; Damerau 1964).
 * @returns the number of errors, or `most + 1` when there are more than `most`
 */
export function typingErrors(a: string, b: string, most: number): number {
  if (a === b) return 0;
  if (Math.abs(a.length - b.length) > most) return most + 1;
  // What is the same at both ends needs no table.
  let start = 0;
  let [endA, endB] = [a.length, b.length];
  while (start < endA && start < endB && a.charCodeAt(start) === b.charCodeAt(start)) start += 1;
  while (endA > start && endB > start && a.charCodeAt(endA - 1) === b.charCodeAt(endB - 1)) {
    endA -= 1;
    endB -= 1;
  }
  const [lengthA, lengthB] = [endA - start, endB - start];
  if (lengthA === 0 || lengthB === 0) return Math.min(most + 1, lengthA + lengthB);
  if (lengthA === 1 && lengthB === 1) return Math.min(most + 1, 1);
  if (most === 1) {
    const swapped =
      lengthA === 2 &&
      lengthB === 2 &&
      a.charCodeAt(start) === b.charCodeAt(start + 1) &&
      a.charCodeAt(start + 1) === b.charCodeAt(start);
    return swapped ? 1 : 2;
  }
  return counted(a, b, start, lengthA, lengthB, most);
}

function counted(a: string, b: string, start: number, lengthA: number, lengthB: number, most: number): number {
  if (lengthB + 1 > row.length) {
    before = new Uint16Array(lengthB * 2);
    row = new Uint16Array(lengthB * 2);
    next = new Uint16Array(lengthB * 2);
  }
  for (let j = 0; j <= lengthB; j += 1) row[j] = j;
  for (let i = 1; i <= lengthA; i += 1) {
    next[0] = i;
    let least = i;
    const letter = a.charCodeAt(start + i - 1);
    for (let j = 1; j <= lengthB; j += 1) {
      const other = b.charCodeAt(start + j - 1);
      let cost = row[j - 1]! + (letter === other ? 0 : 1);
      if (row[j]! + 1 < cost) cost = row[j]! + 1;
      if (next[j - 1]! + 1 < cost) cost = next[j - 1]! + 1;
      if (i > 1 && j > 1 && letter === b.charCodeAt(start + j - 2) && a.charCodeAt(start + i - 2) === other) {
        const swapped = before[j - 2]! + 1;
        if (swapped < cost) cost = swapped;
      }
      next[j] = cost;
      if (cost < least) least = cost;
    }
    if (least > most) return most + 1;
    const spare = before;
    before = row;
    row = next;
    next = spare;
  }
  return Math.min(row[lengthB]!, most + 1);
}

/** A word mistyped: one error from four letters on, two from eight. */
export function mistyped(a: string, b: string): boolean {
  const shorter = Math.min(a.length, b.length);
  const most = shorter >= 8 ? 2 : shorter >= 4 ? 1 : 0;
  return most > 0 && typingErrors(a, b, most) <= most;
}
