import { isChoice, isQuestion, readsRecords } from './kinds.ts';
import type { Shown } from './condition.ts';
import { linkedEntities } from './linked.ts';
import { OF_PERSON, type HostedForm, type Item } from './model.ts';
import type { Fee } from './fee.ts';
import { FEE_FIELDS } from './to-pay.ts';
import { goesBy } from './offering.ts';
import type { Reads } from './reads.ts';
import { alongWith } from './answers.ts';
import { mostRows } from './placed.ts';

/** What makes a form's document none that can be shown, and where: the id of the item or page, or '' for the whole. */
export interface FormTrouble {
  at: string;
  reason: string;
}

const MOST_ITEMS = 400;
/** As many answers are taken in at once (server/http/body.ts): what has room for more could not be sent when it is full. */
const MOST_ANSWERS = 1000;

/**
 * What is wrong with a form as a whole, beyond the shape of its parts: names given twice, options of one value, groups
 * too deep, conditions that lead back to themselves or over questions that aren't there.
 */
export function troublesOf(form: HostedForm): FormTrouble[] {
  const troubles: FormTrouble[] = [];
  const ids = new Set<string>();
  const names = new Map<string, Asked>();
  const limits: { at: string; answer: string }[] = [];
  const reading: { at: string; row: string; own: string; reads: Reads }[] = [];
  const conditions: { at: string; own: string | undefined; shown: Shown; row: string }[] = [];
  const say = (at: string, reason: string): void => void troubles.push({ at, reason });
  const add = (items: readonly Item[], row: string, depth: number, around: readonly Shown[]): void => {
    for (const item of items) {
      if (ids.has(item.id)) say(item.id, 'its id is given twice');
      ids.add(item.id);
      if (item.shown) conditions.push({ at: item.id, own: item.name, shown: item.shown, row });
      const shown = item.shown ? [...around, item.shown] : around;
      if (!isQuestion(item.kind) && item.kind !== 'group') continue;
      if (item.name === undefined) {
        say(item.id, 'it has no name to be sent under');
        continue;
      }
      const name = row === '' ? item.name : `${row}[${item.name}]`;
      if (names.has(name)) say(item.id, `“${item.name}” is the name of another question as well`);
      names.set(name, { item, around: shown });
      for (const also of alongWith(item, name)) names.set(also, { item, around: shown });
      addOwn(item, say);
      for (const limit of [item.earliest, item.latest])
        if (limit?.from === 'answer' && limit.answer !== undefined) limits.push({ at: item.id, answer: limit.answer });
      if (item.reads) reading.push({ at: item.id, row, own: name, reads: item.reads });
      if (item.kind !== 'group') continue;
      if (depth > 1) say(item.id, 'groups may stand in groups, and no deeper');
      else add(item.items ?? [], `${name}[0]`, depth + 1, shown);
    }
  };
  for (const page of form.pages) {
    if (ids.has(page.id)) say(page.id, 'its id is given twice');
    ids.add(page.id);
    if (page.shown) conditions.push({ at: page.id, own: undefined, shown: page.shown, row: '' });
    add(page.items, '', 0, page.shown ? [page.shown] : []);
  }
  if (ids.size > MOST_ITEMS) say('', `it has ${ids.size} parts, more than ${MOST_ITEMS}`);
  const answers = form.pages.reduce((sum, { items }) => sum + roomIn(items), 0);
  if (answers > MOST_ANSWERS)
    say(
      '',
      `it has room for ${answers} answers with all its rows, more than the ${MOST_ANSWERS} that can be sent at once`,
    );
  if (new Set(form.languages).size < form.languages.length) say('', 'a language is named twice');
  for (const { at, shown, row } of conditions)
    for (const { field } of shown.parts) {
      const asked = names.get(field);
      if (!asked || !isQuestion(asked.item.kind)) say(at, `it is shown by an answer to “${field}”, which isn't asked`);
      else if (rowOf(field) !== '' && !`${row}[`.startsWith(`${rowOf(field)}[`))
        say(at, `it is shown by “${field}”, which is asked once a row, and stands outside those rows`);
    }
  for (const { at, answer } of limits)
    if (!names.has(answer)) say(at, `a limit of its days goes by “${answer}”, which isn't asked`);
  for (const { at, row, own, reads } of reading) {
    for (const name of goesBy(reads))
      if (name === own) say(at, 'which records it offers depends on itself');
      else if (!isAsked(names.get(name))) say(at, `its records go by an answer to “${name}”, which isn't asked`);
      else if (rowOf(name) !== '' && rowOf(name) !== row)
        say(at, `its records go by “${name}”, which is asked once a row of another group`);
    for (const { into } of reads.fills ?? [])
      if (into === own) say(at, 'it fills itself');
      else if (!isAsked(names.get(into))) say(at, `it fills “${into}”, which isn't asked`);
      else if (rowOf(into) !== row) say(at, `it fills “${into}”, which stands in other rows`);
  }
  if (form.fee) troublesOfFee(form.fee, names, say);
  troublesOfRecord(form, names, say);
  for (const name of circular(names)) say(names.get(name)!.item.id, `whether it is shown depends on itself`);
  return troubles;
}

/** What is wrong with the record that a form is opened with, and with what begins with it. */
function troublesOfRecord(
  { link, panel }: HostedForm,
  names: ReadonlyMap<string, Asked>,
  say: (at: string, reason: string) => void,
): void {
  const linked = link ? linkedEntities(link) : [];
  for (const { into } of linked)
    if (names.get(into)?.item.kind !== 'hidden' || into.includes('['))
      say('', `the link's record has to stand in a hidden question outside of rows, and “${into}” is none`);
  if (new Set(linked.map(({ entity }) => entity)).size < linked.length) say('', 'it is opened twice with one entity');
  if (new Set(linked.map(({ into }) => into)).size < linked.length) say('', 'two records are to stand in one question');
  if (panel && !link) say('', 'it stands on pages of records, and isn’t said of which');
  for (const { item } of names.values()) {
    const { begins } = item;
    if (begins?.with === 'record' && !link) say(item.id, 'it begins with the record of a link, and there is none');
    if (begins?.with === 'person' && !panel) say(item.id, 'it begins with whoever acts, and nobody does');
    if (begins?.with === 'person' && !OF_PERSON.some((each) => each === begins.value))
      say(item.id, `“${begins.value}” isn’t told of whoever acts`);
    if (begins?.ifBlank && (begins.with === 'constant' || begins.with === 'parameter'))
      say(item.id, 'only what is of a record or a person fills what is left blank');
    if (begins?.ifBlank && item.required === true)
      say(item.id, 'it must be answered, and is filled in where it is left blank');
  }
}

/** What can't be reckoned of a fee, or would be reckoned otherwise than it says. */
function troublesOfFee(fee: Fee, names: ReadonlyMap<string, Asked>, say: (at: string, reason: string) => void): void {
  for (const name of Object.values(FEE_FIELDS))
    if (names.has(name)) say(names.get(name)!.item.id, `“${name}” is what is paid sent as`);
  const ids = fee.charges.map(({ id }) => id);
  if (new Set(ids).size < ids.length) say('', 'two parts of what is paid have the same id');
  for (const { by, question, times, prices = [], minor, label } of fee.charges) {
    const what = Object.values(label)[0] ?? '';
    const asked = question === undefined ? undefined : names.get(question)?.item;
    const often = times === undefined ? undefined : names.get(times)?.item;
    if (by === 'fixed' && minor === undefined) say('', `what “${what}” costs is missing`);
    if (by !== 'fixed' && question === undefined) say('', `“${what}” names no question that it is priced by`);
    if (question !== undefined && !asked) say('', `“${what}” is priced by “${question}”, which isn't asked`);
    if (by === 'option' && asked) {
      const offered = new Set(valuesOf(asked));
      if (offered.size === 0) say(asked.id, `“${what}” is priced by its options, and it has none of its own`);
      const gone = prices.find(({ value }) => !offered.has(value));
      if (gone) say(asked.id, `“${what}” has a price for “${gone.value}”, which it doesn't offer`);
    }
    if (by === 'answer' && asked && (asked.kind !== 'money' || asked.currency !== fee.currency))
      say(asked.id, `“${what}” is what is given here, so it has to be an amount in ${fee.currency}`);
    if (times !== undefined && !often) say('', `how often “${what}” counts is told by “${times}”, which isn't asked`);
    if (often && often.kind !== 'number' && !(often.kind === 'one of' && valuesOf(often).every(isWhole)))
      say(
        often.id,
        `how often “${what}” counts is told here, so it has to be a number or a choice among whole numbers`,
      );
    if (question !== undefined && times !== undefined && rowOf(times) !== '' && rowOf(times) !== rowOf(question))
      say('', `“${what}” is priced and counted in different rows`);
  }
}

const isWhole = (text: string): boolean => /^\d{1,6}$/.test(text);

/** What an answer may be, where that is among a few. */
const valuesOf = ({ kind, options = [] }: Item): string[] =>
  kind === 'yes/no' ? ['yes', 'no'] : kind === 'consent' ? ['yes'] : options.map(({ value }) => value);

/** How many answers there can be, with as many rows as there may be. */
const roomIn = (items: readonly Item[]): number =>
  items.reduce(
    (sum, item) =>
      sum + (item.kind === 'group' ? mostRows(item) * roomIn(item.items ?? []) : isQuestion(item.kind) ? 1 : 0),
    0,
  );

const isAsked = (asked: Asked | undefined): boolean => asked !== undefined && isQuestion(asked.item.kind);

interface Asked {
  item: Item;
  /** Conditions it is shown under, its own and those it stands in. */
  around: readonly Shown[];
}

/** The row of a group that a name stands in, as its group's first one. */
const rowOf = (name: string): string => (name.includes('[') ? name.slice(0, name.lastIndexOf('[')) : '');

/** Whatever is wrong with one item by itself. */
function addOwn(item: Item, say: (at: string, reason: string) => void): void {
  if (isChoice(item.kind)) {
    const values = (item.options ?? []).map(({ value }) => value);
    if (values.length === 0 && !item.reads) say(item.id, 'it offers nothing to choose');
    const twice = values.find((value, at) => values.indexOf(value) !== at);
    if (twice !== undefined) say(item.id, `two of its options are sent as “${twice}”`);
    if (values.includes('')) say(item.id, 'one of its options is sent as nothing');
  }
  if (item.kind === 'record' && !item.reads) say(item.id, 'it names no records to choose among');
  if (item.reads && !readsRecords(item.kind)) say(item.id, `a question of the kind “${item.kind}” offers no records`);
  for (const { test, value, answer } of item.reads?.where ?? [])
    if (value === undefined && answer === undefined && !test.endsWith('blank'))
      say(item.id, 'what its records are compared with is missing');
  if (item.kind === 'money' && item.currency === undefined) say(item.id, 'it is an amount without a currency');
  if (item.kind === 'group' && (item.leastRows ?? 0) > (item.mostRows ?? 10))
    say(item.id, 'it has fewer rows at most than at least');
  if (item.least !== undefined && item.most !== undefined && item.least > item.most)
    say(item.id, 'its least is more than its most');
  for (const limit of [item.earliest, item.latest]) {
    if (limit?.from === 'answer' && limit.answer === undefined) say(item.id, 'a limit of its days names no question');
    if (limit?.from === 'day' && limit.day === undefined) say(item.id, 'a limit of its days names no day');
  }
}

/** Questions whether whose being shown depends on themselves (depth-first search). */
function circular(names: ReadonlyMap<string, Asked>): string[] {
  const state = new Map<string, 'open' | 'done'>();
  const found: string[] = [];
  const visit = (name: string): void => {
    const asked = names.get(name);
    if (!asked || state.get(name) === 'done') return;
    if (state.get(name) === 'open') return void found.push(name);
    state.set(name, 'open');
    for (const { parts } of asked.around) for (const { field } of parts) visit(field);
    state.set(name, 'done');
  };
  for (const name of names.keys()) visit(name);
  return [...new Set(found)];
}
