import { fold } from '../values/index.ts';

/** Most systems take as many letters for a name. */
const LONGEST = 40;

const wordsOf = (text: string): string[] =>
  fold(text)
    .split(' ')
    .map((word) => word.replace(/[^a-z0-9]/g, ''))
    .filter((word) => word !== '');

const free = (name: string, taken: readonly string[], between: string): string => {
  const low = new Set(taken.map((each) => each.toLowerCase()));
  if (!low.has(name.toLowerCase())) return name;
  for (let more = 2; ; more += 1) {
    const ending = `${between}${more}`;
    const other = `${name.slice(0, LONGEST - ending.length)}${ending}`;
    if (!low.has(other.toLowerCase())) return other;
  }
};

/** A name for a field by its label: small letters, digits and _, and none that is there already. */
export function fieldNameFor(label: string, taken: readonly string[]): string {
  const words = wordsOf(label)
    .join('_')
    .replace(/^[_0-9]+/, '');
  return free((words === '' ? 'field' : words).slice(0, LONGEST).replace(/_$/, ''), taken, '_');
}

/** A name for an entity by what it is called: letters and digits, each word with a capital. */
export function entityNameFor(label: string, taken: readonly string[]): string {
  const words = wordsOf(label)
    .join(' ')
    .replace(/^[0-9 ]+/, '')
    .split(' ')
    .map((word) => word.charAt(0).toUpperCase() + word.slice(1))
    .join('');
  return free((words === '' ? 'Entity' : words).slice(0, LONGEST), taken, '');
}

/** What several are called, by the usual rule; irregular ones are for people to say. */
export function pluralOf(label: string): string {
  const bare = label.trim();
  if (/[^aeiou]y$/i.test(bare)) return `${bare.slice(0, -1)}ies`;
  return /(?:s|x|z|ch|sh)$/i.test(bare) ? `${bare}es` : `${bare}s`;
}

/** What one is called, by the name of a file or sheet that lists several. */
export function singularOf(text: string): string {
  const bare = text.trim();
  if (/[^aeiou]ies$/i.test(bare)) return `${bare.slice(0, -3)}y`;
  if (/(?:ss|x|z|ch|sh)es$/i.test(bare)) return bare.slice(0, -2);
  return /[^su]s$/i.test(bare) ? bare.slice(0, -1) : bare;
}
