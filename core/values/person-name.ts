import { quoted, tooLong } from './bounds.ts';
import { fold } from './text.ts';
import { read, unreadable, type Reading } from './reading.ts';

export interface PersonName {
  title: string;
  given: string;
  family: string;
}

/** Words before a name that aren't part of it, folded. */
const TITLES = new Set(
  (
    'mr mrs ms miss mx sir dr prof professor doctor rev herr frau fraulein dipl ing mag dott dottssa pan pani ' +
    'm mme mlle monsieur madame mademoiselle sr sra srta senor senora don dona dhr mevr mw meneer mevrouw sig signor signora inz mgr lic'
  ).split(' '),
);

/** Small words that belong to the family name that follows them. */
const PARTICLES = new Set(
  'von vom van der den dem de del della dello di da das do dos du la le les lo zu zum zur af av ten ter te el al bin ibn mac mc saint st y e'.split(
    ' ',
  ),
);

const isTitle = (word: string): boolean =>
  word !== '' &&
  word
    .split(/[.\-/]+/)
    .filter(Boolean)
    .every((part) => TITLES.has(fold(part)));
const isParticle = (word: string): boolean => PARTICLES.has(fold(word)) && /^(d['’]|\p{Ll})/u.test(word);

/**
 * Splits a person's full name. `Family, Given` is turned round; particles (von der, de la) stay with the family name,
 * hyphens hold double names together. With three or more bare words the last is taken as the family name and the
 * reading is said to be ambiguous, since it may have two words (García López).
 * @returns unreadable when it is blank or looks like no name
 */
export function readPersonName(text: string): Reading<PersonName> {
  const long = tooLong(text, 'person name');
  if (long !== undefined) return unreadable(long);
  const bare = text.normalize('NFC').replace(/\s+/gu, ' ').trim();
  if (!/\p{L}/u.test(bare) || /[@/<>]|\d{3}/.test(bare)) return unreadable(`“${quoted(text)}” is not a person's name`);
  const halves = bare.split(',').map((half) => half.trim());
  if (halves.length === 2 && halves.every((half) => half !== '')) {
    const { title, rest } = takeTitles(halves[1]!.split(' '));
    const before = takeTitles(halves[0]!.split(' '));
    return read({
      title: [before.title, title].filter(Boolean).join(' '),
      given: rest.join(' '),
      family: before.rest.join(' '),
    });
  }
  const { title, rest } = takeTitles(bare.replaceAll(',', ' ').split(' ').filter(Boolean));
  if (rest.length === 0) return unreadable(`“${quoted(text)}” is not a person's name`);
  if (rest.length === 1) return read({ title, given: '', family: rest[0]! }, `“${quoted(text)}” is one name only`);
  const particle = rest.findIndex((word, at) => at > 0 && isParticle(word) && at < rest.length - 1);
  const at = particle > 0 ? particle : rest.length - 1;
  const name = { title, given: rest.slice(0, at).join(' '), family: rest.slice(at).join(' ') };
  const second = rest.slice(0, at).at(-1)!;
  // A middle initial or a hyphen leaves no doubt; two full words before the last one do.
  const unclear = particle < 0 && at >= 2 && !/^\p{Lu}\.?$/u.test(second);
  return unclear
    ? read(name, `“${quoted(text)}” may also have the family name “${second} ${name.family}”`)
    : read(name);
}

function takeTitles(words: string[]): { title: string; rest: string[] } {
  let at = 0;
  while (at < words.length - 1 && isTitle(words[at]!)) at += 1;
  return { title: words.slice(0, at).join(' '), rest: words.slice(at) };
}
