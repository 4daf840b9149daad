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
  const bare = text.normalize('NFKC').trim();
  if (bare.length > 60) return unreadable(`“${text.slice(0, 40)}…” is not an amount`);
  const match = /^([^\d+-]*?)\s*([+-]?[\d][\d.,\s'’]*)\s*([^\d]*?)$/u.exec(bare);
  if (!match) return unreadable(`“${text}” is not an amount`);
  // "12,-" is a round sum.
  const said = `${match[1]!} ${match[3]!}`.replace(/[-–]+/g, '').trim();
  const number = readNumber(match[2]!.trim().replace(/[.,]$/, ''), mark);
  if (!number.ok) return unreadable(`“${text}” is not an amount`);
  const amount = { amount: number.value };
  if (said === '') return read(amount, number.ambiguous);
  const currency = SIGNS[said.toLowerCase()] ?? (/^[A-Z]{3}$/i.test(said) ? said.toUpperCase() : undefined);
  if (!currency) return unreadable(`“${text}” is not an amount: “${said}” is no currency`);
  return read({ ...amount, currency }, number.ambiguous);
}
