import { isSystemTrouble, SchemaRefused } from '../systems/index.ts';
import { Problem } from './problem.ts';

/** Changes a system's schema; what goes wrong is a problem that says why. */
export async function changedSchema<T>(change: () => Promise<T>): Promise<T> {
  try {
    return await change();
  } catch (error) {
    if (error instanceof SchemaRefused) throw new Problem(422, 'Not done', error.message);
    if (isSystemTrouble(error)) throw new Problem(502, 'The system did not take it', error.message);
    throw error;
  }
}
