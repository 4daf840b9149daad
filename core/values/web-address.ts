import { isURL } from 'class-validator';
import { read, unreadable, type Reading } from './reading.ts';

/** Reads a web address; `https://` is added where no scheme is given, the host is lower-cased, a lone final slash goes. */
export function readWebAddress(text: string): Reading<string> {
  const bare = text.normalize('NFC').trim();
  const withScheme = /^[a-z][a-z0-9+.-]*:\/\//i.test(bare) ? bare : `https://${bare}`;
  if (!isURL(withScheme, { protocols: ['http', 'https'], require_protocol: true })) {
    return unreadable(`“${text}” is not a web address`);
  }
  const [, scheme, host, rest = ''] = /^([a-z]+:\/\/)([^/?#]+)(.*)$/i.exec(withScheme)!;
  return read(`${scheme!.toLowerCase()}${host!.toLowerCase()}${rest === '/' ? '' : rest}`);
}
