import { fold } from './text.ts';

/** Languages that forms are written in. */
const LANGUAGES = ['en', 'de', 'pl', 'fr', 'es', 'nl', 'it', 'pt', 'cs', 'sv', 'da', 'hu', 'ro', 'tr', 'ru', 'uk'];

let months: Map<string, number> | undefined;

/** Names of months as calendars and dates write them (Unicode CLDR, from the runtime). */
function named(): Map<string, number> {
  if (months) return months;
  months = new Map();
  for (const language of LANGUAGES) {
    for (let month = 0; month < 12; month += 1) {
      const day = new Date(Date.UTC(2024, month, 15));
      for (const style of ['long', 'short'] as const) {
        const alone = new Intl.DateTimeFormat(language, { month: style, timeZone: 'UTC' }).format(day);
        const inDate = new Intl.DateTimeFormat(language, { month: style, day: 'numeric', timeZone: 'UTC' })
          .formatToParts(day)
          .find(({ type }) => type === 'month')?.value;
        for (const name of [alone, inDate ?? alone]) {
          const key = fold(name);
          if (key && !/^\d+$/.test(key) && !months.has(key)) months.set(key, month + 1);
        }
      }
    }
  }
  return months;
}

/** The number of a month by its name in any of the languages served, from 1; undefined for what is none. */
export const monthNamed = (text: string): number | undefined => named().get(fold(text.slice(0, 40)));
