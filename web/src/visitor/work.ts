import { solveChallenge, type Challenge } from 'altcha-lib';
import { deriveKey } from 'altcha-lib/algorithms/web/pbkdf2';

const PATIENCE_MS = 60_000;

/** Does the small sum that the server asks for. @returns what proves it; undefined where this browser can't */
export async function proofOf(challenge: Challenge): Promise<string | undefined> {
  try {
    const solution = await solveChallenge({ challenge, deriveKey, timeout: PATIENCE_MS });
    return solution ? JSON.stringify({ challenge, solution }) : undefined;
  } catch {
    // Over an insecure connection a browser has no such sums.
    return undefined;
  }
}
