import { zxcvbn, zxcvbnOptions } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';

export const SHORTEST_PASSWORD = 10;
/** Tries (as powers of ten, about) that a password must withstand: 2 is a hundred million (Wheeler 2016, zxcvbn). */
const LEAST_SCORE = 2;
/** More isn't looked at: what is strong in so many characters stays so. */
const LOOKED_AT = 64;

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
  return score < LEAST_SCORE
    ? 'is one of the first that anybody would try; take a longer or less usual one'
    : undefined;
}
