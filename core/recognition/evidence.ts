import type { Part } from './document.ts';

/**
 * Recognition: whether two records are about the same person or thing (record linkage; Fellegi and Sunter 1969). Every
 * comparison of a kind of field comes to a level, and a level to a weight in bits: log2 of how much likelier it is
 * among records of the same than among any two. What isn't known weighs nothing. Weights add up; fields that hang
 * together (street, postcode and city) are one comparison, so that nothing counts twice.
 */

/**
 * What is compared, and which parts each comparison reads: a new comparison is a function that `compare` of its kind
 * calls, and a line here. The first of its parts that a recognition has is where its weight is shown.
 */
export const READS = {
  'first name': ['first_name'],
  'family name': ['last_name'],
  name: ['last_name', 'name'],
  'e-mail': ['email'],
  telephone: ['phone', 'mobile'],
  address: ['street', 'postcode', 'city'],
  'date of birth': ['birth_date'],
  organisation: ['organisation'],
  website: ['website'],
  domain: ['website', 'email'],
  'legal form': [],
} satisfies Record<string, readonly Part[]>;
export type About = keyof typeof READS;

/** The parts that a comparison reads; none of one that isn't known (any more). */
export const partsRead = (about: string): readonly Part[] => (Object.hasOwn(READS, about) ? READS[about as About] : []);

/** What one comparison came to. */
export interface Evidence {
  /** What was compared, e.g. `e-mail`. */
  about: About;
  /** What came of it, in words, e.g. `same but for a tag`. */
  level: string;
  bits: number;
}

/** Evidence that overrules any weight: these two are not the same. */
export interface Veto {
  why: string;
}

export interface Compared {
  evidence: Evidence[];
  /** The sum of all evidence, in bits. */
  weight: number;
  /** `different`: never the same; `unsure`: not without a person's look. */
  veto?: Veto & { atMost: 'unsure' | 'different' };
  /** By how many bits this kind of evidence must do better than the lines say, or may do worse; measured for each kind. */
  lines?: Lines;
}

/** Shifts of the lines from which two are the same and from which somebody is asked, in bits. */
export interface Lines {
  same: number;
  unsure: number;
  /** What kind of evidence that is, in words; a rule that goes with it has words of its own. */
  why?: string;
}

export type Verdict = 'same' | 'unsure' | 'different';

export function summed(evidence: readonly (Evidence | undefined)[], veto?: Compared['veto'], lines?: Lines): Compared {
  const known = evidence.filter((each) => each !== undefined);
  const weight = known.reduce((sum, { bits }) => sum + bits, 0);
  return { evidence: known, weight, ...(veto ? { veto } : {}), ...(lines ? { lines } : {}) };
}

const AS_GOOD_AS_SAME =
  /^(?:same|the same shared mailbox|same but for dots or a tag|same but for its domain|same but for its beginning|same but for a letter|day and month swapped)$/;

/** What belongs to one, beside the name, and agrees: mailbox, telephone, address, birthday, website. */
export const agreeing = (evidence: readonly (Evidence | undefined)[]): Evidence[] =>
  evidence.filter(
    (each): each is Evidence =>
      each !== undefined &&
      !/name|organisation|legal/.test(each.about) &&
      each.bits > 5 &&
      AS_GOOD_AS_SAME.test(each.level),
  );
