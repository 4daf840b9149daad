import type { Shown } from './condition.ts';

/** What is known of answers while a form is filled in: a text, or several. A name that isn't there: nothing was said. */
export type Answers = Readonly<Record<string, string | readonly string[]>>;

/** Conditions look no farther into an answer: many of them may look at one that somebody made as long as they could. */
const MOST_CHARACTERS = 1_000;

const listed = (said: string | readonly string[] | undefined): readonly string[] =>
  (said === undefined ? [] : typeof said === 'string' ? [said] : said)
    .map((each) => each.slice(0, MOST_CHARACTERS))
    .filter((each) => each.trim() !== '');

/** A number with either mark, or a day: both can be more or less than another. */
function measured(text: string): number | undefined {
  const day = /^\d{4}-\d{2}-\d{2}(?:T\d{2}:\d{2})?/.exec(text);
  if (day) return Date.parse(`${day[0]}${day[0].length > 10 ? ':00Z' : ''}`);
  const number = Number(text.trim().replace(',', '.'));
  return text.trim() === '' || Number.isNaN(number) ? undefined : number;
}

/**
 * Whether a condition holds for what has been answered so far; none: always.
 * The same as the condition of a plan's step comes to (core/expressions), without an interpreter of expressions: the
 * visitor's page asks at every key.
 * @param at the answer to a question by its name, as the condition names it
 */
export function holdsFor(
  shown: Shown | undefined,
  at: (name: string) => string | readonly string[] | undefined,
): boolean {
  if (!shown || shown.parts.length === 0) return true;
  const held = ({ field, test, value = '' }: Shown['parts'][number]): boolean => {
    const said = at(field);
    const all = listed(said);
    const one = all[0] ?? '';
    const several = said !== undefined && typeof said !== 'string';
    switch (test) {
      case 'is blank':
        return all.length === 0;
      case 'is not blank':
        return all.length > 0;
      case 'is':
        return several ? all.includes(value) : one === value;
      case 'is not':
        return several ? !all.includes(value) : one !== value;
      case 'has':
        return several ? all.includes(value) : one.includes(value);
      case 'has not':
        return several ? !all.includes(value) : !one.includes(value);
      case 'is more than':
        return compared(one, value, (a, b) => a > b);
      case 'is less than':
        return compared(one, value, (a, b) => a < b);
    }
  };
  return shown.match === 'all' ? shown.parts.every(held) : shown.parts.some(held);
}

function compared(one: string, value: string, way: (a: number, b: number) => boolean): boolean {
  const [a, b] = [measured(one), measured(value)];
  return a !== undefined && b !== undefined && way(a, b);
}
