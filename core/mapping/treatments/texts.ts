import {
  cutTo,
  isBlank,
  lengthInBytes,
  lengthInCharacters,
  MOST_CHARACTERS,
  quoted,
  read,
  readLosing,
  tidy,
  unreadable,
} from '../../values/index.ts';
import { eachText } from './each.ts';
import type { TreatmentDefinition } from './model.ts';

/** Entries that a list may have: as many as a submission may have fields. */
const MOST_ENTRIES = 1000;

/** White space at the ends and in runs. */
export const trim: TreatmentDefinition = {
  group: 'Texts',
  name: 'trim spaces',
  settings: [],
  describe: () => 'trim',
  treat: eachText((text) => read(tidy(text))),
};

/** Reads `case`. Title case keeps particles of names (von, de, van) small and Mc and O' together. */
export const letterCase: TreatmentDefinition = {
  group: 'Texts',
  name: 'capital and small letters',
  settings: [
    {
      control: 'choice',
      name: 'case',
      label: 'Letters',
      otherwise: 'lower',
      choices: [
        ['title', 'Capital first'],
        ['lower', 'small letters'],
        ['upper', 'CAPITALS'],
      ],
    },
  ],
  fresh: () => ({ case: 'title' }),
  describe: ({ case: to }) => (to === 'upper' ? 'capitals' : to === 'title' ? 'Capital first' : 'small letters'),
  treat: eachText((text, { case: to }) => {
    if (to === 'upper') return read(text.toUpperCase());
    if (to === 'title') return read(titleCase(text));
    return read(text.toLowerCase());
  }),
};

const PARTICLES = new Set([
  'von',
  'van',
  'der',
  'den',
  'de',
  'del',
  'della',
  'di',
  'da',
  'du',
  'la',
  'le',
  'zu',
  'zur',
  'und',
  'of',
  'and',
]);

function titleCase(text: string): string {
  const words = text.toLowerCase().split(/(?<=[\s-])/u);
  return words
    .map((word, at) => {
      if (at > 0 && PARTICLES.has(word.trim())) return word;
      return word.replace(/^(o'|o’|mc)?(\p{L})/u, (_, prefix: string | undefined, letter: string) => {
        const start = prefix ? prefix[0]!.toUpperCase() + prefix.slice(1) : '';
        return start + letter.toUpperCase();
      });
    })
    .join('');
}

/** Reads `separator`, a space when absent. Blank parts leave no separator behind. */
export const join: TreatmentDefinition = {
  group: 'Parts',
  name: 'join',
  settings: [
    {
      control: 'choice',
      name: 'separator',
      label: 'Between the parts',
      otherwise: ' ',
      choices: [
        [' ', 'a space'],
        [', ', 'a comma'],
        ['-', 'a hyphen'],
        ['\n', 'a new line'],
      ],
    },
  ],
  fresh: () => ({ separator: ' ' }),
  describe: ({ separator = ' ' }) =>
    `join with ${separator === ' ' ? 'space' : separator === '\n' ? 'new line' : `“${separator}”`}`,
  treat: (value, { separator = ' ' }) => {
    if (!Array.isArray(value)) return read(value);
    const said = value.filter((part) => !isBlank(part)).map((part) => part.trim());
    return read(said.length === 0 ? null : said.join(separator));
  },
};

/** Reads `separator` and `part`. Without a part it makes a list. */
export const split: TreatmentDefinition = {
  group: 'Parts',
  name: 'split',
  settings: [
    { control: 'text', name: 'separator', label: 'Split at' },
    { control: 'number', name: 'part', label: 'Take part number (blank takes all)' },
  ],
  fresh: () => ({ separator: ',' }),
  describe: ({ separator = ',', part }) => {
    const at = separator === ' ' ? 'spaces' : `“${separator}”`;
    return part === undefined ? `split at ${at}` : `part ${part}, split at ${at}`;
  },
  treat: (value, { separator = ',', part }) => {
    if (isBlank(value)) return read(value);
    const texts = Array.isArray(value) ? value : [String(value)];
    const pieces = texts
      .flatMap((text) => (separator === ' ' ? text.split(/\s+/u) : text.split(separator)))
      .map((piece) => piece.trim())
      .filter((piece) => piece !== '');
    if (part !== undefined) return read(pieces[part - 1] ?? null);
    return pieces.length > MOST_ENTRIES
      ? unreadable(`“${quoted(String(value))}” makes a list of ${pieces.length} entries, more than ${MOST_ENTRIES}`)
      : read(pieces);
  },
};

/** Reads `find` and `with`; plain text, no patterns. */
export const replace: TreatmentDefinition = {
  group: 'Texts',
  name: 'replace a text',
  settings: [
    { control: 'text', name: 'find', label: 'This text' },
    { control: 'text', name: 'with', label: 'becomes' },
  ],
  fresh: () => ({ find: '', with: '' }),
  describe: ({ find = '', with: by = '' }) => (by === '' ? `without “${find}”` : `“${find}” becomes “${by}”`),
  treat: eachText((text, { find = '', with: by = '' }) => {
    const pieces = find === '' ? [text] : text.split(find);
    // Worked out before it is made: a short text may become one that no memory holds.
    const length = text.length + (pieces.length - 1) * (by.length - find.length);
    return length > MOST_CHARACTERS.text
      ? unreadable(`“${quoted(text)}” would become a text of ${length} characters`)
      : read(pieces.join(by));
  }),
};

/** Reads `value`: what stands in for a blank. */
export const standIn: TreatmentDefinition = {
  group: 'Texts',
  name: 'stand-in for a blank',
  settings: [{ control: 'text', name: 'value', label: 'A blank becomes' }],
  fresh: () => ({ value: '' }),
  describe: ({ value = '' }) => `if blank, “${value}”`,
  treat: (value, { value: instead = '' }) => read(isBlank(value) ? instead : value),
};

/** Reads `value`: texts that stand for nothing, one beside the other with | between; case doesn't matter. */
export const nothing: TreatmentDefinition = {
  group: 'Texts',
  name: 'stand-ins for nothing',
  settings: [{ control: 'text', name: 'value', label: 'These say nothing (parted by |)' }],
  fresh: () => ({ value: 'n/a|-' }),
  describe: ({ value = '' }) => `“${value.split('|').join('”, “')}” say nothing`,
  treat: eachText((text, { value = '' }) => {
    const low = text.trim().toLowerCase();
    return read(value.split('|').some((each) => each.trim().toLowerCase() === low) ? null : text);
  }),
};

/** Reads `take`: one entry of a list, how many there are, or each once. A text counts as a list of one. */
export const list: TreatmentDefinition = {
  group: 'Parts',
  name: 'one of several, how many, each once',
  settings: [
    {
      control: 'choice',
      name: 'take',
      label: 'Of several',
      otherwise: 'each once',
      choices: [
        ['first', 'the first'],
        ['last', 'the last'],
        ['count', 'how many there are'],
        ['each once', 'each once'],
      ],
    },
  ],
  fresh: () => ({ take: 'first' }),
  describe: ({ take = 'each once' }) =>
    take === 'first' ? 'the first' : take === 'last' ? 'the last' : take === 'count' ? 'how many' : 'each once',
  treat: (value, { take = 'each once' }) => {
    if (isBlank(value)) return read(take === 'count' ? 0 : value);
    const entries = Array.isArray(value) ? value : [String(value)];
    if (take === 'count') return read(entries.length);
    if (take === 'each once') return read([...new Set(entries)]);
    const taken = entries.at(take === 'first' ? 0 : -1)!;
    const dropped = entries.length - 1;
    return dropped === 0
      ? read(taken)
      : readLosing(taken, `only the ${take} of ${entries.length} is kept, “${quoted(taken)}”`);
  },
};

/** Reads `limit` and `unit`. Never cuts inside a character. */
export const shorten: TreatmentDefinition = {
  group: 'Texts',
  name: 'cut at a length',
  settings: [
    { control: 'number', name: 'limit', label: 'At most', otherwise: 255 },
    {
      control: 'choice',
      name: 'unit',
      label: 'counted in',
      otherwise: 'characters',
      choices: [
        ['characters', 'characters'],
        ['bytes', 'bytes (UTF-8)'],
      ],
    },
  ],
  fresh: ({ field }) =>
    field?.maxBytes === undefined
      ? { limit: field?.maxLength ?? 255, unit: 'characters' }
      : { limit: field.maxBytes, unit: 'bytes' },
  describe: ({ limit = 255, unit = 'characters' }) => `at most ${limit} ${unit}`,
  treat: eachText((text, { limit = 255, unit = 'characters' }) => {
    const cut = cutTo(text, limit, unit);
    if (cut === text) return read(text);
    const length = unit === 'bytes' ? lengthInBytes(text) : lengthInCharacters(text);
    return readLosing(cut, `“${text.slice(0, 24)}…” has ${length} ${unit}, what is over ${limit} is cut off`);
  }),
};
