import { NotUnderstood, SystemUnavailable, TokenRefused } from '../systems/index.ts';
import { Problem } from './problem.ts';

/** Trouble with a system in the middle of a request somebody waits for. @throws Problem 503 or 502 in its words */
export async function orTrouble<T>(work: Promise<T>, after = ''): Promise<T> {
  try {
    return await work;
  } catch (error) {
    if (error instanceof SystemUnavailable || error instanceof TokenRefused)
      throw new Problem(503, 'The system does not answer', `${error.message} ${after}`.trim());
    if (error instanceof NotUnderstood)
      throw new Problem(502, 'The system is not understood', `${error.message} ${after}`.trim());
    throw error;
  }
}
