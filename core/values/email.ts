import { quoted, tooLong } from './bounds.ts';
import { isEmail } from 'class-validator';
import { read, unreadable, type Reading } from './reading.ts';

/**
 * Reads an e-mail address. The domain is lower-cased (RFC 5321 2.4: domains are case-insensitive); the local part
 * is kept as typed, since only its own server may fold it. `mailto:` and angle brackets are taken off.
 */
export function readEmail(text: string): Reading<string> {
  const long = tooLong(text, 'email');
  if (long !== undefined) return unreadable(long);
  const bare = text
    .normalize('NFC')
    .trim()
    .replace(/^mailto:/i, '')
    .replace(/^.*<([^<>]+)>$/, '$1')
    .trim();
  if (!isEmail(bare, { allow_utf8_local_part: true })) return unreadable(`“${quoted(text)}” is not an e-mail address`);
  const at = bare.lastIndexOf('@');
  return read(bare.slice(0, at + 1) + bare.slice(at + 1).toLowerCase());
}
