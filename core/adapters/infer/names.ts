/** A name without what writers differ in: `starting_after`, `startingAfter` and `starting-after` are one. */
export const plain = (name: string): string => name.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');

/** A label out of a name: `given_name` is "Given name". */
export function labelOf(name: string): string {
  const words = name
    .replace(/(\p{Ll}|\d)(\p{Lu})/gu, '$1 $2')
    .replace(/[._-]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  return words === '' ? name : (words.charAt(0).toUpperCase() + words.slice(1)).slice(0, 120);
}

/** One of many, as English forms plurals: `companies` is `company`, `boxes` is `box`. */
export function singular(name: string): string {
  if (/[^aeiou]ies$/i.test(name)) return `${name.slice(0, -3)}y`;
  if (/(?:ss|x|ch|sh|us)es$/i.test(name)) return name.slice(0, -2);
  if (/people$/i.test(name)) return name.replace(/eople$/i, 'erson');
  return /[^su]s$/i.test(name) ? name.slice(0, -1) : name;
}
