import { UnreadableBody } from '../bodies/index.ts';
import { TooHeavy } from '../heavy/index.ts';
import { isDatabaseAway, Overloaded } from '../store/index.ts';
import { Problem } from './problem.ts';

const HEAVY_STATUS: Record<TooHeavy['kind'], number> = {
  'too long': 422,
  'too large': 422,
  'too many': 429,
  gone: 499,
};

/** What any error means to whoever asked. */
export function asProblem(thrown: unknown): Problem {
  const error = thrown as Error & { status?: number };
  if (error instanceof Problem) return error;
  if (isDatabaseAway(error))
    return new Problem(503, 'Not well', 'The database does not answer; nothing was done. Try again in a moment.', [], {
      'Retry-After': '2',
    });
  if (error instanceof UnreadableBody)
    return new Problem(error.status, 'Not readable', error.message, [{ field: error.field, reason: error.reason }]);
  if (error instanceof Overloaded)
    return new Problem(503, 'Too busy', 'More is arriving than can be kept at once; nothing was done. Try again.', [], {
      'Retry-After': '5',
    });
  if (error instanceof TooHeavy) return new Problem(HEAVY_STATUS[error.kind], 'Too heavy', error.message);
  if (error instanceof URIError) return new Problem(400, 'Not readable', 'The address is not valid.');
  if (error.message === 'aborted' || (error as { code?: string }).code === 'ECONNRESET')
    return new Problem(400, 'Broken off', 'The request broke off.');
  if (typeof error.status === 'number' && error.status >= 400 && error.status < 500)
    return new Problem(error.status, 'Not acceptable', error.message);
  return new Problem(500, 'Our fault', 'Something went wrong on our side; it is on record.');
}
