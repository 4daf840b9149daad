import { read, unreadable, type Reading } from './reading.ts';

export interface Address {
  street: string;
  number: string;
  /** Flat, floor, building: what follows the number. */
  more: string;
  postcode: string;
  city: string;
}

const NUMBER = String.raw`\d{1,5}(?:\s?[-–/]\s?(?:\d{1,5}|[IVX]{1,4}|[a-z])(?![\p{L}\d]))?(?:\s?(?:bis|ter|[a-z])(?![\p{L}\d]))?`;
// The first number that ends a word; "17. Juni" is part of a name, its point says so.
const NUMBER_LAST = new RegExp(
  String.raw`^(.*?\p{L}.*?),?\s+(?:(?:nr|no|n°|nº|núm|num)\.?\s*)?(${NUMBER})(?![.\p{L}\d])(?:(?:\s*,\s*|\s+)(.+))?$`,
  'iu',
);
const NUMBER_FIRST = new RegExp(String.raw`^(${NUMBER}),?\s+(\p{L}.*)$`, 'iu');
/** Postcodes as the countries of the forms write them, each followed or preceded by a place. */
const POSTCODE = String.raw`(?:[A-Z]{1,2}-)?(?:\d{2}-\d{3}|\d{4}\s?[A-Z]{2}|\d{4,5}|[A-Z]{1,2}\d[A-Z\d]?\s?\d[A-Z]{2})`;
const PLACE = new RegExp(String.raw`^(${POSTCODE})\s+(\p{L}.*)$`, 'u');
const PLACE_TURNED = new RegExp(String.raw`^(\p{L}.*?)\s+(${POSTCODE})$`, 'u');

/**
 * Splits an address in one text: `Am Deich 14a`, `14a Mill Lane`, `ul. Kwiatowa 5/7 m. 3`, with or without a line of
 * postcode and place behind it (after a comma or on a line of its own).
 * @returns unreadable when there is no street's name in it
 */
export function readAddress(text: string): Reading<Address> {
  // The patterns take time in the square of the length.
  if (text.length > 400) return unreadable(`“${text.slice(0, 40)}…” is too long for an address`);
  const address: Address = { street: '', number: '', more: '', postcode: '', city: '' };
  const lines = text
    .normalize('NFC')
    .split(/\r?\n/)
    .map((line) => line.replace(/\s+/gu, ' ').trim().replace(/,$/, ''))
    .filter(Boolean);
  const parts = lines.flatMap((line) => line.split(/\s*,\s*/)).filter(Boolean);
  const place = parts.findLastIndex((part, at) => at > 0 && (PLACE.test(part) || PLACE_TURNED.test(part)));
  if (place > 0) {
    const found = PLACE.exec(parts[place]!);
    const turned = found ? undefined : PLACE_TURNED.exec(parts[place]!);
    address.postcode = (found?.[1] ?? turned?.[2] ?? '').trim();
    address.city = (found?.[2] ?? turned?.[1] ?? '').trim();
  }
  const before = place > 0 ? parts.slice(0, place) : parts;
  const streetLine = before.join(', ');
  if (!/\p{L}{2}/u.test(streetLine)) return unreadable(`“${text}” names no street`);
  const first = NUMBER_FIRST.exec(streetLine);
  // "17. Juni" begins with a number that is part of the name.
  if (first && !/^\d+\.\s/.test(streetLine)) {
    const [street, ...more] = first[2]!.split(/\s*,\s*/);
    return read({ ...address, number: first[1]!.trim(), street: street!.trim(), more: more.join(', ') });
  }
  const last = NUMBER_LAST.exec(streetLine);
  if (last) {
    return read({
      ...address,
      street: last[1]!.trim().replace(/,$/, ''),
      number: last[2]!.trim(),
      more: (last[3] ?? '').trim(),
    });
  }
  const [street, ...more] = streetLine.split(/\s*,\s*/);
  return read({ ...address, street: street!, more: more.join(', ') }, `“${text}” has no house number`);
}
