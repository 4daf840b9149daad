import type { AnswerTrouble } from '../answers.ts';
import type { HostedForm, Item } from '../model.ts';
import {
  everythingOn,
  mostRows,
  placedPages,
  rowName,
  TEMPLATE_ROW,
  usualRows,
  type Placed,
  type PlacedPage,
  type PlacedRow,
} from '../placed.ts';
import { say } from '../say.ts';
import type { Answers } from '../shown.ts';
import { amountText, toPay } from '../to-pay.ts';
import { wordsIn } from '../words.ts';
import { element, type Element, type Markup } from './markup.ts';
import { idOf, question, type Showing } from './question.ts';

/** A form as it is shown: in one language, on one day, with what has been answered and what is wrong with it. */
export interface FormView {
  form: HostedForm;
  language: string;
  today: string;
  /** Where it is sent. */
  action: string;
  answers?: Answers;
  errors?: readonly AnswerTrouble[];
  /** What is sent along unseen, e.g. what makes sending it twice harmless. */
  along?: Readonly<Record<string, string>>;
  /** Nobody has filled in anything yet. */
  fresh?: boolean;
  /** What files that were sent before are called, by what speaks for them. */
  files?: Readonly<Record<string, string>>;
  /** The group of which one more row is shown. */
  more?: string | undefined;
}

/** What nobody sees and only programs fill in. */
export const TRAP = 'website_again';

/** A form as visitors see it. It works without a script; with one, all of it is done in the page. */
export function formView(view: FormView): Element {
  const { form, language, today, action, answers = {}, errors = [], along = {} } = view;
  const words = wordsIn(language);
  const wrong = new Map(errors.map(({ field, message }) => [field, message]));
  const showing: Showing = {
    ...{ form, language, today, words },
    said: (name) => (answers[name] === undefined ? [] : [answers[name]].flat()),
    wrong: (name) => wrong.get(name),
    files: (token) => view.files?.[token],
  };
  const pages = placedPages(form, answers, (group, name, came) => {
    const rows = usualRows(group, name, came);
    // Somebody begins with a row to fill in, also where none has to be.
    const fresh = view.more === name || (rows.length === 0 && view.fresh === true);
    return fresh && rows.length < mostRows(group) ? [...rows, (rows.at(-1) ?? -1) + 1] : rows;
  });
  return element(
    'form',
    {
      method: 'post',
      action,
      id: 'form',
      // What has files in it can't be sent otherwise (RFC 7578).
      enctype: takesFiles(form) && 'multipart/form-data',
      'data-fresh': view.fresh === true,
      novalidate: errors.length > 0,
    },
    // Enter in a field presses the form's first button (HTML, 4.10.21.2), which must not be one of a row's.
    element('button', { type: 'submit', class: 'unseen', tabindex: '-1', 'aria-hidden': 'true' }, words.send),
    errorSummary(errors, showing, pages),
    Object.entries(along).map(([name, value]) => element('input', { type: 'hidden', name, value })),
    form.guard.trap && trap(showing),
    pages.map((placed, at) =>
      element(
        'section',
        { class: 'page', 'data-page': placed.page.id, 'data-off': !placed.shown },
        pages.length > 1 && element('p', { class: 'step' }, words.page(at + 1, pages.length)),
        placed.page.title && element('h2', {}, say(placed.page.title, language, form.languages)),
        placed.items.map((each) => itemOf(showing, each)),
      ),
    ),
    form.fee && feeLine(view),
    element(
      'p',
      { class: 'send' },
      element('button', { type: 'submit', class: 'strong', 'data-sending': words.sending }, words.send),
    ),
  );
}

/** Whether a form asks for files. */
export function takesFiles(form: Pick<HostedForm, 'pages'>): boolean {
  const within = (items: readonly Item[]): boolean =>
    items.some(({ kind, items: inside = [] }) => kind === 'file' || within(inside));
  return form.pages.some(({ items }) => within(items));
}

/** One question or words of a form by themselves, as a visitor sees them who has filled in nothing; of a group nothing. */
export function itemView(
  item: Item,
  { form, language, today }: Pick<FormView, 'form' | 'language' | 'today'>,
): Markup | undefined {
  if (item.kind === 'group' || item.kind === 'hidden') return undefined;
  const begun = item.begins?.with === 'constant' ? [item.begins.value] : [];
  const showing: Showing = {
    form,
    language,
    today,
    words: wordsIn(language),
    said: () => begun,
    wrong: () => undefined,
    files: () => undefined,
  };
  const placed: Placed = { item, name: item.id, sure: false, answerTo: () => undefined, idle: false, shown: true };
  return itemOf(showing, placed);
}

/** What there is to pay, before it is sent; the page's script keeps it true while answers change. */
function feeLine({ form, language, answers = {} }: FormView): Element {
  const words = wordsIn(language);
  const come = toPay(form.fee!, form, answers, { language });
  const sum = come.ok ? amountText(come.minor, form.fee!.currency, language) : '–';
  return element(
    'p',
    { class: 'fee', 'aria-live': 'polite' },
    element('span', {}, `${words.toPay}: `),
    element('b', { 'data-fee': true }, sum),
  );
}

function errorSummary(
  errors: readonly AnswerTrouble[],
  { words, language, form }: Showing,
  pages: readonly PlacedPage[],
): Element {
  const general = errors.filter(({ field }) => field === '' || field.startsWith('_'));
  const labels = new Map(
    errors.length === 0
      ? []
      : everythingOn(pages).map(({ name, item: { label } }) => [name, say(label, language, form.languages)]),
  );
  return element(
    'div',
    { class: 'summary', role: 'alert', id: 'summary', tabindex: '-1', hidden: errors.length === 0 },
    errors.length > 0 && element('p', {}, general[0]?.message ?? words.errors(errors.length)),
    errors
      .filter((each) => !general.includes(each))
      .map(({ field, message }) =>
        element('a', { href: `#${idOf(field)}` }, `${labels.get(field) ?? field}: ${message}`),
      ),
  );
}

function trap({ words }: Showing): Element {
  return element(
    'p',
    { class: 'unseen', 'aria-hidden': 'true' },
    element('label', { for: TRAP }, words.trap),
    element('input', { type: 'text', id: TRAP, name: TRAP, tabindex: '-1', autocomplete: 'off' }),
  );
}

function itemOf(showing: Showing, placed: Placed): Markup {
  const text = say(placed.item.label, showing.language, showing.form.languages);
  switch (placed.item.kind) {
    case 'heading':
      return element('h3', { 'data-off': !placed.shown, 'data-item': placed.item.id }, text);
    case 'words':
      return element(
        'div',
        { class: 'words', 'data-off': !placed.shown, 'data-item': placed.item.id },
        text.split(/\n{2,}/).map((paragraph) => element('p', {}, paragraph)),
      );
    case 'group':
      return group(showing, placed, text);
    default:
      return question(showing, placed);
  }
}

function group(showing: Showing, placed: Placed, label: string): Element {
  const { words } = showing;
  const rows = placed.rows ?? [];
  const id = idOf(placed.name);
  const wrong = showing.wrong(placed.name);
  const help = say(placed.item.help, showing.language, showing.form.languages);
  return element(
    'fieldset',
    {
      class: 'group',
      id,
      tabindex: '-1',
      'data-group': placed.name,
      'data-most': mostRows(placed.item),
      'data-least': placed.item.leastRows ?? 0,
      'data-off': !placed.shown,
    },
    element('legend', {}, label),
    help !== '' && element('p', { class: 'help' }, help),
    element('p', { class: 'wrong', id: `${id}-wrong`, hidden: wrong === undefined }, wrong),
    rows.map((row, at) => rowFrame(showing, placed.name, row, at + 1)),
    element('template', { 'data-row-of': placed.name }, templateRow(showing, placed)),
    rows.length < mostRows(placed.item) &&
      element(
        'button',
        { type: 'submit', name: '_more', value: placed.name, class: 'more', formnovalidate: true },
        words.oneMore,
      ),
  );
}

/**
 * A row from which the page's script makes fresh ones: it puts their number in the place of the template's. Rows of groups
 * within it are as in a fresh row.
 */
function templateRow(showing: Showing, { item: group, name }: Placed): Element | undefined {
  const alone: Item = { ...group, name: ALONE, leastRows: 0 };
  delete alone.shown;
  const [page] = placedPages({ pages: [{ id: ALONE, items: [alone] }] }, {}, (each, own, came) => {
    if (own === ALONE) return [TEMPLATE_ROW];
    const rows = usualRows(each, own, came);
    return rows.length === 0 ? [0] : rows;
  });
  const [row] = page?.items[0]?.rows ?? [];
  const blank: Showing = { ...showing, said: () => [], wrong: () => undefined };
  return row && rowFrame(blank, name, { ...row, items: row.items.map((each) => renamed(each, name)) }, 0);
}

const ALONE = 'x';

/** A placed item under the name that its group has in the form. */
const renamed = (placed: Placed, group: string): Placed => ({
  ...placed,
  shown: placed.shown,
  name: placed.name === '' ? '' : group + placed.name.slice(ALONE.length),
  ...(placed.rows
    ? {
        rows: placed.rows.map((row) => ({ ...row, items: row.items.map((each) => renamed(each, group)) })),
      }
    : {}),
});

function rowFrame(showing: Showing, group: string, { row, items }: PlacedRow, at: number): Element {
  const name = rowName(group, row);
  return element(
    'fieldset',
    { class: 'row', 'data-row': name },
    element('legend', {}, showing.words.row(at)),
    items.map((each) => itemOf(showing, each)),
    element(
      'button',
      { type: 'submit', name: '_less', value: name, class: 'less', formnovalidate: true },
      showing.words.lessOne,
    ),
  );
}
