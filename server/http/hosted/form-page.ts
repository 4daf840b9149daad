import { asHtml, element, formView, type FormView, type Markup } from '@zusammen/core/forms/hosted/view';
import { say, wordsIn, type HostedForm } from '@zusammen/core/forms/hosted';

/** The page around a form of ours, and the one that thanks for it. */
export interface PageOf {
  form: HostedForm;
  language: string;
  /** The intake's key, by which its own style sheet is found. */
  key: string;
  /** What speaks for whoever looks at a draft. */
  draft?: string;
  /** The signed link it was opened with: it goes along with whatever is asked or sent. */
  link?: string;
  /** Tells the record that it was opened with from others, and nothing of it. */
  about?: string;
  /** What speaks for the page of a record around it: it goes along as well. */
  panel?: string;
  /** What is paid with it moves no money. */
  test?: boolean;
}

/** Where a form's pages are. @param rest of the path */
export function addressIn({ key, language, draft, link, panel }: PageOf, rest = '', lang = language): string {
  const query = new URLSearchParams({
    ...(draft === undefined ? {} : { by: draft }),
    ...(link === undefined || rest === '/thanks' ? {} : { link }),
    ...(panel === undefined || rest === '/look.css' ? {} : { panel }),
    lang,
  });
  return `/f/${key}${draft === undefined ? '' : '/draft'}${rest}?${query.toString()}`;
}

function page(of: PageOf, title: string, ...inside: (Markup | false | undefined)[]): string {
  const { form, language, draft } = of;
  const head = element(
    'head',
    {},
    element('meta', { charset: 'utf-8' }),
    element('meta', { name: 'viewport', content: 'width=device-width, initial-scale=1' }),
    element('meta', { name: 'robots', content: 'noindex' }),
    element('title', {}, title),
    element('link', { rel: 'stylesheet', href: '/form.css' }),
    form.look && element('link', { rel: 'stylesheet', href: addressIn(of, '/look.css') }),
    element('script', { src: '/form.js', defer: true }, ''),
  );
  return `<!doctype html>\n${asHtml(element('html', { lang: language }, head, element('body', {}, element('main', {}, draft !== undefined && element('p', { class: 'restored' }, DRAFT), form.look?.mark !== undefined && element('img', { class: 'mark', src: form.look.mark, alt: '' }), ...inside))))}`;
}

/** Said to those who make the form, in the language that the application speaks. */
const DRAFT = 'This is the draft: what you send here is looked at as a visitor’s would be, and not kept.';

/** The form's page as HTML. */
export function formPage(
  of: PageOf,
  view: Omit<FormView, 'form' | 'language' | 'action'>,
  about: readonly Markup[] = [],
): string {
  const { form, language } = of;
  const title = say(form.title, language, form.languages);
  const intro = say(form.intro, language, form.languages);
  return page(
    of,
    title,
    element('h1', {}, title),
    ...languages(of),
    of.test === true && element('p', { class: 'test' }, wordsIn(language).testMode),
    ...paragraphs(intro),
    ...about,
    formView({ ...view, form, language, action: addressIn(of) }),
    // What the page's script goes by; the browser runs nothing of it.
    element('script', { type: 'application/json', id: 'document' }, ''),
  ).replace(
    'id="document"></script>',
    () =>
      `id="document">{"form":${formAsData(form)},${dataOf({ language, today: view.today, ...(of.about === undefined ? {} : { about: of.about }) }).slice(1)}</script>`,
  );
}

/** A form as the page's script goes by it: the same for all who open it. */
const asData = new WeakMap<HostedForm, string>();
function formAsData(form: HostedForm): string {
  const known = asData.get(form) ?? dataOf(form);
  asData.set(form, known);
  return known;
}

/** Data within HTML: no `<` in it, so that nothing in it ends the element (HTML, 4.12.1.3). */
const dataOf = (data: object): string =>
  JSON.stringify(data, (name, value: unknown) =>
    SAID.has(name) ? undefined : name === 'reads' && value ? READ_ELSEWHERE : value,
  ).replaceAll('<', '\\u003c');

/** Which records are offered is nothing that the page has to know. */
const READ_ELSEWHERE = { shows: [] };

/** What stands in the page already, and what its script has no use for. */
const SAID = new Set([
  'label',
  'help',
  'intro',
  'thanks',
  'title',
  'look',
  'guard',
  'languages',
  'begins',
  'link',
  'panel',
  'holds',
  'known',
]);

function languages(of: PageOf): Markup[] {
  const { form, language } = of;
  if (form.languages.length < 2) return [];
  const links = form.languages.map((each) =>
    element(
      'a',
      { href: addressIn(of, '', each), hreflang: each, lang: each, 'aria-current': each === language && 'true' },
      nameOf(each),
    ),
  );
  return [element('nav', { class: 'languages', 'aria-label': 'Language' }, links)];
}

/** A language by its own name (Unicode CLDR); forms have few of them. */
const names = new Map<string, string>();
function nameOf(language: string): string {
  const known = names.get(language) ?? new Intl.DisplayNames([language], { type: 'language' }).of(language) ?? language;
  names.set(language, known);
  return known;
}

const paragraphs = (text: string): Markup[] =>
  text === '' ? [] : text.split(/\n{2,}/).map((paragraph) => element('p', { class: 'intro' }, paragraph));

/** A page under the form's title, with something else than the form on it. */
export function plainFormPage(of: PageOf, ...inside: (Markup | false | undefined)[]): string {
  const title = say(of.form.title, of.language, of.form.languages);
  return page(of, title, element('h1', {}, title), ...inside);
}

/** What somebody sees who has sent it. */
export function thanksPage(of: PageOf, { paper, outcome = [] }: { paper?: string; outcome?: Markup[] } = {}): string {
  const { form, language } = of;
  const words = wordsIn(language);
  const thanks = say(form.thanks, language, form.languages);
  const title = say(form.title, language, form.languages);
  return page(
    of,
    title,
    element('h1', {}, title),
    of.test === true && element('p', { class: 'test' }, words.testMode),
    element('div', { class: 'thanks', role: 'status' }, ...paragraphs(thanks === '' ? words.sent : thanks)),
    ...outcome,
    ...(paper === undefined
      ? []
      : [element('p', { class: 'paper' }, element('a', { href: paper, target: '_blank' }, words.asPaper))]),
  );
}

/** The owner's colours as a style sheet. What stands on the first colour is written in whichever of white and ink reads better. */
export function lookSheet({ look }: Pick<HostedForm, 'look'>): string {
  const lines: string[] = [];
  if (look?.first)
    lines.push(`--first:${look.first};--on-first:${contrast(look.first, '#ffffff') >= 4.5 ? '#ffffff' : '#231f1a'}`);
  if (look?.second) lines.push(`--second:${look.second}`);
  return lines.length === 0 ? '' : `:root{${lines.join(';')}}`;
}

/** The contrast ratio of two colours (WCAG 2.2). */
export function contrast(one: string, other: string): number {
  const [a, b] = [luminance(one), luminance(other)];
  return (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
}

function luminance(colour: string): number {
  const [red, green, blue] = [1, 3, 5]
    .map((at) => parseInt(colour.slice(at, at + 2), 16) / 255)
    .map((part) => (part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4)) as [number, number, number];
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}
