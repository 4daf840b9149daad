import { quoted, tooLong } from './bounds.ts';
import { read, unreadable, type Reading } from './reading.ts';

/**
 * Reads a time of day into `HH:MM:SS` (ISO 8601): `14:30`, `2:30 pm`, `14.30 Uhr`, `14h30`.
 * Fractions of a second are kept.
 */
export function readTime(text: string): Reading<string> {
  const long = tooLong(text, 'date');
  if (long !== undefined) return unreadable(long);
  const bare = text.normalize('NFKC').trim().toLowerCase();
  const parts =
    /^(\d{1,2})[:.h](\d{2})(?:[:.](\d{2})(\.\d{1,12})?)? ?(?:([ap])\.?m\.?|uhr|h)?$/.exec(bare) ??
    /^(\d{1,2}) ?(?:([ap])\.?m\.?|uhr|h)$/.exec(bare);
  if (!parts) return unreadable(`“${quoted(text)}” is not a time of day`);
  const [, hour, minute, second = '00', fraction = '', half] =
    parts.length > 3 ? parts : [parts[0], parts[1], '00', '00', '', parts[2]];
  const hours = half === undefined ? Number(hour) : (Number(hour) % 12) + (half === 'p' ? 12 : 0);
  const twelve = half === undefined || (Number(hour) >= 1 && Number(hour) <= 12);
  if (hours > 23 || !twelve || Number(minute) > 59 || Number(second) > 59)
    return unreadable(`“${quoted(text)}” is not a time of day`);
  return read(`${String(hours).padStart(2, '0')}:${minute}:${second}${fraction}`);
}

const UNITS: [form: RegExp, unit: 'D' | 'H' | 'M' | 'S'][] = [
  [/^(?:d|days?|tage?n?|tag|dni|dzień)$/, 'D'],
  [/^(?:h|hrs?|hours?|std|stunden?|godz|godziny?)$/, 'H'],
  [/^(?:m|mins?|minutes?|minuten?|minuty?)$/, 'M'],
  [/^(?:s|secs?|seconds?|sek|sekunden?|sekundy?)$/, 'S'],
];

/** Reads a length of time into an ISO 8601 duration in days, hours, minutes and seconds: `1 h 30 min`, `90 min`, `1:30`, `PT90M`. */
export function readDuration(text: string): Reading<string> {
  const long = tooLong(text, 'date');
  if (long !== undefined) return unreadable(long);
  const no = (): Reading<string> => unreadable(`“${quoted(text)}” is not a length of time`);
  const bare = text.normalize('NFKC').trim();
  if (/^-?P(?=\d|T\d)(?:\d+D)?(?:T(?=\d)(?:\d+H)?(?:\d+M)?(?:\d+(?:\.\d+)?S)?)?$/i.test(bare))
    return read(bare.toUpperCase());
  const clock = /^(\d{1,4}):(\d{2})(?::(\d{2}))?$/.exec(bare);
  if (clock) {
    const [, hours, minutes, seconds] = clock;
    if (Number(minutes) > 59 || Number(seconds ?? 0) > 59) return no();
    return read(iso({ D: 0, H: Number(hours), M: Number(minutes), S: Number(seconds ?? 0) }));
  }
  const sums = { D: 0, H: 0, M: 0, S: 0 };
  const words = bare.toLowerCase().match(/\d+(?:[.,]\d+)?|[^\d\s.,]+/g) ?? [];
  if (words.length === 0 || words.length % 2 > 0) return no();
  for (let at = 0; at < words.length; at += 2) {
    const amount = Number(words[at]!.replace(',', '.'));
    const unit = UNITS.find(([form]) => form.test(words[at + 1]!))?.[1];
    if (!Number.isFinite(amount) || unit === undefined) return no();
    sums[unit] += amount;
  }
  return read(iso(sums));
}

/** Fractions of a larger unit go to the next smaller one: 1.5 h are 1 h 30 min. */
function iso({ D, H, M, S }: Record<'D' | 'H' | 'M' | 'S', number>): string {
  const seconds = D * 86_400 + H * 3_600 + M * 60 + S;
  const days = Math.floor(seconds / 86_400);
  const hours = Math.floor((seconds % 86_400) / 3_600);
  const minutes = Math.floor((seconds % 3_600) / 60);
  const rest = Number((seconds % 60).toFixed(3));
  const date = days === 0 ? '' : `${days}D`;
  const time = `${hours === 0 ? '' : `${hours}H`}${minutes === 0 ? '' : `${minutes}M`}${rest === 0 ? '' : `${rest}S`}`;
  return date === '' && time === '' ? 'PT0S' : `P${date}${time === '' ? '' : `T${time}`}`;
}
