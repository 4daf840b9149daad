/**
 * The most characters (UTF-16 code units) that a value of each kind may have. What is longer can't be one, and is
 * turned away before anything else looks at it: work that a stranger's value causes is bounded by this table and the
 * readers' linear patterns, not by the patience of whoever waits behind it.
 */
export const MOST_CHARACTERS = {
  number: 500,
  amount: 500,
  date: 500,
  'yes/no': 500,
  phone: 500,
  email: 1_000,
  'web address': 8_192,
  option: 1_000,
  place: 500,
  'person name': 300,
  address: 400,
  text: 100_000,
} as const;

export type BoundedKind = keyof typeof MOST_CHARACTERS;

/** Why a text is no value of a kind, by its length alone; undefined when it may be one. */
export function tooLong(text: string, kind: BoundedKind): string | undefined {
  const most = MOST_CHARACTERS[kind];
  return text.length <= most
    ? undefined
    : `“${quoted(text)}” has ${text.length} characters, more than the ${most} of ${NAMES[kind]}`;
}

const NAMES: Record<BoundedKind, string> = {
  number: 'a number',
  amount: 'an amount',
  date: 'a date',
  'yes/no': 'a yes or no',
  phone: 'a telephone number',
  email: 'an e-mail address',
  'web address': 'a web address',
  option: 'an option',
  place: 'a country or language',
  'person name': "a person's name",
  address: 'an address',
  text: 'a text',
};

/** A value as a sentence quotes it: its beginning, never half a character. */
export function quoted(text: string, most = 80): string {
  if (text.length <= most) return text;
  const cut = text.slice(0, most);
  return `${/[\uD800-\uDBFF]$/.test(cut) ? cut.slice(0, -1) : cut}…`;
}
