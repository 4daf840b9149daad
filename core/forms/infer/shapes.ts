import {
  readBoolean,
  readDate,
  readDateTime,
  readEmail,
  readMoney,
  readNumber,
  readTime,
  readWebAddress,
} from '../../values/index.ts';
import type { ValueKind } from './evidence.ts';

/** Kinds that a value's own letters tell, narrowest first; options and lengths are told by many values together. */
export const SHAPED = [
  'yes/no',
  'date and time',
  'date',
  'time',
  'email',
  'web address',
  'phone',
  'whole number',
  'decimal',
  'money',
] as const satisfies readonly ValueKind[];
export type ShapedKind = (typeof SHAPED)[number];

/** What letters a text has: a look through it once spares most kinds their own, longer look. */
interface Letters {
  digits: number;
  at: boolean;
  /** A letter of some alphabet. */
  letter: boolean;
  colon: boolean;
  /** A sign of a currency that is no letter. */
  currency: boolean;
  /** A sign that stands between the parts of dates. */
  parting: boolean;
}

function lettersOf(text: string): Letters {
  const found: Letters = { digits: 0, at: false, letter: false, currency: false, colon: false, parting: false };
  for (let at = 0; at < text.length; at += 1) {
    const code = text.charCodeAt(at);
    if (code >= 48 && code <= 57) found.digits += 1;
    else if (code === 64) found.at = true;
    else if (code === 58) found.colon = true;
    else if (code >= 45 && code <= 47) found.parting = true;
    else if (code === 36 || code === 0xa3 || code === 0xa5 || code === 0x20ac) found.currency = true;
    else if ((code >= 65 && code <= 90) || (code >= 97 && code <= 122) || code > 0xbf) found.letter = true;
  }
  return found;
}

/** No value of these kinds is longer. */
const LONGEST_SHAPED = 300;

/** What the letters must have for a text to be worth a closer look, and what that look is. */
const FITS: Record<
  ShapedKind,
  [worth: (letters: Letters, text: string) => boolean, fits: (text: string, letters: Letters) => boolean]
> = {
  'yes/no': [
    ({ letter }, text) => letter && text.length <= 5,
    (text) => /^(true|false|yes|no|ja|nein|tak|nie|on|off)$/i.test(text) && readBoolean(text).ok,
  ],
  'date and time': [
    ({ digits, parting, colon }) => digits >= 8 && parting && colon,
    (text) =>
      /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/.test(text) ||
      (/^\d{1,2}[./-]\d{1,2}[./-]\d{4},? \d{1,2}:\d{2}/.test(text) && readDate(text).ok) ||
      (/^\d{4}[./]\d{1,2}[./]\d{1,2} \d{1,2}:\d{2}/.test(text) && readDateTime(text).ok),
  ],
  date: [
    ({ digits, parting, letter }) => digits >= 5 && (parting || letter),
    (text) => PLAIN_DATE.test(text) || (/\d{4}/.test(text) && !/\d:\d\d/.test(text) && readDate(text).ok),
  ],
  time: [({ digits, colon }) => digits >= 3 && colon, (text) => /^\d{1,2}:\d{2}/.test(text) && readTime(text).ok],
  // Nearly all addresses are plain; the whole rule is for the others.
  email: [({ at }) => at, (text) => PLAIN_EMAIL.test(text) || readEmail(text).ok],
  'web address': [({ letter }) => letter, (text) => /^(https?:\/\/|www\.)/i.test(text) && readWebAddress(text).ok],
  phone: [({ digits, letter }) => digits >= 7 && !letter, isPhoneShaped],
  'whole number': [
    ({ digits, letter }) => digits > 0 && !letter,
    (text, letters) => WHOLE.test(text) && isCounted(text, letters),
  ],
  decimal: [
    ({ digits, letter }) => digits > 0 && !letter,
    (text, letters) => isPlainNumber(text) || (COUNTED.test(text) && isCounted(text, letters) && readNumber(text).ok),
  ],
  money: [
    ({ digits, letter, currency }) => digits > 0 && (letter || currency),
    (text) => text.length <= 40 && namesCurrency(text) && readMoney(text).ok,
  ],
};

/** A date that is one whatever the order of day and month, and in every month. */
const PLAIN_DATE =
  /^(?:(?:[1-9]|0[1-9]|1[0-2])[./-](?:[1-9]|0[1-9]|1[0-2])[./-][12]\d{3}|[12]\d{3}-(?:0[1-9]|1[0-2])-(?:0[1-9]|1\d|2[0-8]))$/;

/** So are most numbers: few digits, and a decimal mark at most. */
export const isPlainNumber = (text: string): boolean => /^(?:[1-9]\d{0,11}|0)(?:[.,]\d{1,2})?$/.test(text);

const PLAIN_EMAIL = /^[a-z0-9][a-z0-9._+-]{0,62}@(?:[a-z0-9-]{1,60}\.){1,5}[a-z]{2,20}$/i;

/** Whether a sign of a currency stands in a text, or its code (ISO 4217): "Jan 1 2000" is no amount. */
function namesCurrency(text: string): boolean {
  if (/\p{Sc}|zł|\bkr\b|euro/iu.test(text)) return true;
  const code = /(?:^|[\s\d])([A-Z]{3})(?:$|[\s\d])/i.exec(text)?.[1];
  return code !== undefined && currencies().has(code.toUpperCase());
}

let known: ReadonlySet<string> | undefined;
const currencies = (): ReadonlySet<string> => (known ??= new Set(Intl.supportedValuesOf('currency')));

/** A set of kinds, one bit each, in the order of {@link SHAPED}. */
export type Kinds = number;
export const EVERY_KIND: Kinds = 2 ** SHAPED.length - 1;
export const kindBit = (kind: ShapedKind): Kinds => 2 ** SHAPED.indexOf(kind);

/** Which of some kinds a text is by its own letters. */
export function kindsOf(text: string, among: Kinds = EVERY_KIND): Kinds {
  if (among === 0 || text.length > LONGEST_SHAPED) return 0;
  const letters = lettersOf(text);
  let kinds = 0;
  for (let at = 0; at < TESTS.length; at += 1) {
    const bit = 1 << at;
    if ((among & bit) === 0) continue;
    const [worth, fits] = TESTS[at]!;
    if (worth(letters, text) && fits(text, letters)) kinds |= bit;
  }
  return kinds;
}

const TESTS = SHAPED.map((kind) => FITS[kind]);

/** Digits, in groups of three where they are parted by more than a decimal mark. */
const COUNTED = /^[+-]?(?:(?:\d+|\d{1,3}(?:[.,\s'’]\d{3})+)(?:[.,]\d+)?|[.,]\d+)$/;
const WHOLE = /^[+-]?(?:\d+|\d{1,3}(?:[\s'’]\d{3})+|\d{1,3}(?:\.\d{3}){2,}|\d{1,3}(?:,\d{3}){2,})$/;

/** A leading zero or a very long number names something and is not counted with. */
function isCounted(text: string, { digits }: Letters): boolean {
  return digits <= 15 && !/^\s*[+-]?0\d/.test(text);
}

/** Looks dialled: a leading plus or zero, enough digits, and nothing but digits and what people put between them. */
function isPhoneShaped(text: string, { digits }: Letters): boolean {
  if (digits > 15 || !PHONE_BEGINNINGS.test(text)) return false;
  const bare = text.trim();
  return /^(\+|00?[1-9]|\(0)[\d\s()/.-]+$/.test(bare) && /[\s()/+-]/.test(bare);
}

const PHONE_BEGINNINGS = /^\s*[+0(]/;

/** What stands in a cell where nothing is known, in the languages served; compared without case. */
const STAND_INS = new Set(
  'n/a|n / a|na|n.a.|n. a.|#n/a|-|--|---|–|—|.|?|??|none|null|nil|unknown|tbd|k.a.|k. a.|k.a|keine angabe|unbekannt|brak|b/d|bd|nieznany'.split(
    '|',
  ),
);

/** Nearly no value begins like one. */
const BEGINNINGS = new Set([...STAND_INS].flatMap((each) => [each.charCodeAt(0), each.toUpperCase().charCodeAt(0)]));

/** Of these, words that may as well be one of several options. */
export const isWord = (standIn: string): boolean => /^\p{L}{4,}$/u.test(standIn);

export const isStandIn = (text: string): boolean =>
  text.length <= 12 && BEGINNINGS.has(text.charCodeAt(0)) && STAND_INS.has(text.toLowerCase());
