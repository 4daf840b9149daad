import { quoted, tooLong } from './bounds.ts';
import { isSupportedCountry, parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js';
import { countryName } from './place.ts';
import { read, unreadable, type Reading } from './reading.ts';

/**
 * Reads a telephone number into E.164 (ITU-T).
 * @param country ISO 3166-1 alpha-2, the country dialled from when the number has no `+`
 * @returns unreadable when no country is known, or when the number is too short or too long for it
 */
export function readPhone(text: string, country?: string): Reading<string> {
  const long = tooLong(text, 'phone');
  if (long !== undefined) return unreadable(long);
  const bare = text.normalize('NFKC').trim().replace(/^tel:/i, '');
  const international = /^(\+|00)/.test(bare.replace(/[\s()]/g, ''));
  if (!international && !country) return unreadable(`“${quoted(text)}” has no country code and no country is set`);
  if (country && !isSupportedCountry(country))
    return unreadable(`“${country}” is not a country with telephone numbers`);
  const dialled = bare.replace(/^\s*00/, '+').replace(/\+(\d+)\s*\(0\)/, '+$1');
  const number = parsePhoneNumberFromString(dialled, country as CountryCode | undefined);
  if (!number?.isPossible())
    return unreadable(
      `“${quoted(text)}” is not a telephone number${country ? ` of ${countryName(country, 'en')}` : ''}`,
    );
  return read(number.number);
}
