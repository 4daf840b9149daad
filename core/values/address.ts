import { quoted, tooLong } from './bounds.ts';
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
const NUMBER_AFTER = new RegExp(
  String.raw`,? (?:(?:nr|no|n°|nº|núm|num)\.? ?)?(${NUMBER})(?![.\p{L}\d])(?=[ ,]|$)`,
  'giu',
);
const NUMBER_FIRST = new RegExp(String.raw`^(${NUMBER}),?\s+(\p{L}.*)$`, 'iu');
/** Postcodes as the countries of the forms write them, each followed or preceded by a place. */
const POSTCODE = String.raw`(?:[A-Z]{1,2}-)?(?:\d{2}-\d{3}|\d{4}\s?[A-Z]{2}|\d{4,5}|[A-Z]{1,2}\d[A-Z\d]?\s?\d[A-Z]{2})`;
const PLACE = new RegExp(String.raw`^(${POSTCODE})\s+(\p{L}.*)$`, 'u');
const PLACE_TURNED = new RegExp(String.raw` (${POSTCODE})$`, 'u');

/** Postcode and place, either first; undefined when a text is no such line. */
function placeOf(text: string): { postcode: string; city: string } | undefined {
  const found = PLACE.exec(text);
  if (found) return { postcode: found[1]!.trim(), city: found[2]!.trim() };
  const turned = /^\p{L}/u.test(text) ? PLACE_TURNED.exec(text) : null;
  return turned ? { postcode: turned[1]!.trim(), city: text.slice(0, turned.index).trim() } : undefined;
}

/**
 * Splits an address in one text: `Am Deich 14a`, `14a Mill Lane`, `ul. Kwiatowa 5/7 m. 3`, with or without a line of
 * postcode and place behind it (after a comma or on a line of its own).
 * @returns unreadable when there is no street's name in it
 */
export function readAddress(text: string): Reading<Address> {
  const long = tooLong(text, 'address');
  if (long !== undefined) return unreadable(long);
  const address: Address = { street: '', number: '', more: '', postcode: '', city: '' };
  const lines = text
    .normalize('NFC')
    .split(/\r?\n/)
    .map((line) => line.replace(/\s+/gu, ' ').trim().replace(/,$/, ''))
    .filter(Boolean);
  const parts = lines.flatMap((line) => line.split(/ ?, ?/)).filter(Boolean);
  const place = parts.findLastIndex((part, at) => at > 0 && placeOf(part) !== undefined);
  if (place > 0) Object.assign(address, placeOf(parts[place]!));
  const before = place > 0 ? parts.slice(0, place) : parts;
  const streetLine = before.join(', ');
  if (!/\p{L}{2}/u.test(streetLine)) return unreadable(`“${quoted(text)}” names no street`);
  const first = NUMBER_FIRST.exec(streetLine);
  // "17. Juni" begins with a number that is part of the name.
  if (first && !/^\d+\.\s/.test(streetLine)) {
    const [street, ...more] = first[2]!.split(/ ?, ?/);
    return read({ ...address, number: first[1]!.trim(), street: street!.trim(), more: more.join(', ') });
  }
  for (const found of streetLine.matchAll(NUMBER_AFTER)) {
    const street = streetLine.slice(0, found.index).trim();
    // A number with no word before it is none of a house.
    if (!/\p{L}/u.test(street)) continue;
    const more = streetLine.slice(found.index + found[0].length).replace(/^[ ,]+/, '');
    return read({ ...address, street, number: found[1]!.trim(), more });
  }
  const [street, ...more] = streetLine.split(/ ?, ?/);
  return read({ ...address, street: street!, more: more.join(', ') }, `“${quoted(text)}” has no house number`);
}
