import type { AnswerTrouble } from '@zusammen/core/forms/hosted';
import type { SubmittedValues } from '@zusammen/core/forms';
import type { Arrival, LiveIntake } from '../../engine/index.ts';
import { Problem } from '../problem.ts';
import { takenOf } from './taken.ts';

/**
 * Holds what a program sends to an intake whose form is one of ours to what the form asks: it gets no further than a page.
 * @returns what the form takes of it; without a form, everything
 * @throws Problem naming each answer that won't do
 */
export async function heldToForm(
  context: Parameters<typeof takenOf>[0],
  live: LiveIntake,
  values: SubmittedValues,
): Promise<Pick<Arrival, 'values' | 'files' | 'payment'>> {
  const { form, settings } = live.document;
  if (!form) return { values };
  if (form.link?.required)
    throw new Problem(403, 'By a link only', 'This form is sent from the page that a signed link opens.');
  const language = settings.locale ?? form.languages[0]!;
  const taken = await takenOf(context, live, values, { form, language, page: '' });
  if (taken.ok) return taken;
  throw new Problem(
    422,
    'Not acceptable as it is',
    taken.errors.map(({ field, message }) => `${field}: ${message}`).join(' '),
    taken.errors.map(({ field, message }) => ({ field, reason: message })),
  );
}

/** Errors as the problem of a form's page: each with the words that stand at its field. */
export const formProblem = (detail: string, errors: readonly AnswerTrouble[]): object => ({
  type: 'about:blank',
  title: 'Not acceptable as it is',
  status: 422,
  detail,
  errors,
});
