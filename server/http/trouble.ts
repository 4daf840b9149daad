import { isSystemTrouble } from '../systems/index.ts';
import { Problem } from './problem.ts';

/** Trouble with a system in the middle of a request somebody waits for. @throws Problem 503 or 502 in its words */
export async function orTrouble<T>(work: Promise<T>, after = ''): Promise<T> {
  try {
    return await work;
  } catch (error) {
    if (!isSystemTrouble(error)) throw error;
    const said = `${error.message} ${after}`.trim();
    throw error.code === 'not understood'
      ? new Problem(502, 'The system is not understood', said)
      : new Problem(503, 'The system does not answer', said);
  }
}
