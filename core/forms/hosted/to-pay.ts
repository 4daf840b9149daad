import { decimalMarkOf, readDigits, tooLong } from '../../values/index.ts';
import type { Charge, Fee } from './fee.ts';
import { asInFirstRow, placedIn, type Placed } from './placed.ts';
import { holdsFor, type Answers } from './shown.ts';
import { wordsIn } from './words.ts';

/** What a sending comes to. It is reckoned in whole numbers, never in fractions of a double. */

/** The most that one sending may come to, in the smallest unit. */
export const MOST_TO_PAY = 10_000_000_000;

/** Fields that go on with what was sent once it is paid. */
export const FEE_FIELDS = {
  amount: 'fee_amount',
  currency: 'fee_currency',
  payment: 'fee_payment',
  paidAt: 'fee_paid_at',
} as const;

/** A part of what is to be paid, in the smallest unit. */
export interface Charged {
  charge: Charge;
  minor: number;
}

export type ToPay =
  | { ok: true; minor: number; parts: Charged[] }
  | { ok: false; errors: { field: string; message: string }[] };

/**
 * What is to be paid for the answers there are. What isn't shown, or isn't answered, costs nothing; in rows each counts.
 * @param language by which numbers are written; of answers that were read already, `en`
 */
export function toPay(
  fee: Fee,
  form: Parameters<typeof placedIn>[0],
  answers: Answers,
  { language, saysIn = language }: { language: string; saysIn?: string },
): ToPay {
  const placed = placedIn(form, answers);
  const words = wordsIn(saysIn);
  const errors: { field: string; message: string }[] = [];
  const parts: Charged[] = [];
  for (const charge of fee.charges) {
    const anchor = charge.question ?? charge.times;
    const places =
      anchor === undefined
        ? [undefined]
        : placed.filter((each) => each.name !== '' && asInFirstRow(each.name) === anchor && each.shown && !each.idle);
    let sum = 0;
    for (const place of places) {
      const at = (name: string): Answers[string] | undefined => (place ? place.answerTo(name) : outside(placed, name));
      if (!holdsFor(charge.shown, at)) continue;
      const price = priceOf(charge, fee.currency, place ? listed(answers[place.name]) : [], language);
      if (price === undefined) continue;
      if (charge.by === 'answer' && price < (charge.least ?? 0)) {
        errors.push({
          field: place?.name ?? '',
          message: words.least(amountText(charge.least!, fee.currency, saysIn)),
        });
        continue;
      }
      const times =
        charge.times === undefined
          ? '1'
          : one(place && charge.times === anchor ? answers[place.name] : at(charge.times));
      sum += multiplied(price, times, language);
    }
    if (sum > 0) parts.push({ charge, minor: sum });
  }
  const minor = parts.reduce((sum, part) => sum + part.minor, 0);
  if (minor > MOST_TO_PAY)
    errors.push({ field: '', message: words.most(amountText(MOST_TO_PAY, fee.currency, saysIn)) });
  return errors.length > 0 ? { ok: false, errors } : { ok: true, minor, parts };
}

/** The answer to a question that stands outside of all rows. */
function outside(placed: readonly Placed[], name: string): Answers[string] | undefined {
  return placed[0]?.answerTo(name);
}

const listed = (said: Answers[string] | undefined): readonly string[] =>
  [said ?? []].flat().filter((each) => each.trim() !== '');
const one = (said: Answers[string] | undefined): string => listed(said)[0] ?? '';

/** What one of it costs; undefined where nothing was chosen or given. */
function priceOf(charge: Charge, currency: string, said: readonly string[], language: string): number | undefined {
  if (charge.by === 'fixed') return charge.minor ?? 0;
  if (said.length === 0) return undefined;
  if (charge.by === 'option') {
    const prices = new Map((charge.prices ?? []).map(({ value, minor }) => [value, minor]));
    return said.reduce((sum, each) => sum + (prices.get(each) ?? 0), 0);
  }
  const number = decimalOf(said[0]!, language);
  return number && scaled(number, powerOfTen(digitsOf(currency)));
}

/** A price so many times, rounded half up to the smallest unit; what is no number, or less than nothing, counts as none. */
function multiplied(minor: number, times: string, language: string): number {
  const number = decimalOf(times, language);
  return number === undefined ? 0 : scaled(number, BigInt(minor));
}

/** Digits without their decimal mark, and how many of them stand behind it. */
interface Decimal {
  digits: bigint;
  behind: number;
}

function decimalOf(text: string, language: string): Decimal | undefined {
  if (tooLong(text, 'number') !== undefined) return undefined;
  // As a program writes it, unless it may be a thousand with its mark.
  const isPlain = /^\d+(?:\.\d+)?$/.test(text.trim()) && !/^[1-9]\d{0,2}\.\d{3}$/.test(text.trim());
  const read = readDigits(text, isPlain ? 'point' : decimalMarkOf(language));
  if (!read.ok || read.value.startsWith('-')) return undefined;
  const [whole = '', fraction = ''] = read.value.split('.');
  return { digits: BigInt(whole + fraction || '0'), behind: fraction.length };
}

// Browsers whose scripts know no literals of them know the numbers.
const TWO = BigInt(2);
const powerOfTen = (digits: number): bigint => BigInt(`1${'0'.repeat(digits)}`);

/** So many times a unit, rounded half up. */
function scaled({ digits, behind }: Decimal, unit: bigint): number {
  const by = powerOfTen(behind);
  const result = (digits * unit * TWO + by) / (by * TWO);
  return result > BigInt(MOST_TO_PAY) ? MOST_TO_PAY + 1 : Number(result);
}

/** Digits behind the decimal mark of a currency (ISO 4217, from Unicode CLDR). */
export function digitsOf(currency: string): number {
  return new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ?? 2;
}

/** An amount as a decimal number, e.g. `40.00`. */
export function amountOf(minor: number, currency: string): string {
  const digits = digitsOf(currency);
  const text = String(minor).padStart(digits + 1, '0');
  return digits === 0 ? text : `${text.slice(0, -digits)}.${text.slice(-digits)}`;
}

/** An amount as people of a language write it, with its currency. */
export const amountText = (minor: number, currency: string, language: string): string =>
  new Intl.NumberFormat(language, { style: 'currency', currency }).format(minor / 10 ** digitsOf(currency));
