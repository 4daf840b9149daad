import { isQuestion } from './kinds.ts';
import type { Shown } from './condition.ts';
import type { HostedForm, HostedPage, Item } from './model.ts';
import { holdsFor, type Answers } from './shown.ts';

/** An item where it stands: a question of a group stands once a row. */
export interface Placed {
  item: Item;
  /** What it is sent as: `email`, `contacts[2][email]`, `contacts[2][phones][0][number]`. Of words ''. */
  name: string;
  /** Whether it is shown, with all that it stands in, for the answers there are. */
  readonly shown: boolean;
  /** It is asked of everybody: neither a condition nor a row that needn't be there decides. */
  sure: boolean;
  /** The answer to another question, seen from here: one of the same row is that row's. */
  answerTo: AnswerTo;
  /** It stands in a row that says nothing and needn't be there: somebody added it and left it blank. */
  idle: boolean;
  /** Of a group, its rows; they may have any numbers. */
  rows?: PlacedRow[];
}

export interface PlacedRow {
  row: number;
  /** Whether anything is said in it. */
  says: boolean;
  items: Placed[];
}

export interface PlacedPage {
  page: HostedPage;
  readonly shown: boolean;
  items: Placed[];
}

type AnswerTo = (name: string) => string | readonly string[] | undefined;

/** As what a group's row is named: `contacts[2]`. */
export const rowName = (group: string, row: number): string => `${group}[${row}]`;
const inside = (row: string, name: string): string => `${row}[${name}]`;

/** What a question in a row is called in conditions and plans: as in its group's first row. */
export const asInFirstRow = (name: string): string => name.replace(/\[\d+\]/g, '[0]');

/** How many rows a group has room for. */
export const mostRows = ({ mostRows: most = 10 }: Pick<Item, 'mostRows'>): number => most;

/** The number of a row that isn't there, from which a page makes fresh ones; none that comes has it. */
export const TEMPLATE_ROW = 9999;

/** Which rows of a group have come, in order. */
export function rowsThatCame(group: string, names: Iterable<string>): number[] {
  const rows = new Set<number>();
  for (const name of names) {
    if (!name.startsWith(`${group}[`)) continue;
    const row = /^\[(\d{1,4})\]\[/.exec(name.slice(group.length))?.[1];
    if (row !== undefined && Number(row) < TEMPLATE_ROW) rows.add(Number(row));
  }
  return [...rows].sort((a, b) => a - b);
}

/** Which rows a group has, where it isn't as many as came, and as there are to be at least. */
export type RowsOf = (group: Item, name: string, came: number[]) => number[];

/** The rows that came, and fresh ones up to the least. */
export const usualRows: RowsOf = ({ leastRows = 0 }, _name, came) => {
  const rows = [...came];
  for (let row = 0; rows.length < leastRows; row += 1) if (!rows.includes(row)) rows.push(row);
  return rows.sort((a, b) => a - b);
};

/** All items of a form in their places, in order, those within rows behind their group. */
export const placedIn = (form: Pick<HostedForm, 'pages'>, answers: Answers): Placed[] =>
  everythingOn(placedPages(form, answers));

/** Those items of a form in their places that are asked for; a form that has none isn't placed, whatever was answered. */
export function placedThat(
  form: Pick<HostedForm, 'pages'>,
  answers: Answers,
  which: (item: Item) => boolean,
): Placed[] {
  const has = (items: readonly Item[]): boolean => items.some((item) => which(item) || has(item.items ?? []));
  if (!form.pages.some(({ items }) => has(items))) return [];
  return placedIn(form, answers).filter(({ item }) => which(item));
}

/** All that stands on pages, in order, what stands in rows behind its group. */
export function everythingOn(pages: readonly PlacedPage[]): Placed[] {
  const all = (items: readonly Placed[]): Placed[] =>
    items.flatMap((placed) => [placed, ...(placed.rows ?? []).flatMap((row) => all(row.items))]);
  return pages.flatMap(({ items }) => all(items));
}

/**
 * A form's pages with all items in their places, for what has been answered. What isn't shown counts as unanswered: so
 * what depends on it isn't shown either, in whatever order they stand.
 * Asking whether something is shown throws a RangeError where conditions lead back to themselves.
 */
export function placedPages(form: Pick<HostedForm, 'pages'>, answers: Answers, rowsOf = usualRows): PlacedPage[] {
  const names = Object.keys(answers);
  const saying = rowsThatSay(answers);
  const asked = new Map<string, readonly Condition[]>();
  const decided = new Map<string, boolean | 'open'>();
  const allHold = (conditions: readonly Condition[]): boolean =>
    conditions.every(({ shown, answerTo }) => holdsFor(shown, answerTo));
  /** Whether the question of a name is shown. One that the form doesn't have is not. */
  const isShown = (name: string): boolean => {
    const known = decided.get(name);
    if (known === 'open') throw new RangeError(`Whether “${name}” is shown depends on itself.`);
    if (known !== undefined) return known;
    const conditions = asked.get(name);
    if (!conditions) return false;
    decided.set(name, 'open');
    const shown = allHold(conditions);
    decided.set(name, shown);
    return shown;
  };
  /** The rows that came; of too many, those that say something, and no more than are needed to see that. */
  const cameIn = (group: Item, name: string): number[] => {
    const came = rowsThatCame(name, names);
    if (came.length <= mostRows(group)) return came;
    return came.filter((row) => saying.has(rowName(name, row))).slice(0, mostRows(group) + 1);
  };
  const seenFrom =
    (rows: readonly Row[]): AnswerTo =>
    (name) => {
      const actual = rows.reduce(
        (held, { first, actual: row }) => (held.startsWith(`${first}[`) ? row + held.slice(first.length) : held),
        name,
      );
      return isShown(actual) ? answers[actual] : undefined;
    };
  const place = (item: Item, around: readonly Condition[], rows: readonly Row[]): Placed => {
    const last = rows.at(-1);
    const name = item.name === undefined ? '' : last ? inside(last.actual, item.name) : item.name;
    const answerTo = seenFrom(rows);
    const conditions = item.shown ? [...around, { shown: item.shown, answerTo }] : around;
    // The answers stay as they are: it is asked often, and told once.
    let shown: boolean | undefined;
    const placed: Placed = {
      item,
      name,
      sure: conditions.length === 0 && rows.every(({ needed }) => needed),
      answerTo,
      idle: rows.some(({ actual, needed }) => !needed && !saying.has(actual)),
      get shown() {
        return (shown ??= allHold(conditions));
      },
    };
    if (isQuestion(item.kind)) asked.set(name, conditions);
    if (item.kind !== 'group' || item.name === undefined) return placed;
    const first = rowName(last ? inside(last.first, item.name) : name, 0);
    placed.rows = rowsOf(item, name, cameIn(item, name)).map((row, at) => {
      const here = { first, actual: rowName(name, row), needed: at < (item.leastRows ?? 0) };
      const items = (item.items ?? []).map((each) => place(each, conditions, [...rows, here]));
      return { row, says: saying.has(here.actual), items };
    });
    return placed;
  };
  return form.pages.map((page) => {
    const conditions = page.shown ? [{ shown: page.shown, answerTo: seenFrom([]) }] : [];
    return {
      page,
      items: page.items.map((item) => place(item, conditions, [])),
      get shown() {
        return allHold(conditions);
      },
    };
  });
}

interface Condition {
  shown: Shown;
  answerTo: AnswerTo;
}

/** A row: what its questions are called in conditions, and what they are sent as. */
interface Row {
  first: string;
  actual: string;
  /** There are to be as many at least. */
  needed: boolean;
}

/** Groups stand in groups, and no deeper (trouble.ts): `contacts[2][phones][0]` is the longest name that a row can have. */
const MOST_IN_ROW_NAME = 3;

/** The rows in which anything is said: `contacts[2]`, and `contacts[2][phones][0]` within it. */
function rowsThatSay(answers: Answers): ReadonlySet<string> {
  const saying = new Set<string>();
  for (const [name, said] of Object.entries(answers)) {
    if (!name.includes('[') || ![said].flat().some((each) => each.trim() !== '')) continue;
    // A sender may close as many brackets in each name as fit in, and each would be cut out and kept.
    let at = name.indexOf(']');
    for (let closed = 0; at >= 0 && closed < MOST_IN_ROW_NAME; closed += 1) {
      saying.add(name.slice(0, at + 1));
      at = name.indexOf(']', at + 1);
    }
  }
  return saying;
}
