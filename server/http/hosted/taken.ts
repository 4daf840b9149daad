import { withBegun, type Begun } from '@zusammen/core/asking';
import {
  linkedEntities,
  readAnswers,
  toPay,
  wordsIn,
  type AnswerTrouble,
  type HostedForm,
} from '@zusammen/core/forms/hosted';
import type { SubmittedValues } from '@zusammen/core/forms';
import type { Arrival, LiveIntake } from '../../engine/index.ts';
import { paymentServiceById } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { Problem } from '../problem.ts';
import { asAnswers, todayIn } from './answers-of.ts';
import { withFiles } from './files.ts';
import { heldToOffers, OFFER } from './offered.ts';

/** What a form takes of what came for it, whoever sent it: a page without a script, the page's script, or a program. */
export type Taken =
  | ({ ok: true; values: Record<string, string | string[]> } & Pick<Arrival, 'files' | 'payment'>)
  | { ok: false; errors: AnswerTrouble[] };

export interface TakenBy {
  form: HostedForm;
  language: string;
  /** What was issued with the page, or '' for a program's: by it a file that is sent twice is one. */
  page: string;
  /** The record that the form was opened with. */
  opened?: { entity: string; record: string } | undefined;
  /** What is filled in with it, unseen or where something is left blank. */
  begun?: Pick<Begun, 'unseen' | 'ifBlank'>;
}

/**
 * Holds answers to what the form asks, offers and costs. Nothing that is reckoned, chosen among records or kept here is taken
 * from the sender: not amounts, not the link's record, not addresses of files.
 */
export async function takenOf(
  context: Pick<Context, 'db' | 'sealer' | 'heavy' | 'settings' | 'formReading'>,
  { intake, document: { settings } }: LiveIntake,
  said: SubmittedValues,
  { form, language, page, opened, begun = { unseen: {}, ifBlank: {} } }: TakenBy,
): Promise<Taken> {
  const { [OFFER]: offers, ...answered } = said;
  const answers = withBegun(form, asAnswers(answered), begun);
  const reading = readAnswers(form, answers, { language, today: todayIn(settings.zone) });
  if (!reading.ok) return reading;
  const { values } = reading;
  const holding = { reading: context.formReading, sealer: context.sealer, intake: intake.id, form, language };
  const notOffered = await heldToOffers(holding, answers, values, offers);
  if (notOffered.length > 0) return { ok: false, errors: notOffered };
  const { files, errors } = await withFiles(context, { intake: intake.id, form, language, page }, answers, values);
  if (errors.length > 0) return { ok: false, errors };
  for (const { entity, into } of form.link ? linkedEntities(form.link) : []) {
    delete values[into];
    if (opened?.entity === entity) values[into] = opened.record;
  }
  const due = form.fee && toPay(form.fee, form, values, { language: 'en', saysIn: language });
  if (due && !due.ok) return due;
  if (!form.fee || !due || due.minor === 0) return { ok: true, values, files };
  const service = await paymentServiceById(context.db, form.fee.service);
  if (!service) throw new Problem(503, 'Not just now', wordsIn(language).payLater, [], { 'Retry-After': '600' });
  const payment = { serviceId: service.id, minor: due.minor, currency: form.fee.currency, test: service.test };
  return { ok: true, values, files, payment };
}
