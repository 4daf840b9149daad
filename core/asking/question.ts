import { AUTOFILL, meaningsOf, tellingWords } from '../mapping/index.ts';
import type { Item, QuestionKind } from '../forms/hosted/index.ts';
import { mustBeGiven, type Field, type FieldType } from '../schema/index.ts';

/** As what a field of each kind is asked for. An id nobody can be asked for; references are chosen among records. */
const ASKED: Record<Exclude<FieldType, 'id'>, QuestionKind> = {
  text: 'text',
  'long text': 'long text',
  email: 'email',
  phone: 'phone',
  'web address': 'web address',
  integer: 'number',
  number: 'number',
  'yes/no': 'yes/no',
  date: 'date',
  'date and time': 'date and time',
  time: 'time',
  duration: 'text',
  option: 'one of',
  options: 'several of',
  reference: 'record',
};

/** What a question's options may be as long as (core/forms/hosted/model.ts). */
const MOST_OPTIONS = 1000;
const MOST_VALUE = 200;

/** Whether visitors can be asked for a field's value. */
export const canBeAsked = ({ type, options, relation }: Field): boolean =>
  type !== 'id' &&
  (type !== 'reference' || relation !== undefined) &&
  ((type !== 'option' && type !== 'options') || (options !== undefined && options.length > 0));

/**
 * The question that asks for a field of a record: its control, options, limits, label and whether it must be answered are
 * the field's own. A reference is chosen among the records it leads to; which of them, `reads` has to say.
 */
export function questionFor(
  field: Field,
  { id, name, language }: { id: string; name: string; language: string },
): Item {
  const kind = field.type === 'id' ? 'text' : ASKED[field.type];
  const item: Item = { id, kind, name, label: { [language]: field.label.slice(0, 2000) } };
  if (mustBeGiven(field)) item.required = true;
  if (kind === 'one of' || kind === 'several of')
    item.options = (field.options ?? [])
      .filter(({ value }) => value !== '' && value.length <= MOST_VALUE)
      .slice(0, MOST_OPTIONS)
      .map(({ value, label }) => ({ value, label: { [language]: (label || value).slice(0, 400) } }));
  if (item.options) item.known = item.options.map(({ value }) => value);
  const isText = kind === 'text' || kind === 'long text' || kind === 'email' || kind === 'web address';
  if (isText && field.maxLength !== undefined && field.maxLength > 0)
    item.maxLength = Math.min(field.maxLength, 100_000);
  if (field.type === 'integer') item.decimals = 0;
  else if (kind === 'number' && field.scale !== undefined) item.decimals = Math.min(6, field.scale);
  const token = autofillOf(field);
  if (token !== undefined) item.autocomplete = token;
  return item;
}

/** What a browser may fill in by itself, by what the field is about. */
function autofillOf({ label, name, type }: Field): string | undefined {
  if (type === 'email') return 'email';
  if (type === 'phone') return 'tel';
  if (type !== 'text' && type !== 'option') return undefined;
  const [meant] = [...meaningsOf(tellingWords(label)), ...meaningsOf(tellingWords(name))];
  return Object.keys(AUTOFILL).find((token) => AUTOFILL[token] === meant?.meaning);
}
