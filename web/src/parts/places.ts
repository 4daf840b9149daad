/** Countries and ways of writing that the demo's neighbours have; more are a matter of adding them here. */
const countryNames = new Intl.DisplayNames(['en'], { type: 'region' });

export const COUNTRIES: { code: string; name: string }[] = [
  'DE',
  'PL',
  'GB',
  'NL',
  'DK',
  'AT',
  'CH',
  'FR',
  'ES',
  'IT',
  'IE',
  'BE',
  'CZ',
  'SE',
  'NO',
  'FI',
  'PT',
  'US',
  'CA',
  'AU',
].map((code) => ({ code, name: countryNames.of(code) ?? code }));

export const LOCALES: [code: string, shown: string][] = [
  ['de-DE', 'German: 1.234,5 and 20.4.2027'],
  ['en-GB', 'British: 1,234.5 and 20/04/2027'],
  ['en-US', 'American: 1,234.5 and 4/20/2027'],
  ['pl-PL', 'Polish: 1 234,5 and 20.04.2027'],
  ['fr-FR', 'French: 1 234,5 and 20/04/2027'],
  ['nl-NL', 'Dutch: 1.234,5 and 20-4-2027'],
  ['es-ES', 'Spanish: 1.234,5 and 20/4/2027'],
  ['it-IT', 'Italian: 1.234,5 and 20/4/2027'],
];

export const LANGUAGES: [code: string, name: string][] = [
  ['en', 'English'],
  ['de', 'German'],
  ['pl', 'Polish'],
  ['fr', 'French'],
  ['es', 'Spanish'],
  ['nl', 'Dutch'],
  ['it', 'Italian'],
];
