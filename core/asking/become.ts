import { NAME, type HostedForm, type Item, type QuestionKind } from '../forms/hosted/index.ts';
import type { FormField, InputType } from '../forms/index.ts';
import { changePlan, withForm, type IntakeDocument } from '../intake/index.ts';
import { withNames } from '../plans/index.ts';

/** A page's form as one of ours: the same questions under the same names, so that what fills the records goes on. */

const KINDS: Record<InputType, QuestionKind> = {
  text: 'text',
  'long text': 'long text',
  email: 'email',
  phone: 'phone',
  'web address': 'web address',
  number: 'number',
  date: 'date',
  time: 'time',
  'date and time': 'date and time',
  'yes/no': 'yes/no',
  option: 'one of',
  options: 'several of',
  file: 'file',
};
const MOST_OPTIONS = 1000;
/** In a name, the row that it stands in, and its own name there: `contacts[0][email]`. */
const IN_ROW = /^([^[\]]+)\[0\]\[([^[\]]+)\]$/;

/**
 * A document whose form, until now on a page, is one of ours.
 * @returns with it, the names that one of ours can't have and what they have become; lines follow
 */
export function becomesOurs(
  document: IntakeDocument,
  newId: () => string,
): { document: IntakeDocument; renamed: { was: string; is: string }[] } {
  const language = (document.settings.locale ?? 'en').split('-')[0]!;
  const renamed = new Map<string, string>();
  const taken = new Set<string>();
  const named = (wanted: string, within: Set<string>): string => {
    const plain = NAME.test(wanted) ? wanted : plainName(wanted);
    for (let at = 1; ; at += 1) {
      const name = at === 1 ? plain : `${plain.slice(0, 55)}_${at}`;
      if (within.has(name)) continue;
      within.add(name);
      return name;
    }
  };
  const items: Item[] = [];
  const groups = new Map<string, { item: Item; names: Set<string> }>();
  let section = '';
  for (const field of document.fields) {
    // Of several inputs under one name, one asks; of a group its first row tells the questions.
    const row = IN_ROW.exec(field.name);
    if (field.group !== undefined && !row) continue;
    if (field.section !== undefined && field.section !== section) {
      section = field.section;
      if (!row) items.push({ id: newId(), kind: 'heading', label: { [language]: section } });
    }
    if (!row) {
      if (renamed.has(field.name) || taken.has(field.name)) continue;
      const name = named(field.name, taken);
      if (name !== field.name) renamed.set(field.name, name);
      items.push(itemFor(field, name, newId(), language));
      continue;
    }
    const [, group = '', own = ''] = row;
    let rows = groups.get(group);
    if (!rows) {
      const name = named(group, taken);
      const item: Item = {
        id: newId(),
        kind: 'group',
        name,
        label: { [language]: section || name },
        leastRows: 1,
        items: [],
      };
      rows = { item, names: new Set() };
      groups.set(group, rows);
      items.push(item);
    }
    const name = named(own, rows.names);
    const is = `${rows.item.name}[0][${name}]`;
    if (is !== field.name) renamed.set(field.name, is);
    if (rows.item.name !== group) renamed.set(group, rows.item.name!);
    rows.item.items!.push(itemFor(field, name, newId(), language));
  }
  const form: HostedForm = {
    languages: [language],
    title: { [language]: document.name },
    pages: [{ id: newId(), items }],
    guard: { trap: true, leastSeconds: 2 },
  };
  const { charset: _, formName: __, ...source } = document.source;
  const ours = withForm({ ...document, source: { ...source, kind: 'ours' } }, form);
  const now = (name: string): string => renamed.get(name) ?? name;
  return {
    document: changePlan(ours, (plan) => ({ ...plan, steps: plan.steps.map((step) => withNames(step, now)) })),
    renamed: [...renamed].map(([was, is]) => ({ was, is })),
  };
}

/** A name that one of ours can have. */
function plainName(wanted: string): string {
  const plain = wanted
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '_')
    .replace(/^[^A-Za-z]+/, '')
    .slice(0, 55)
    .replace(/_$/, '');
  return plain === '' ? 'question' : plain;
}

function itemFor(field: FormField, name: string, id: string, language: string): Item {
  const options = (field.options ?? []).filter(({ value }) => value !== '' && value.length <= 200);
  const asked = KINDS[field.type];
  // What offers nothing that can be sent is a text to type.
  const isChoice = asked === 'one of' || asked === 'several of';
  const kind: QuestionKind = field.hidden === true ? 'hidden' : isChoice && options.length === 0 ? 'text' : asked;
  const item: Item = { id, kind, name, label: { [language]: (field.label || field.name).slice(0, 2000) } };
  if (field.required && kind !== 'hidden') item.required = true;
  if (kind === 'one of' || kind === 'several of') {
    const seen = new Set<string>();
    item.options = options
      .filter(({ value }) => !seen.has(value) && seen.add(value))
      .slice(0, MOST_OPTIONS)
      .map(({ value, label }) => ({ value, label: { [language]: (label || value).slice(0, 400) } }));
  }
  const isText = kind === 'text' || kind === 'long text' || kind === 'email' || kind === 'web address';
  if (isText && field.maxLength !== undefined && field.maxLength > 0)
    item.maxLength = Math.min(field.maxLength, 100_000);
  if (kind === 'number') {
    const [least, most] = [Number(field.minimum), Number(field.maximum)];
    if (field.minimum !== undefined && Number.isFinite(least)) item.least = least;
    if (field.maximum !== undefined && Number.isFinite(most)) item.most = most;
  }
  if (field.autocomplete !== undefined && /^[a-z][a-z0-9 -]{0,60}$/.test(field.autocomplete))
    item.autocomplete = field.autocomplete;
  // Parameters of a campaign are taken from the address, as the page's script did.
  if (kind === 'hidden' && /^(?:utm_|gclid|fbclid|ref$)/.test(field.name))
    item.begins = { with: 'parameter', value: field.name };
  else if (kind === 'hidden' && field.initial) item.begins = { with: 'constant', value: field.initial.slice(0, 1000) };
  return item;
}
