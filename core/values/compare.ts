/** Values as records hold them; this module knows nothing else of records. */
type Comparable = string | number | boolean | null | undefined | readonly string[];

/** Nothing was said: absent, empty, or only white space. `false` and `0` are values. */
export function isBlank(value: Comparable): boolean {
  if (value === undefined || value === null) return true;
  if (typeof value === 'string') return value.trim() === '';
  return Array.isArray(value) && value.length === 0;
}

/** Two values are the same to a record: blanks are alike, lists are sets, moments are compared as moments. */
export function sameValue(a: Comparable, b: Comparable): boolean {
  if (isBlank(a) || isBlank(b)) return isBlank(a) && isBlank(b);
  if (Array.isArray(a) || Array.isArray(b)) {
    const left = new Set(Array.isArray(a) ? a : [String(a)]);
    const right = new Set(Array.isArray(b) ? b : [String(b)]);
    return left.size === right.size && [...left].every((each) => right.has(each));
  }
  if (a === b) return true;
  if (typeof a === 'string' && typeof b === 'string' && isMoment(a) && isMoment(b)) {
    return new Date(a).getTime() === new Date(b).getTime();
  }
  return typeof a !== typeof b && String(a) === String(b);
}

const isMoment = (text: string): boolean =>
  /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:\d{2})$/.test(text);
