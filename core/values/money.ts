import { quoted, tooLong } from './bounds.ts';
import { readNumber, type DecimalMark } from './number.ts';
import { read, unreadable, type Reading } from './reading.ts';

export interface Money {
  amount: number;
  /** ISO 4217; absent where the text names none. */
  currency?: string;
}

const SIGNS: Record<string, string> = {
  '€': 'EUR',
  '£': 'GBP',
  zł: 'PLN',
  zl: 'PLN',
  kr: 'SEK',
  chf: 'CHF',
  fr: 'CHF',
  '¥': 'JPY',
  euro: 'EUR',
  eur: 'EUR',
  $: 'USD',
};

/** Reads an amount with or without a currency, before or behind it: `1.234,50 €`, `EUR 20`, `£5`. */
export function readMoney(text: string, mark?: DecimalMark): Reading<Money> {
  const long = tooLong(text, 'amount');
  if (long !== undefined) return unreadable(long);
  const bare = text.normalize('NFKC').trim();
  // One number, from its first digit to its last, and what is said before and behind it.
  const first = bare.search(/[+-]?\d/);
  const last = bare.length - 1 - [...bare].reverse().join('').search(/\d/);
  const before = bare.slice(0, Math.max(0, first));
  if (first < 0 || bare.length > 60 || /[+-]/.test(before)) return unreadable(`“${quoted(text)}” is not an amount`);
  // "12,-" is a round sum.
  const behind = bare.slice(last + 1).replace(/^[.,]/, '');
  const said = `${before} ${behind}`.replace(/[-–]+/g, '').trim();
  const number = readNumber(bare.slice(first, last + 1), mark);
  if (!number.ok) return unreadable(`“${quoted(text)}” is not an amount`);
  const amount = { amount: number.value };
  if (said === '') return read(amount, number.ambiguous);
  const currency = SIGNS[said.toLowerCase()] ?? (/^[A-Z]{3}$/i.test(said) ? said.toUpperCase() : undefined);
  if (!currency) return unreadable(`“${quoted(text)}” is not an amount: “${said}” is no currency`);
  return read({ ...amount, currency }, number.ambiguous);
}
