import { dateOrderOf, decimalMarkOf, readDate, readDigits, readTime, tooLong } from '../../values/index.ts';
import { areStrokes, drawnName, fileName, MOST_FILE_TOKEN } from './files.ts';
import { isChoice, isQuestion } from './kinds.ts';
import type { DayLimit, HostedForm, Item } from './model.ts';
import { mostRows, placedIn, type Placed } from './placed.ts';
import type { Answers } from './shown.ts';
import { say } from './say.ts';
import { wordsIn, type Words } from './words.ts';

/** What answers are read by: the language the form was shown in, and which day it is where the form is at home. */
export interface ReadingBy {
  language: string;
  /** YYYY-MM-DD. */
  today: string;
}

/** An answer that won't do, and why, in the visitor's language. */
export interface AnswerTrouble {
  field: string;
  message: string;
}

export type ReadAnswers =
  | { ok: true; values: Record<string, string | string[]> }
  | { ok: false; errors: AnswerTrouble[] };

/**
 * Reads what somebody has filled in, in the page and on the server alike: what is required, options, limits, kinds, days
 * and rows. What isn't shown for these answers, and what the form doesn't ask, is left out, whoever sent it.
 * @returns values as they go on: numbers with a decimal point, days and times by ISO 8601; or all that won't do
 */
export function readAnswers(form: HostedForm, answers: Answers, by: ReadingBy): ReadAnswers {
  const words = wordsIn(by.language);
  const values: Record<string, string | string[]> = {};
  const errors: AnswerTrouble[] = [];
  for (const placed of placedIn(form, answers)) {
    if (!placed.shown || placed.name === '' || placed.idle) continue;
    const { item, name } = placed;
    if (item.kind === 'group') {
      const message = troubleOfRows(placed, words);
      if (message !== undefined) errors.push({ field: name, message });
    } else if (isQuestion(item.kind)) {
      const reading = readAnswer(placed, answers[name], by, words);
      if ('trouble' in reading) errors.push({ field: name, message: reading.trouble });
      else if (reading.value !== undefined) {
        values[name] = reading.value;
        // What somebody consented to is kept with their consent: the form's words may be others one day.
        const drawn = item.kind === 'signature' ? [answers[drawnName(name)] ?? ''].flat()[0]! : '';
        if (drawn !== '' && areStrokes(drawn)) values[drawnName(name)] = drawn;
        if (item.kind === 'consent') values[wordingOf(name)] = say(item.label, by.language, form.languages);
      }
    }
  }
  return errors.length > 0 ? { ok: false, errors } : { ok: true, values };
}

/** Under which name it goes on how a chosen record was shown: `org` and `org_shown`. */
export const shownName = (name: string): string => name.replace(/\]?$/, (end) => `_shown${end}`);

/** Under which names more goes on with an answer than was given. */
export const alongWith = ({ kind, reads }: Pick<Item, 'kind' | 'reads'>, name: string): string[] => [
  ...(kind === 'consent' ? [wordingOf(name)] : []),
  ...(reads ? [shownName(name)] : []),
  ...(kind === 'file' ? [fileName(name)] : []),
  ...(kind === 'signature' ? [drawnName(name)] : []),
];

/** Under which name the wording of a consent goes on: `news` and `news_wording`, `rows[0][news]` and `rows[0][news_wording]`. */
export const wordingOf = (name: string): string => name.replace(/\]?$/, (end) => `_wording${end}`);

function troubleOfRows({ item, rows = [] }: Placed, words: Words): string | undefined {
  const filled = rows.filter(({ says }) => says).length;
  if (filled > mostRows(item)) return words.mostRows(mostRows(item));
  return filled < (item.leastRows ?? 0) ? words.leastRows(item.leastRows!) : undefined;
}

type Reading = { value: string | string[] | undefined } | { trouble: string };

function readAnswer(placed: Placed, said: Answers[string] | undefined, by: ReadingBy, words: Words): Reading {
  const { item } = placed;
  const given = (said === undefined ? [] : typeof said === 'string' ? [said] : said).filter(
    (each) => each.trim() !== '',
  );
  if (given.length === 0) {
    if (item.required !== true) return { value: undefined };
    return { trouble: item.kind === 'consent' ? words.consent : words.required };
  }
  if (isChoice(item.kind) || item.kind === 'record') return readChoice(item, given, words);
  if (given.length > 1) return { trouble: words.oneValue };
  return readOne(placed, given[0]!, by, words);
}

/** Characters of a record's id. */
const MOST_ID = 255;
/** Records chosen at once: each of them is asked for. */
const MOST_CHOSEN = 20;

function readChoice({ kind, options = [], reads }: Item, given: readonly string[], words: Words): Reading {
  const chosen = [...new Set(given)];
  // Which records there are to choose, only their system knows: the server asks it (server/http/hosted/offered.ts).
  if (reads) {
    if (chosen.some((each) => each.length > MOST_ID)) return { trouble: words.option };
    if (kind !== 'several of') return chosen.length > 1 ? { trouble: words.oneValue } : { value: chosen[0] };
    return chosen.length > MOST_CHOSEN ? { trouble: words.option } : { value: chosen };
  }
  const offered = new Set(options.map(({ value }) => value));
  if (!chosen.every((each) => offered.has(each))) return { trouble: words.option };
  if (kind === 'several of') return { value: chosen };
  return chosen.length > 1 ? { trouble: words.oneValue } : { value: chosen[0] };
}

function readOne(placed: Placed, text: string, by: ReadingBy, words: Words): Reading {
  const { item } = placed;
  switch (item.kind) {
    // What speaks for a file that the server has kept: whether it does, the server sees (server/http/hosted/files.ts).
    case 'file':
      return text.length <= MOST_FILE_TOKEN ? { value: text } : { trouble: words.fileGone };
    case 'number':
    case 'money':
      return readAmount(item, text, by, words);
    case 'date':
      return readDay(placed, text, by, words);
    case 'time': {
      const time = readTime(text);
      return time.ok ? { value: time.value } : { trouble: words.time };
    }
    case 'date and time': {
      const [day = '', clock = ''] = text.trim().split(/[T ]/, 2);
      const date = readDate(day, dateOrderOf(by.language));
      const time = readTime(clock);
      if (!date.ok || !time.ok) return { trouble: words.dateAndTime };
      const trouble = beyondDays(placed, date.value, by, words);
      return trouble === undefined ? { value: `${date.value}T${time.value}` } : { trouble };
    }
    case 'yes/no':
      return text === 'yes' || text === 'no' ? { value: text } : { trouble: words.option };
    case 'consent':
      return text === 'yes' ? { value: text } : { trouble: words.consent };
    default:
      return readText(item, text, words);
  }
}

/** A number may be told by its parts: +49 30 / 123-456 (0). How many digits there are is by ITU-T E.164. */
const PHONE = /^\+?[\d\s().\-/]{3,40}(?:(?:ext\.?|x|#)\s?\d{1,6})?$/i;

function readText({ kind, maxLength }: Item, text: string, words: Words): Reading {
  const most = maxLength ?? MOST_TEXT[kind as keyof typeof MOST_TEXT] ?? MOST_TEXT.text;
  if (text.length > most * 2 || [...text].length > most) return { trouble: words.tooLong(most) };
  const bare = text.trim();
  if (kind === 'email') return isEmailAddress(bare) ? { value: bare } : { trouble: words.email };
  if (kind === 'web address') {
    const address = /^[a-z][a-z0-9+.-]*:/i.test(bare) ? bare : `https://${bare}`;
    return isWebAddress(address) ? { value: address } : { trouble: words.webAddress };
  }
  if (kind === 'phone') {
    const digits = bare.replace(/\D/g, '').length;
    return PHONE.test(bare) && digits >= 3 && digits <= 21 ? { value: bare } : { trouble: words.phone };
  }
  return { value: text.replace(/\r\n?/g, '\n') };
}

const MOST_TEXT = {
  text: 1000,
  'long text': 20_000,
  email: 320,
  phone: 60,
  'web address': 2000,
  hidden: 2000,
  signature: 200,
};

function isWebAddress(text: string): boolean {
  if (/\s/.test(text) || !URL.canParse(text)) return false;
  const { protocol, hostname } = new URL(text);
  return (protocol === 'https:' || protocol === 'http:') && hostname.slice(1, -1).includes('.');
}

/** By HTML (4.10.5.1.5), but that letters of any language may stand before the @, and that a domain has a dot. */
function isEmailAddress(text: string): boolean {
  const at = text.lastIndexOf('@');
  const [local, domain] = [text.slice(0, at), text.slice(at + 1)];
  if (at < 1 || local.length > 64 || domain.length > 255 || !/^[\p{L}\p{N}.!#$%&'*+/=?^_`{|}~-]+$/u.test(local))
    return false;
  const labels = domain.split('.');
  return (
    labels.length > 1 && labels.every((label) => /^[\p{L}\p{N}](?:[\p{L}\p{N}-]{0,61}[\p{L}\p{N}])?$/u.test(label))
  );
}

function readAmount(item: Item, text: string, { language }: ReadingBy, words: Words): Reading {
  // What a program sends, and what a browser's number input sends, has a point, and no groups of thousands.
  const plain = /^-?\d+(?:\.\d+)?$/.test(text.trim()) && !/^-?[1-9]\d{0,2}\.\d{3}$/.test(text.trim());
  const digits =
    tooLong(text, 'number') === undefined ? readDigits(text, plain ? 'point' : decimalMarkOf(language)) : undefined;
  if (!digits?.ok) return { trouble: words.number };
  const [, fraction = ''] = digits.value.split('.');
  const decimals = decimalsOf(item);
  if (decimals !== undefined && significant(fraction) > decimals)
    return { trouble: decimals === 0 ? words.whole : words.decimals(decimals) };
  const number = Number(digits.value);
  const shown = (limit: number): string => new Intl.NumberFormat(language, { maximumFractionDigits: 6 }).format(limit);
  const { least = item.kind === 'money' ? 0 : -MOST_NUMBER, most = MOST_NUMBER } = item;
  if (number < least) return { trouble: words.least(shown(least)) };
  if (number > most) return { trouble: words.most(shown(most)) };
  return { value: digits.value };
}

/** How many digits of a fraction count: zeros at its end don't. */
function significant(fraction: string): number {
  let end = fraction.length;
  while (end > 0 && fraction[end - 1] === '0') end -= 1;
  return end;
}

/** Beyond it a number is none that anybody counts or pays, and a double no longer keeps its cents. */
const MOST_NUMBER = 999_999_999_999;

/** Digits behind the decimal mark; of an amount those of its currency (ISO 4217, from Unicode CLDR). */
export function decimalsOf({
  kind,
  decimals,
  currency,
}: Pick<Item, 'kind' | 'decimals' | 'currency'>): number | undefined {
  if (kind !== 'money') return decimals;
  return new Intl.NumberFormat('en', { style: 'currency', currency: currency ?? 'EUR' }).resolvedOptions()
    .maximumFractionDigits;
}

function readDay(placed: Placed, text: string, by: ReadingBy, words: Words): Reading {
  const date = readDate(text, dateOrderOf(by.language));
  if (!date.ok) return { trouble: words.date };
  const trouble = beyondDays(placed, date.value, by, words);
  return trouble === undefined ? { value: date.value } : { trouble };
}

function beyondDays({ item, answerTo }: Placed, day: string, by: ReadingBy, words: Words): string | undefined {
  const shown = (limit: string): string =>
    new Intl.DateTimeFormat(by.language, { dateStyle: 'medium', timeZone: 'UTC' }).format(new Date(limit));
  const earliest = limitDay(item.earliest, answerTo, by);
  if (earliest !== undefined && day < earliest) return words.notBefore(shown(earliest));
  const latest = limitDay(item.latest, answerTo, by);
  return latest !== undefined && day > latest ? words.notAfter(shown(latest)) : undefined;
}

/** The day that a limit comes to; undefined where it depends on an answer that isn't there, or is no day. */
export function limitDay(
  limit: DayLimit | undefined,
  answerTo: Placed['answerTo'],
  { today, language }: ReadingBy,
): string | undefined {
  if (!limit) return undefined;
  const said =
    limit.from === 'answer' ? [answerTo(limit.answer ?? '') ?? ''].flat()[0] : limit.from === 'day' ? limit.day : today;
  const day = readDate(said ?? '', dateOrderOf(language));
  if (!day.ok) return undefined;
  const moment = new Date(Date.parse(day.value) + (limit.days ?? 0) * 86_400_000);
  return Number.isNaN(moment.getTime()) ? undefined : moment.toISOString().slice(0, 10);
}
