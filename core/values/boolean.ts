import { quoted, tooLong } from './bounds.ts';
import { read, unreadable, type Reading } from './reading.ts';
import { fold } from './text.ts';

const YES = new Set(['yes', 'y', 'true', '1', 'on', 'ja', 'j', 'tak', 'oui', 'si', 'wahr', 'prawda', 'checked', 'x']);
const NO = new Set(['no', 'n', 'false', '0', 'off', 'nein', 'nie', 'non', 'nee', 'falsch', 'falsz']);

/** Reads yes and no as forms send them, in the languages of the project's forms. */
export function readBoolean(text: string): Reading<boolean> {
  const long = tooLong(text, 'yes/no');
  if (long !== undefined) return unreadable(long);
  const key = fold(text);
  if (YES.has(key)) return read(true);
  if (NO.has(key)) return read(false);
  return unreadable(`“${quoted(text)}” is neither yes nor no`);
}
