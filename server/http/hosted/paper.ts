import type { Request, Response } from 'express';
import {
  amountText,
  filledIn,
  languageFor,
  say,
  strokesOf,
  wordsIn,
  type FilledLine,
} from '@zusammen/core/forms/hosted';
import type { Sealer } from '../../access/index.ts';
import { intakeById, paymentOf, submissionById, visitorFileSent, type Payment } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { Problem } from '../problem.ts';
import { asAnswers } from './answers-of.ts';

/** What somebody filled in, on paper: made anew each time from what is kept, and gone when that is forgotten. */

/** The address is good for so long, in milliseconds: long enough to come back to the page, and to print it tomorrow. */
const GOOD_FOR_MS = 24 * 3_600_000;
const ABOUT = 'a filled-in form';

/** Where a filled-in form is to be had as a PDF, by whoever has this address. */
export const paperAddress = (sealer: Sealer, intake: string, submission: string, language: string): string =>
  `/f/${intake}/filled?${new URLSearchParams({ s: sealPaper(sealer, submission), lang: language }).toString()}`;

/** What speaks for whoever wants to have it. */
export const sealPaper = (sealer: Sealer, submission: string): string =>
  sealer.seal(JSON.stringify([submission, Date.now()]), ABOUT);

/** @returns the submission's id; undefined where the address isn't ours, or too old */
export function readPaper(sealer: Sealer, sealed: unknown): string | undefined {
  if (typeof sealed !== 'string' || sealed.length > 400) return undefined;
  try {
    const [id, at] = JSON.parse(sealer.open(sealed, ABOUT)) as [string, number];
    return Date.now() - at > GOOD_FOR_MS ? undefined : id;
  } catch {
    return undefined;
  }
}

/** `GET /f/:intake/filled`. @throws Problem 404 where there is nothing of it, or no more */
export async function sendPaper(context: Context, request: Request, response: Response): Promise<void> {
  const { db, live, sealer, heavy } = context;
  const id = readPaper(sealer, request.query['s']);
  const submission = id === undefined ? undefined : await submissionById(db, id);
  const intake = submission && (await intakeById(db, submission.intakeId));
  if (!submission || !intake || submission.forgottenAt !== null)
    throw new Problem(404, 'Not there', 'There is nothing here, or no more: addresses like this are good for a day.');
  const { form, settings } = await live.document(submission.intakeId, submission.version);
  if (!form) throw new Problem(404, 'Not there', 'It wasn’t sent by a form of ours.');
  const asked = request.query['lang'];
  const language = languageFor(form.languages, typeof asked === 'string' ? asked : undefined, '');
  const at = new Intl.DateTimeFormat(language, {
    ...{ dateStyle: 'long', timeStyle: 'short', timeZone: settings.zone ?? 'UTC' },
  }).format(submission.receivedAt);
  const title = say(form.title, language, form.languages);
  const payment = await paymentOf(db, submission.id);
  const pdf = await heavy.run(
    'pdf',
    {
      ...{ title, language, blank: '–' },
      lines: [
        ...(await withSignatures(context, filledIn(form, asAnswers(submission.values), language))),
        ...(payment?.state === 'paid' ? [paidLine(payment, language)] : []),
      ],
      foot: `${submission.id}, ${at}, ${intake.key} ${submission.version}`,
    },
    { by: `paper ${request.ip ?? ''}` },
  );
  response
    .set({
      'Cache-Control': 'private, no-store',
      'Content-Disposition': `inline; filename="${intake.key}.pdf"`,
      'X-Content-Type-Options': 'nosniff',
    })
    .type('application/pdf')
    .send(Buffer.from(pdf));
}

const paidLine = ({ minor, currency, test }: Payment, language: string): FilledLine => {
  const words = wordsIn(language);
  const sum = amountText(minor, currency, language);
  return { kind: 'answer', label: words.paid, value: test ? `${sum} (${words.testMode})` : sum, depth: 0 };
};

/** Lines with what was drawn as signatures; what isn't there any more is left out. */
const withSignatures = ({ db }: Pick<Context, 'db'>, lines: FilledLine[]): Promise<FilledLine[]> =>
  Promise.all(
    lines.map(async (line) => {
      if (line.kind !== 'answer' || line.drawn === undefined) return line;
      const { drawn, ...rest } = line;
      const kept = await visitorFileSent(db, drawn.slice(drawn.lastIndexOf('/') + 1));
      const strokes = kept && strokesOf(kept.bytes.toString('utf8'));
      return strokes === undefined ? rest : { ...rest, drawn: strokes };
    }),
  );
