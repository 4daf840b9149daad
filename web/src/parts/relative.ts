import { formatDistanceToNowStrict } from 'date-fns';

/** Clocks differ a little: what is a few seconds off is now. */
const NOW_MS = 10_000;
const ahead = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });

/** A moment in words: how long ago, or, where it is yet to come, when. */
export function relative(date: Date, now: number): string {
  const ago = now - date.getTime();
  if (Math.abs(ago) < NOW_MS) return 'just now';
  return ago > 0 ? `${formatDistanceToNowStrict(date)} ago` : ahead.format(date);
}
