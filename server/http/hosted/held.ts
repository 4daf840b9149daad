import { readAnswers, type AnswerTrouble, type HostedForm, type ReadAnswers } from '@zusammen/core/forms/hosted';
import type { SubmittedValues } from '@zusammen/core/forms';
import type { LiveIntake } from '../../engine/index.ts';
import type { Context } from '../context.ts';
import { Problem } from '../problem.ts';
import { heldToOffers, OFFER } from './offered.ts';

/** What came as answers: texts, or lists of them. Programs say yes and no as such. */
export const asAnswers = (values: SubmittedValues): Record<string, string | string[]> =>
  Object.fromEntries(
    Object.entries(values).map(([name, said]) => [
      name,
      Array.isArray(said) ? said : typeof said === 'boolean' ? (said ? 'yes' : 'no') : String(said),
    ]),
  );

/**
 * Holds what a program sends to an intake whose form is one of ours to what the form asks: it gets no further than a page.
 * @returns what the form takes of it; without a form, everything
 * @throws Problem naming each answer that won't do
 */
export async function heldToForm(
  { formReading: reading, sealer }: Pick<Context, 'formReading' | 'sealer'>,
  { intake, document: { form, settings } }: LiveIntake,
  { [OFFER]: offers, ...values }: SubmittedValues,
): Promise<SubmittedValues> {
  if (!form) return offers === undefined ? values : { ...values, [OFFER]: offers };
  if (form.link?.required)
    throw new Problem(403, 'By a link only', 'This form is sent from the page that a signed link opens.');
  const language = settings.locale ?? form.languages[0]!;
  const answered = answersOf(form, values, language, settings.zone);
  const errors = answered.ok
    ? await heldToOffers(
        { reading, sealer, intake: intake.id, form, language },
        asAnswers(values),
        answered.values,
        offers,
      )
    : answered.errors;
  if (answered.ok && errors.length === 0) {
    if (form.link) delete answered.values[form.link.into];
    return answered.values;
  }
  throw new Problem(
    422,
    'Not acceptable as it is',
    errors.map(({ field, message }) => `${field}: ${message}`).join(' '),
    errors.map(({ field, message }) => ({ field, reason: message })),
  );
}

/** Reads what came for a form, on the day it is where the form is at home. */
export const answersOf = (
  form: HostedForm,
  values: SubmittedValues,
  language: string,
  zone: string | undefined,
): ReadAnswers => readAnswers(form, asAnswers(values), { language, today: todayIn(zone) });

const days = new Map<string, Intl.DateTimeFormat>();

/** Today in a zone (IANA time zone database), as YYYY-MM-DD. */
export function todayIn(zone = 'UTC'): string {
  // Sweden writes its days as ISO 8601 does.
  const format = days.get(zone) ?? new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short' });
  days.set(zone, format);
  return format.format(new Date());
}

/** Errors as the problem of a form's page: each with the words that stand at its field. */
export const formProblem = (detail: string, errors: readonly AnswerTrouble[]): object => ({
  type: 'about:blank',
  title: 'Not acceptable as it is',
  status: 422,
  detail,
  errors,
});
