import { badField } from './problem.ts';

type Query = Record<string, string | undefined>;

/** A whole number of a query. @throws Problem naming it when it is none from `least` to `most` */
export function numberOf(
  query: Query,
  name: string,
  { least, most, otherwise }: { least: number; most: number; otherwise: number },
): number {
  const text = query[name];
  if (text === undefined || text === '') return otherwise;
  const value = /^\d{1,15}$/.test(text) ? Number(text) : NaN;
  if (!(value >= least && value <= most)) throw badField(name, `must be a whole number from ${least} to ${most}`);
  return value;
}

/** How many rows a page of a list holds. */
export const limitOf = (query: Query, otherwise: number, most: number): number =>
  numberOf(query, 'limit', { least: 1, most, otherwise });

/** Where a page of a list begins; undefined at its start. */
export function beforeOf(query: Query): number | undefined {
  const before = numberOf(query, 'before', { least: 0, most: Number.MAX_SAFE_INTEGER, otherwise: -1 });
  return before < 0 ? undefined : before;
}

const UUID = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;
export const isId = (text: string | undefined): text is string => UUID.test(text ?? '');

/** An id of a query; undefined where nothing is said. @throws Problem naming it when it is none */
export function idOf(query: Query, name: string): string | undefined {
  const text = query[name];
  if (text === undefined || text === '') return undefined;
  if (!isId(text)) throw badField(name, 'must be an id');
  return text;
}

/** A moment of a query. @throws Problem naming the field when it is none */
function momentOf(query: Record<string, string | undefined>, name: 'from' | 'to'): Date | undefined {
  const text = query[name];
  if (text === undefined || text === '') return undefined;
  const moment = new Date(text);
  if (Number.isNaN(moment.getTime())) throw badField(name, 'must be a date or a moment such as 2027-04-20T06:00:00Z');
  return moment;
}

/** The period a query asks for, from and before. */
export const period = (query: Record<string, string | undefined>): { from?: Date; to?: Date } => {
  const [from, to] = [momentOf(query, 'from'), momentOf(query, 'to')];
  return { ...(from ? { from } : {}), ...(to ? { to } : {}) };
};
