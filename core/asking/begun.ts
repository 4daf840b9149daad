import { begunItems, fieldBegunWith, isFilledUnseen, type Answers, type HostedForm } from '../forms/hosted/index.ts';
import type { Values } from '../schema/index.ts';
import { asAnswer } from './offered.ts';

/** What a form was opened with. */
export interface OpenedWith {
  /** The record: of which entity, its id, and what it holds. */
  record?: { entity: string; id: string; values: Values };
  /** Whoever acts, as far as it is told. */
  person?: { id: string; name?: string | undefined; email?: string | undefined };
}

/** What questions begin with, by their names. */
export interface Begun {
  /** Stands in the page, for whoever fills it in to change. */
  shown: Record<string, string | string[]>;
  /** Is filled in unseen, whatever the page sends. */
  unseen: Record<string, string | string[]>;
  /** Takes the place of what is left blank. */
  ifBlank: Record<string, string | string[]>;
}

/** What the questions of a form begin with, of what it was opened with. */
export function begunWith(form: HostedForm, { record, person }: OpenedWith): Begun {
  const begun: Begun = { shown: {}, unseen: {}, ifBlank: {} };
  for (const item of begunItems(form)) {
    const { name, begins } = item;
    const field = record && form.link ? fieldBegunWith(begins, form.link, record.entity) : undefined;
    const value =
      begins.with === 'person'
        ? (person?.[begins.value as 'id' | 'name' | 'email'] ?? '')
        : field === undefined
          ? ''
          : asAnswer(record?.values[field] ?? null);
    if (value.length === 0) continue;
    begun[isFilledUnseen(item) ? 'unseen' : begins.ifBlank ? 'ifBlank' : 'shown'][name] = value;
  }
  return begun;
}

/** Answers as they count: what is filled in unseen is never the page's, and what was left blank is filled in. */
export function withBegun(form: HostedForm, answers: Answers, begun: Pick<Begun, 'unseen' | 'ifBlank'>): Answers {
  const next: Record<string, string | readonly string[]> = { ...answers };
  for (const { name, ...item } of begunItems(form)) {
    if (isFilledUnseen(item)) {
      delete next[name];
      if (begun.unseen[name] !== undefined) next[name] = begun.unseen[name];
    } else if (begun.ifBlank[name] !== undefined && isLeftBlank(next[name])) next[name] = begun.ifBlank[name];
  }
  return next;
}

const isLeftBlank = (said: string | readonly string[] | undefined): boolean =>
  [said ?? ''].flat().every((each) => each.trim() === '');
