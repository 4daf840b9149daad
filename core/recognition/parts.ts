import { readPhone } from '../values/index.ts';
import { canonical, canonicalWords } from './names.ts';
import { typingErrors } from './distance.ts';
import type { About, Evidence } from './evidence.ts';
import type { Frequency } from './frequency.ts';

/** What people type to get past a field; shared, it says nothing. */
const PLACEHOLDERS = new Set(
  'n/a na none keine keiner unknown unbekannt nieznany inconnu test tester xxx xx x - -- . ? null nil tbd asdf 0 00 000 0000 00000 000000 123 1234 12345 123456 nobody noname'.split(
    ' ',
  ),
);

/** A value as it came, without what only fills a field. */
export function told(value: string | undefined): string {
  const text = (value ?? '').normalize('NFKC').replace(/\s+/gu, ' ').trim();
  const low = text.toLowerCase();
  return PLACEHOLDERS.has(low) || /^(.)\1*$/u.test(low) ? '' : text.slice(0, 300);
}

// ——— e-mail

export interface Email {
  whole: string;
  local: string;
  domain: string;
  /** Without dots and what follows a plus: one mailbox at many providers. */
  plain: string;
  role: boolean;
}

const ROLES = new Set(
  'info office kontakt contact mail post hello hallo admin sekretariat biuro bureau team service support sales verkauf buchhaltung accounts shop vorstand vertrieb verwaltung poczta zarzad contacto oficina rezeption empfang webmaster anfrage zentrale'.split(
    ' ',
  ),
);

export function emailOf(value: string | undefined): Email | undefined {
  const whole = told(value)
    .toLowerCase()
    .replace(/^mailto:/, '')
    .replace(/\s/g, '');
  const at = whole.lastIndexOf('@');
  if (at < 1 || at === whole.length - 1) return undefined;
  const [local, domain] = [whole.slice(0, at), whole.slice(at + 1).replace(/^www\./, '')];
  if (/^(test|none|no|keine|noreply|no-reply|xxx|abc|a)$/.test(local) || /^(test|none|xxx)\b/.test(domain))
    return undefined;
  return emailFrom(`${local}@${domain}`);
}

/** The parts of an address that is known to be one. @param known its plain form, where it was worked out before */
export function emailFrom(whole: string, known?: string): Email {
  const at = whole.lastIndexOf('@');
  const local = whole.slice(0, at);
  const plain = known ? known : /[+._-]/.test(local) ? local.split('+', 1)[0]!.replace(/[._-]/g, '') : local;
  return { whole, local, domain: whole.slice(at + 1), plain, role: ROLES.has(plain) };
}

export function compareEmails(a: Email | undefined, b: Email | undefined, common: Frequency): Evidence | undefined {
  if (!a || !b) return undefined;
  const about = 'e-mail';
  const rare = common.bits(a.whole);
  if (a.whole === b.whole)
    return a.role
      ? { about, level: 'the same shared mailbox', bits: Math.min(6, rare) }
      : { about, level: 'same', bits: rare - 0.4 };
  const sameDomain = a.domain === b.domain;
  if (a.plain === b.plain && a.plain.length > 3) {
    if (sameDomain) return { about, level: 'same but for dots or a tag', bits: Math.min(rare, a.role ? 5 : 15) };
    if (typingErrors(a.domain, b.domain, 2) <= 2 && !a.role)
      return { about, level: 'same but for its domain', bits: sameHost(a.domain, b.domain) ? 12 : 9 };
    return a.role
      ? { about, level: 'different', bits: -1 }
      : { about, level: 'same before the @', bits: a.plain.length > 7 ? 4 : 1.5 };
  }
  if (sameDomain && !a.role && !b.role) {
    const length = Math.min(a.plain.length, b.plain.length);
    const errors = typingErrors(a.plain, b.plain, 2);
    // Numbers behind a name tell people apart; letters in it are mistyped.
    const numbers = a.plain.replace(/\D/g, '') !== b.plain.replace(/\D/g, '');
    if (errors === 1 && length >= 6) return { about, level: 'a letter off', bits: numbers ? 3 : 10 };
    if (errors === 2 && length >= 9) return { about, level: 'two letters off', bits: numbers ? 1 : 7 };
  }
  return { about, level: 'different', bits: a.role || b.role ? -1 : -2.5 };
}

/** Mistyped rather than another provider: the name before the ending differs by a letter or not at all. */
function sameHost(a: string, b: string): boolean {
  const [x, y] = [a.split('.'), b.split('.')];
  return typingErrors(x[0]!, y[0]!, 1) <= 1 && x[0]!.length > 2;
}

// ——— telephone

export interface Phone {
  digits: string;
  last: string;
}

export const phoneFrom = (digits: string): Phone => ({ digits, last: digits.slice(-7) });

/** The different numbers among several. */
export function phonesOf(values: readonly (string | undefined)[], country: string | undefined): Phone[] {
  const phones = values.flatMap((value) => phoneOf(value, country) ?? []);
  return phones.filter(({ digits }, at) => phones.findIndex((each) => each.digits === digits) === at);
}

/** The best that any two of their numbers say. */
export function compareAnyPhones(a: readonly Phone[], b: readonly Phone[], common: Frequency): Evidence | undefined {
  let best: Evidence | undefined;
  for (const one of a)
    for (const other of b) {
      const evidence = comparePhones(one, other, common);
      if (evidence && (!best || evidence.bits > best.bits)) best = evidence;
    }
  return best;
}

export function phoneOf(value: string | undefined, country: string | undefined): Phone | undefined {
  const text = told(value).replace(/(?:ext|x|durchwahl|dw|wew)\.?\s*\d{1,5}$/i, '');
  const bare = text.replace(/\D/g, '');
  if (bare.length < 6 || /^(\d)\1+$/.test(bare)) return undefined;
  // In full as E.164 writes it, nothing is left to find out.
  if (/^\+[1-9]\d{7,14}$/.test(text)) return phoneFrom(bare);
  const reading = readPhone(text, country ?? 'DE');
  return phoneFrom(reading.ok ? reading.value.slice(1) : bare.replace(/^0+/, ''));
}

export function comparePhones(a: Phone | undefined, b: Phone | undefined, common: Frequency): Evidence | undefined {
  if (!a || !b) return undefined;
  const about = 'telephone';
  if (a.digits === b.digits) return { about, level: 'same', bits: Math.min(18, common.bits(a.digits) - 0.5) };
  if (a.last === b.last)
    return { about, level: 'same but for its beginning', bits: Math.min(12, common.bits(a.digits) - 2) };
  if (Math.min(a.digits.length, b.digits.length) >= 9 && typingErrors(a.digits, b.digits, 1) === 1)
    return { about, level: 'a digit off', bits: 6 };
  return { about, level: 'different', bits: -2 };
}

// ——— address

export interface Address {
  street: string;
  number: string;
  postcode: string;
  city: string;
}

const STREET_ENDINGS: [RegExp, string][] = [
  [/str(?:asse|eet|\.)?$|\bstr$/, 'str'],
  [/\b(?:road|rd)$/, 'rd'],
  [/\b(?:lane|ln)$/, 'ln'],
  [/\b(?:avenue|ave|av)$/, 'ave'],
  [/^(?:ulica|ul)\b\s*/, ''],
  [/pl(?:atz)?$/, 'pl'],
];

export function addressOf(values: {
  street?: string | undefined;
  postcode?: string | undefined;
  city?: string | undefined;
}): Address | undefined {
  const whole = told(values.street)
    .toLowerCase()
    .replace(/[\s,]+/g, ' ')
    .trim();
  // A number that ends it, else one that begins it.
  const found = /(?:^| )(\d+) ?([a-z])?(?: ?[-/] ?\d+ ?[a-z]?)?\.?$/.exec(whole);
  const leading = found ? null : /^(\d+) ?([a-z])? /.exec(whole);
  let street = canonical(found ? whole.slice(0, found.index) : leading ? whole.slice(leading[0].length) : whole);
  for (const [ending, short] of STREET_ENDINGS) street = street.replace(ending, short);
  const numbered = found ?? leading;
  const number = numbered ? `${numbered[1]}${numbered[2] ?? ''}` : '';
  const postcode = told(values.postcode)
    .toUpperCase()
    .replace(/^[A-Z]{1,2}-(?=\d)/, '')
    .replace(/[^A-Z0-9]/g, '');
  const city = canonical(told(values.city));
  street = street.replaceAll(' ', '');
  return street || postcode || city ? { street, number, postcode, city } : undefined;
}

export const addressKey = ({ street, number, postcode, city }: Address): string =>
  `${street} ${number} ${postcode || city}`;

/** @param moving what an address that differs weighs: people move, organisations seldom */
export function compareAddresses(
  a: Address | undefined,
  b: Address | undefined,
  common: { whole: Frequency; postcode: Frequency },
  moving: number,
): Evidence | undefined {
  if (!a || !b) return undefined;
  const about = 'address';
  const samePostcode = a.postcode !== '' && a.postcode === b.postcode;
  const sameCity = a.city !== '' && (a.city === b.city || (a.city.length > 4 && typingErrors(a.city, b.city, 1) <= 1));
  const nearPostcode =
    samePostcode || (a.postcode !== '' && b.postcode !== '' && typingErrors(a.postcode, b.postcode, 1) === 1);
  const placeKnown = (a.postcode !== '' && b.postcode !== '') || (a.city !== '' && b.city !== '');
  const area = samePostcode ? Math.min(4, common.postcode.bits(a.postcode) * 0.4) : sameCity ? 1 : 0;
  if (!a.street || !b.street)
    return placeKnown ? place(about, samePostcode, sameCity || nearPostcode, area, moving) : undefined;
  const streets = a.street === b.street ? 2 : mistypedStreet(a.street, b.street) ? 1 : 0;
  const near = samePostcode || sameCity || nearPostcode || !placeKnown;
  if (streets > 0 && near) {
    if (a.number && a.number === b.number) {
      const rare = Math.min(14, common.whole.bits(addressKey(a)));
      return {
        about,
        level: streets === 2 ? 'same' : 'same but for a letter',
        bits: placeKnown ? rare : Math.min(7, rare),
      };
    }
    if (!a.number || !b.number) return { about, level: 'same street', bits: 5 };
    const base = (number: string): string => number.replace(/[a-z]$/, '');
    if (base(a.number) === base(b.number)) return { about, level: 'same house but for a letter', bits: 7 };
    return { about, level: 'same street, another house', bits: 1 };
  }
  return place(about, samePostcode, sameCity, area - 2, moving);
}

function place(about: About, samePostcode: boolean, near: boolean, area: number, moving: number): Evidence {
  if (samePostcode) return { about, level: 'same postcode', bits: area };
  if (near) return { about, level: 'same place', bits: Math.min(area, 1) };
  return { about, level: 'different', bits: moving };
}

const mistypedStreet = (a: string, b: string): boolean =>
  Math.min(a.length, b.length) >= 5 &&
  (typingErrors(a, b, 2) <= (Math.min(a.length, b.length) >= 9 ? 2 : 1) || a.startsWith(b) || b.startsWith(a));

// ——— date of birth

export interface Day {
  year: number;
  month: number;
  day: number;
}

export function dayOf(value: string | undefined): Day | undefined {
  const text = told(value);
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})/.exec(text);
  const [year, month, day] = iso
    ? [iso[1], iso[2], iso[3]]
    : turned(/^(\d{1,2})[./-](\d{1,2})[./-](\d{4})$/.exec(text));
  if (!year || !month || !day) return undefined;
  const date = { year: Number(year), month: Number(month), day: Number(day) };
  // Written month first, as it can't be otherwise.
  if (date.month > 12 && date.day <= 12) [date.month, date.day] = [date.day, date.month];
  // The first of the first of a round year is what forms fill in by themselves.
  if (date.year < 1890 || (date.month === 1 && date.day === 1 && [1900, 1970, 2000].includes(date.year)))
    return undefined;
  return date;
}

/** A day as it was packed: year, month and day as one number. */
export function dayFrom(packed: string): Day {
  const number = Number(packed);
  return { year: Math.floor(number / 10_000), month: Math.floor(number / 100) % 100, day: number % 100 };
}

const turned = (match: RegExpExecArray | null): (string | undefined)[] => (match ? [match[3], match[2], match[1]] : []);

export function compareDays(a: Day | undefined, b: Day | undefined): (Evidence & { apart?: true }) | undefined {
  if (!a || !b) return undefined;
  const about = 'date of birth';
  if (a.year === b.year && a.month === b.month && a.day === b.day) return { about, level: 'same', bits: 13.5 };
  const same = Number(a.year === b.year) + Number(a.month === b.month) + Number(a.day === b.day);
  // One wrong digit, or two swapped, leave a part as it was.
  if (same === 0) return { about, level: 'different', bits: -12, apart: true };
  if (a.year === b.year && a.month === b.day && a.day === b.month)
    return { about, level: 'day and month swapped', bits: 10 };
  if (typingErrors(digitsOf(a), digitsOf(b), 1) === 1) return { about, level: 'a digit off', bits: 6 };
  if (same === 2) return { about, level: 'two parts of three the same', bits: 2 };
  return { about, level: 'different', bits: -12, apart: true };
}

const digitsOf = ({ year, month, day }: Day): string => String(year * 10_000 + month * 100 + day);

// ——— web address

export function hostOf(value: string | undefined): string {
  const text = told(value)
    .toLowerCase()
    .replace(/^[a-z]+:\/\//, '')
    .replace(/^www\d?\./, '');
  const host = text.split(/[/?#\s:]/)[0]!.replace(/\.$/, '');
  return host.includes('.') ? host : '';
}

export const wordsOf = (value: string | undefined): string[] => canonicalWords(told(value));

/** The words of a name; one letter alone is an initial there, not something to get past a field. */
export function nameWordsOf(value: string | undefined): string[] {
  const bare = (value ?? '').trim();
  return /^\p{L}\.?$/u.test(bare) ? canonicalWords(bare) : wordsOf(value);
}

/** Words that were joined by blanks. */
export const wordsIn = (joined: string | undefined): string[] => (joined ? joined.split(' ') : []);
