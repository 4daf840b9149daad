import { fold } from '../values/index.ts';

const CYRILLIC =
  'а a б b в v г g д d е e ё e ж zh з z и i й i к k л l м m н n о o п p р r с s т t у u ф f х kh ц ts ч ch ш sh щ shch ы y э e ю yu я ya і i ї i є e ґ g';
const GREEK = 'α a β v γ g δ d ε e ζ z η i θ th ι i κ k λ l μ m ν n ξ x ο o π p ρ r σ s ς s τ t υ y φ f χ ch ψ ps ω o';
const LATIN = new Map(pairsOf(`${CYRILLIC} ${GREEK}`));

function pairsOf(text: string): [string, string][] {
  const words = text.split(' ');
  return words.flatMap((word, at): [string, string][] => (at % 2 === 0 ? [[word, words[at + 1]!]] : []));
}

/**
 * A name as it is compared: without case and accents, in Latin letters, ü and ue and u alike (Müller, Mueller,
 * Muller).
 */
export function canonical(text: string): string {
  return [...fold(text)]
    .map((letter) => LATIN.get(letter) ?? letter)
    .join('')
    .replace(/ъ|ь/g, '')
    .replace(/(?:ae|oe|ue)/g, (umlaut) => umlaut[0]!);
}

/** Words of a name as they are compared. */
export const canonicalWords = (text: string): string[] => canonical(text).split(' ').filter(Boolean);

/**
 * A key by sound over the spelling habits of German, Polish, English, French and Spanish: alike where names are heard
 * rather than read (Meyer, Maier; Schmidt, Szmit). Of our own; coarser than what any one language needs.
 */
export function sound(word: string): string {
  const known = heardBefore.get(word);
  if (known !== undefined) return known;
  const heard = heardAs(word);
  // Names repeat: most of them are heard once. Bounded, since anybody may send anything.
  if (heardBefore.size >= 200_000) heardBefore.clear();
  heardBefore.set(word, heard);
  return heard;
}

const heardBefore = new Map<string, string>();

function heardAs(word: string): string {
  const heard = word
    .replace(/[^a-z]/g, '')
    .replace(/tsch|tch|cz/g, 'c')
    .replace(/sch|sh|sz/g, 's')
    .replace(/ph/g, 'f')
    .replace(/th/g, 't')
    .replace(/dt/g, 't')
    .replace(/ck|ch|q/g, 'k')
    .replace(/c(?=[eiy])|z/g, 's')
    .replace(/c/g, 'k')
    .replace(/x/g, 'ks')
    .replace(/w/g, 'v')
    .replace(/d(?=$)/g, 't')
    .replace(/h/g, '')
    .replace(/[jy]/g, 'i');
  const first = heard[0] ?? '';
  const rest = heard.slice(1).replace(/[aeiou]/g, '');
  return (/[aeiou]/.test(first) ? 'a' : first) + rest.replace(/(.)\1+/g, '$1');
}

/** What is written otherwise by habit or by another table, in order; what comes out is a key and no name. */
const SPELLINGS: readonly (readonly [RegExp, string])[] = [
  // c before a, o, u and consonants is a k: Carl, Karl.
  [/c(?=[aouklrst]|$)(?!h)/g, 'k'],
  [/ck|q/g, 'k'],
  // щ: shch, schtsch, szcz, šč; ш and ж: sh, sch, sz, š, zh, ż, ž.
  [/shch|schtsch|szcz|shh/g, 's'],
  // ч, х, ц: ch, tsch, cz, č; kh, ch, h; ts, tz, c.
  [/ph/g, 'f'],
  [/th/g, 't'],
  [/tsch|tch|cz|kh|ch|ts|tz|c|h/g, 'x'],
  [/sx+|sz|zx|rz|z/g, 's'],
  [/w/g, 'v'],
  [/ou/g, 'u'],
  // й, ы, и, ї, ю, я: y, j, i; Dutch ij, Turkish ı.
  [/[yj]/g, 'i'],
  [/iii?/g, 'i'],
  [/ie/g, 'e'],
  [/dt/g, 't'],
];
const spelledBefore = new Map<string, string>();

/**
 * A key that is the same however a name was brought into Latin letters (scholarly, ISO 9, by passport, by ear in German,
 * Polish or English) and by the spelling habits of Europe: Чехов, Chekhov, Tschechow, Czechow; Weiß, Weis; Vogt, Voigt
 * not. Vowels stay, so it tells more names apart than their sound.
 */
export function spelling(word: string): string {
  const known = spelledBefore.get(word);
  if (known !== undefined) return known;
  const spelled = SPELLINGS.reduce(
    (text, [from, to]) => text.replace(from, to),
    word.slice(0, 60).replace(/[^a-z]/g, ''),
  );
  // Doubled letters are one.
  let plain = '';
  for (const letter of spelled) if (!plain.endsWith(letter)) plain += letter;
  if (spelledBefore.size >= 200_000) spelledBefore.clear();
  spelledBefore.set(word, plain);
  return plain;
}

/** Endings by which some languages tell a woman's family name from a man's; both come to one. */
const ENDINGS: readonly (readonly [RegExp, string])[] = [
  [/(sk|ck|dzk)(?:a|y|yi|ii|iy|aya|aia|aja)$/, '$1i'],
  [/(.{2}(?:[eo]v|in))(?:a|oi)$/, '$1'],
];

const withoutEnding = (word: string): string => ENDINGS.reduce((text, [ending, to]) => text.replace(ending, to), word);

/** Whether two family names are a woman's and a man's form of one: Kowalski and Kowalska, Novák and Nováková. */
export function sameButForEnding(a: string, b: string): boolean {
  const [short, long] = a.length < b.length ? [a, b] : [b, a];
  if (short.length < 4 || a === b) return false;
  return (
    withoutEnding(a) === withoutEnding(b) || `${short}ova` === long || `${short.replace(/e(?=.$)/, '')}ova` === long
  );
}

const PARTICLES = new Set(
  'von vom van der den dem de del della di da do dos du la le les zu zum zur af av ten ter te el al bin ibn y e geb geborene gesch verw nee ne born maiden formerly zd z domu rozena ur sz szul'.split(
    ' ',
  ),
);

/** The words of a family name that tell it apart: without particles, unless there is nothing else. */
export function familyWords(text: string): string[] {
  const words = canonicalWords(text);
  const telling = words.filter((word) => !PARTICLES.has(word));
  return telling.length > 0 ? telling : words;
}
