import { isChoice } from '../kinds.ts';
import type { HostedForm, Item } from '../model.ts';
import { decimalsOf, limitDay } from '../answers.ts';
import type { Placed } from '../placed.ts';
import { say } from '../say.ts';
import { goesBy, LETTERS } from '../reads.ts';
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
