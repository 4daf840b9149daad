import { quoted, tooLong } from './bounds.ts';
import { isURL } from 'class-validator';
import { read, unreadable, type Reading } from './reading.ts';

/** Reads a web address; `https://` is added where no scheme is given, the host is lower-cased, a lone final slash goes. */
export function readWebAddress(text: string): Reading<string> {
  const long = tooLong(text, 'web address');
  if (long !== undefined) return unreadable(long);
  const bare = text.normalize('NFC').trim();
  const withScheme = /^[a-z][a-z0-9+.-]*:\/\//i.test(bare) ? bare : `https://${bare}`;
  if (!isURL(withScheme, { protocols: ['http', 'https'], require_protocol: true })) {
    return unreadable(`“${quoted(text)}” is not a web address`);
  }
  const [front, scheme, host] = /^([a-z]+:\/\/)([^/?#]+)/i.exec(withScheme)!;
  const rest = withScheme.slice(front.length);
  return read(`${scheme!.toLowerCase()}${host!.toLowerCase()}${rest === '/' ? '' : rest}`);
}
