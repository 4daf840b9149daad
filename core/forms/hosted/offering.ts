import type { ReadPart, Reads } from './reads.ts';
import type { Answers } from './shown.ts';

/** Which records a question offers, for what has been answered. */

export const LETTERS = 3;
export const FIRST_LISTED = 50;
export const FIRST_FOUND = 10;

/** How many records a question offers at once. @param isLookedUp whether one is found by typing */
export const mostOffered = ({ first }: Reads, isLookedUp: boolean): number =>
  first ?? (isLookedUp ? FIRST_FOUND : FIRST_LISTED);

/** The questions whose answers decide which records are offered. */
export const goesBy = ({ where = [] }: Reads): string[] => [
  ...new Set(where.flatMap(({ answer }) => (answer === undefined ? [] : [answer]))),
];

/** A comparison with the value it comes to. */
export type Comparison = Pick<ReadPart, 'field' | 'test'> & { value: string };

/**
 * What records have to meet, for what has been answered so far.
 * @param at the answer to a question by its name
 * @returns undefined while an answer that it goes by is missing: nothing is offered then
 */
export function comparisonsOf(
  { where = [] }: Reads,
  at: (name: string) => Answers[string] | undefined,
): Comparison[] | undefined {
  const comparisons: Comparison[] = [];
  for (const { field, test, value = '', answer } of where) {
    const said = answer === undefined ? value : ([at(answer) ?? ''].flat()[0] ?? '');
    if (answer !== undefined && said.trim() === '') return undefined;
    comparisons.push({ field, test, value: said.slice(0, 1000) });
  }
  return comparisons;
}

/** All fields of a chosen record that a question has a use for: none but these are read. */
export const fieldsRead = ({ shows, by, where = [], order = [], fills = [] }: Reads): string[] => [
  ...new Set([
    ...shows,
    ...(by === undefined ? [] : [by]),
    ...where.map(({ field }) => field),
    ...order.map(({ field }) => field),
    ...fills.flatMap(({ field, of }) => (of || field === undefined ? [] : [field])),
  ]),
];

/** A question of a group's first row, as it is called in the row that another question stands in. */
export function besides(name: string, other: string): string {
  const [row, first] = [name.lastIndexOf('['), other.lastIndexOf('[')];
  return row < 0 || first < 0 ? other : name.slice(0, row) + other.slice(first);
}
