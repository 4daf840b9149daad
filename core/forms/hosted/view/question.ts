import { drawnName, FILE_SORTS, MOST_MEBIBYTES, SIGNED_ON, USUAL_SORTS } from '../files.ts';
import { isChoice } from '../kinds.ts';
import type { HostedForm, Item } from '../model.ts';
import { decimalsOf, limitDay } from '../answers.ts';
import type { Placed } from '../placed.ts';
import { say } from '../say.ts';
import { goesBy, LETTERS } from '../offering.ts';
import type { Words } from '../words.ts';
import { element, type Element, type Markup } from './markup.ts';

/** What showing an item goes by. */
export interface Showing {
  form: HostedForm;
  language: string;
  today: string;
  words: Words;
  /** What has been answered, by name. */
  said: (name: string) => readonly string[];
  /** What is wrong with an answer, by name. */
  wrong: (name: string) => string | undefined;
  /** What a file that was sent before is called, by what speaks for it. */
  files: (token: string) => string | undefined;
}

/** The id of the control, or the group, of a name. */
export const idOf = (name: string): string => `q-${name.replace(/[[\]]+/g, '-').replace(/-$/, '')}`;

/** A question: its label, help, control and what is wrong with its answer, tied together for those who don't see them. */
export function question(showing: Showing, placed: Placed): Element {
  const { item, name } = placed;
  if (item.kind === 'hidden')
    return element('input', { type: 'hidden', name, value: showing.said(name)[0] ?? '', 'data-q': name });
  const id = idOf(name);
  const wrong = showing.wrong(name);
  const label = say(item.label, showing.language, showing.form.languages);
  const help = say(item.help, showing.language, showing.form.languages);
  const described = [help && `${id}-help`, wrong !== undefined && `${id}-wrong`].filter(Boolean).join(' ') || undefined;
  const mark = item.required === true && element('small', {}, ` ${showing.words.requiredMark}`);
  const around: Record<string, string | boolean | undefined> = {
    class: `q q-${item.kind.replaceAll(/[ /]/g, '-')}`,
    'data-q': name,
    'data-off': !placed.shown,
  };
  const below = [
    help !== '' && element('p', { class: 'help', id: `${id}-help` }, help),
    element('p', { class: 'wrong', id: `${id}-wrong`, hidden: wrong === undefined }, wrong),
  ];
  const common = {
    'aria-describedby': described,
    'aria-invalid': wrong !== undefined && 'true',
    // What isn't shown to everybody can't be insisted on by a browser that runs no script.
    required: item.required === true && placed.sure,
  };
  if (item.kind === 'consent')
    return element(
      'div',
      around,
      element(
        'label',
        { class: 'choice' },
        element('input', {
          type: 'checkbox',
          id,
          name,
          value: 'yes',
          checked: showing.said(name).includes('yes'),
          ...common,
        }),
        element('span', {}, label, mark),
      ),
      below,
    );
  if (isChosenAtOnce(item))
    return element(
      'fieldset',
      { ...around, id, tabindex: '-1', 'aria-describedby': described, 'aria-invalid': common['aria-invalid'] },
      element('legend', {}, label, mark),
      choices(showing, item, name, common.required),
      below,
    );
  return element(
    'div',
    around,
    element('label', { for: id }, label, mark),
    control(showing, placed, { id, name, ...common }),
    below,
  );
}

/** A few options stand side by side; many are in a list that opens. */
const AT_ONCE = 7;
const isChosenAtOnce = ({ kind, options = [], reads }: Item): boolean =>
  kind === 'several of' || kind === 'yes/no' || (kind === 'one of' && !reads && options.length <= AT_ONCE);

/** What the page's script has to know of a question that offers records; what they are, the server says. */
const readsOf = ({ reads, kind }: Item): Attributes =>
  reads
    ? {
        'data-reads': kind,
        'data-letters': reads.letters ?? LETTERS,
        'data-by': goesBy(reads).join(' '),
        'data-fills': (reads.fills ?? []).length > 0,
      }
    : {};

/**
 * A file. Without a script it comes with the rest; with one it is sent as soon as it is chosen. What is kept already goes
 * along under the same name, and the file's own name is said.
 */
function filePicker(
  { words, files }: Showing,
  item: Item,
  name: string,
  value: string,
  attributes: Attributes,
): Element {
  const kept = value === '' ? undefined : files(value);
  const sorts = item.accepts ?? USUAL_SORTS;
  return element(
    'div',
    { class: 'file', 'data-most': item.mostMebibytes ?? MOST_MEBIBYTES, 'data-name': name },
    element('input', {
      ...attributes,
      type: 'file',
      accept: sorts.map((sort) => FILE_SORTS[sort].ends).join(','),
      required: attributes['required'] === true && kept === undefined,
    }),
    element('input', { type: 'hidden', name, value: kept === undefined ? '' : value }),
    element('p', { class: 'help', role: 'status' }, kept === undefined ? '' : words.fileTaken(kept)),
  );
}

/** A signature is a name that is typed; with a script it may be drawn as well. */
function signature({ words, said }: Showing, name: string, value: string, attributes: Attributes): Element {
  const drawn = drawnName(name);
  return element(
    'div',
    { class: 'signature', 'data-drawn': drawn },
    element('input', {
      ...attributes,
      type: 'text',
      value,
      maxlength: 200,
      autocomplete: 'name',
      placeholder: words.signHere,
    }),
    element('input', { type: 'hidden', name: drawn, value: said(drawn)[0] ?? '' }),
    element('canvas', {
      width: SIGNED_ON.width,
      height: SIGNED_ON.height,
      hidden: true,
      role: 'img',
      'aria-label': words.drawHere,
    }),
  );
}

/** A record that is looked up (WAI-ARIA 1.2, combobox): what is typed isn't sent, what was chosen is. */
function lookup({ words }: Showing, item: Item, name: string, value: string, attributes: Attributes): Element {
  const list = `${String(attributes['id'])}-list`;
  const { name: _, ...typed } = attributes;
  return element(
    'div',
    { class: 'lookup', ...readsOf(item) },
    element('input', {
      ...typed,
      type: 'text',
      role: 'combobox',
      autocomplete: 'off',
      spellcheck: 'false',
      'aria-autocomplete': 'list',
      'aria-expanded': 'false',
      'aria-controls': list,
      maxlength: 100,
    }),
    element('input', { type: 'hidden', name, value }),
    element('ul', { id: list, role: 'listbox', hidden: true }),
    element('p', { class: 'help', role: 'status' }),
    element('noscript', {}, element('p', { class: 'help' }, words.needsScript)),
  );
}

function choices({ form, language, words, said }: Showing, item: Item, name: string, required: boolean): Element[] {
  const options =
    item.kind === 'yes/no'
      ? [
          { value: 'yes', label: words.yes },
          { value: 'no', label: words.no },
        ]
      : (item.options ?? []).map(({ value, label }) => ({
          value,
          label: say(label, language, form.languages) || value,
        }));
  const type = item.kind === 'several of' ? 'checkbox' : 'radio';
  if (item.reads) return [element('div', { class: 'offered', 'data-name': name, ...readsOf(item) })];
  return options.map(({ value, label }) =>
    element(
      'label',
      { class: 'choice' },
      element('input', {
        type,
        name,
        value,
        checked: said(name).includes(value),
        required: required && type === 'radio',
      }),
      element('span', {}, label),
    ),
  );
}

type Attributes = Record<string, string | number | boolean | undefined>;

function control(showing: Showing, placed: Placed, attributes: Attributes): Markup {
  const { item, name } = placed;
  const value = showing.said(name)[0] ?? '';
  const autocomplete = item.autocomplete;
  const maxlength = item.maxLength;
  if (item.kind === 'file') return filePicker(showing, item, name, value, attributes);
  if (item.kind === 'signature') return signature(showing, name, value, attributes);
  if (item.kind === 'record') return lookup(showing, item, name, value, attributes);
  if (isChoice(item.kind)) {
    const chosen = value;
    return element(
      'select',
      { ...attributes, autocomplete, ...readsOf(item) },
      element('option', { value: '' }, showing.words.choose),
      // What is offered is read by the page's script; what was chosen stays chosen until then.
      item.reads !== undefined && value !== '' && element('option', { value, selected: true }, value),
      (item.options ?? []).map((option) =>
        element(
          'option',
          { value: option.value, selected: option.value === chosen },
          say(option.label, showing.language, showing.form.languages) || option.value,
        ),
      ),
    );
  }
  if (item.kind === 'long text') return element('textarea', { ...attributes, rows: 5, maxlength, autocomplete }, value);
  const [type, inputmode] = INPUTS[item.kind] ?? ['text', undefined];
  const by = { language: showing.language, today: showing.today };
  const days =
    item.kind === 'date'
      ? { min: limitDay(item.earliest, placed.answerTo, by), max: limitDay(item.latest, placed.answerTo, by) }
      : {};
  const wholeOnly = (item.kind === 'number' || item.kind === 'money') && decimalsOf(item) === 0;
  const box = element('input', {
    ...attributes,
    type,
    inputmode: wholeOnly ? 'numeric' : inputmode,
    value,
    maxlength,
    autocomplete,
    ...days,
  });
  if (item.kind !== 'money') return box;
  return element('span', { class: 'amount' }, box, element('span', { class: 'unit' }, item.currency ?? ''));
}

/** Numbers are typed as the visitor's language writes them, which number inputs don't let everybody do. */
const INPUTS: Partial<Record<Item['kind'], [type: string, inputmode?: string]>> = {
  email: ['email'],
  phone: ['tel'],
  'web address': ['text', 'url'],
  number: ['text', 'decimal'],
  money: ['text', 'decimal'],
  date: ['date'],
  time: ['time'],
  'date and time': ['datetime-local'],
};
