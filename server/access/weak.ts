import { zxcvbn, zxcvbnOptions } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';

export const SHORTEST_PASSWORD = 10;
/** What a password must score at least: 2 withstands more than a million tries (Wheeler 2016, zxcvbn). */
const LEAST_SCORE = 2;
/** More isn't looked at: what is strong in so many characters stays so. */
const LOOKED_AT = 64;
/** Letters and digits that must be left when what is known of the person is taken away. */
const LEAST_OWN = 5;

let ready = false;

/**
 * Why a password won't do: too short, or among the first that anybody would try (lists of known passwords, keyboard
 * rows, repetitions, what is known of the person).
 * @param about the person's name and e-mail address
 */
export function weaknessOf(password: string, about: readonly string[]): string | undefined {
  if ([...password].length < SHORTEST_PASSWORD) return `must have at least ${SHORTEST_PASSWORD} characters`;
  if (!ready) {
    zxcvbnOptions.setOptions({ dictionary, graphs: adjacencyGraphs });
    ready = true;
  }
  const known = about.flatMap((text) => [text, ...text.split(/[\s@.]+/)]).filter((text) => text.length > 2);
  const { score } = zxcvbn(password.slice(0, LOOKED_AT), known);
  return score < LEAST_SCORE || ownOf(password, known) < LEAST_OWN
    ? 'is one of the first that anybody would try; take a longer or less usual one'
    : undefined;
}

/** How many letters and digits of a password are not what is known of its person. */
function ownOf(password: string, known: readonly string[]): number {
  const words = [...known].sort((a, b) => b.length - a.length);
  const left = words.reduce((text, word) => text.replaceAll(word.toLowerCase(), ''), password.toLowerCase());
  return left.replace(/[^\p{L}\p{N}]/gu, '').length;
}
