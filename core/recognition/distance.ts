/**
 * Typing errors between two texts: letters changed, left out, added, or two neighbours swapped (optimal string
 * alignment; Damerau 1964).
 * @returns the number of errors, or `most + 1` when there are more than `most`
 */
export function typingErrors(a: string, b: string, most: number): number {
  if (a === b) return 0;
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [];
  let row = Array.from({ length: b.length + 1 }, (_, at) => at);
  for (let i = 1; i <= a.length; i += 1) {
    const next = new Array<number>(b.length + 1);
    next[0] = i;
    let least = i;
    for (let j = 1; j <= b.length; j += 1) {
      const changed = row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1);
      let cost = Math.min(changed, row[j]! + 1, next[j - 1]! + 1);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) cost = Math.min(cost, before[j - 2]! + 1);
      next[j] = cost;
      if (cost < least) least = cost;
    }
    if (least > most) return most + 1;
    before = row;
    row = next;
  }
  return Math.min(row[b.length]!, most + 1);
}

/** A word mistyped: one error from four letters on, two from eight. */
export function mistyped(a: string, b: string): boolean {
  const most = Math.min(a.length, b.length) >= 8 ? 2 : Math.min(a.length, b.length) >= 4 ? 1 : 0;
  return most > 0 && typingErrors(a, b, most) <= most;
}
