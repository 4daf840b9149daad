import type { Request, Response } from 'express';
import { placedIn, wordsIn } from '@zusammen/core/forms/hosted';
import { isSystemTrouble } from '../../systems/index.ts';
import { readSubmission } from '../body.ts';
import type { Context } from '../context.ts';
import { badField, Problem } from '../problem.ts';
import type { LiveForm } from './answering.ts';
import { asAnswers } from './answers-of.ts';
import { sealOffer } from './offered.ts';
import type { FormReading } from './reading.ts';

/** Characters of a question's name, of what is typed, and of an id. */
const MOST_SAID = 255;

/**
 * `POST /f/:intake/read`: what a question offers, or what comes of a choice. Only what the form names leaves; nothing of it
 * is logged or kept.
 */
export async function readForForm(
  { sealer }: Pick<Context, 'sealer'>,
  reading: FormReading,
  { live, form, language }: LiveForm,
  request: Request,
  response: Response,
): Promise<void> {
  const { values } = await readSubmission(request);
  const { _question: question, _text: text = '', _chosen: chosen, ...said } = values;
  for (const [field, value] of Object.entries({ _question: question, _text: text, _chosen: chosen ?? '' }))
    if (typeof value !== 'string' || value.length > MOST_SAID)
      throw badField(field, `has to be one text of at most ${MOST_SAID} characters`);
  const placed = placedIn(form, asAnswers(said)).find(({ item, name }) => item.reads && name === question);
  if (!placed) throw badField('_question', 'is no question that offers records');
  const words = wordsIn(language);
  response.set({ 'Cache-Control': 'no-store', 'Content-Language': language });
  try {
    if (typeof chosen === 'string') {
      const record = await reading.chosen(placed, language, chosen);
      if (!record) throw new Problem(404, 'Not offered', words.option);
      const fills = Object.fromEntries(
        Object.entries(record.fills).filter(([name]) => !Object.hasOwn(record.locked, name)),
      );
      const offer = sealOffer(sealer, live.intake.id, placed, chosen, record);
      const isBare = Object.values(record.locked).includes('');
      const note = isBare ? { note: words.nothingThere } : {};
      response.json({ chosen: { id: chosen, shown: record.shown, fills, offer, ...note } });
      return;
    }
    response.json({ offered: await reading.offered(placed, language, String(text)) });
  } catch (error) {
    // What the system said is nothing for visitors; those who look after it see it on its page.
    if (isSystemTrouble(error)) throw new Problem(503, 'Not just now', words.notLookedUp, [], { 'Retry-After': '5' });
    throw error;
  }
}
