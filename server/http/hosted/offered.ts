import {
  besides,
  comparisonsOf,
  placedThat,
  shownName,
  wordsIn,
  type AnswerTrouble,
  type Answers,
  type HostedForm,
  type Placed,
} from '@zusammen/core/forms/hosted';
import { isSystemTrouble } from '../../systems/index.ts';
import type { Sealer } from '../../access/index.ts';
import { hashed } from '../../store/index.ts';
import { conditionText, type ChosenRecord, type FormReading } from './reading.ts';

/**
 * Records that were chosen, held to what the form could have offered. Each is read again; where its system doesn't answer,
 * what was sealed when it was chosen speaks for it, so that somebody who has filled in everything isn't turned away.
 */

/** Under which name sealed choices are sent along. */
export const OFFER = '_offer';
const MOST_OFFERS = 60;
/** A choice speaks for itself for so long, in milliseconds. */
const GOOD_FOR_MS = 24 * 3_600_000;
const about = (intake: string): string => `offer ${intake}`;

const digestOf = (placed: Placed, id: string): string => {
  const where = comparisonsOf(placed.item.reads!, placed.answerTo) ?? [];
  return hashed(JSON.stringify([placed.item.id, id, conditionText(where)])).toString('base64url');
};

/** What speaks for a choice once its system doesn't answer. */
export const sealOffer = (
  sealer: Sealer,
  intake: string,
  placed: Placed,
  id: string,
  { locked, shown }: Pick<ChosenRecord, 'locked' | 'shown'>,
): string => sealer.seal(JSON.stringify([digestOf(placed, id), Date.now(), { locked, shown }]), about(intake));

function readOffers(sealer: Sealer, intake: string, sent: unknown): Map<string, Held> {
  const offers = new Map<string, Held>();
  for (const each of [sent ?? []].flat().slice(0, MOST_OFFERS)) {
    if (typeof each !== 'string' || each.length > 20_000) continue;
    try {
      const [digest, at, held] = JSON.parse(sealer.open(each, about(intake))) as [string, number, Held];
      if (Date.now() - at < GOOD_FOR_MS) offers.set(digest, held);
    } catch {
      // Altered, or of another form: it speaks for nothing.
    }
  }
  return offers;
}

/** What is known of a choice: ids that it brings along, and how it was shown. */
type Held = Pick<ChosenRecord, 'locked' | 'shown'>;

export interface HoldingTo {
  reading: FormReading;
  sealer: Sealer;
  intake: string;
  form: HostedForm;
  language: string;
}

/**
 * Holds chosen records to what could be chosen.
 * @param values what was read of the answers; ids that a choice brings along are put in, whatever the page sent
 * @param sent what was sealed when the choices were made
 * @returns what won't do
 */
export async function heldToOffers(
  { reading, sealer, intake, form, language }: HoldingTo,
  answers: Answers,
  values: Record<string, string | string[]>,
  sent: unknown,
): Promise<AnswerTrouble[]> {
  const choosing = placedThat(form, answers, ({ reads, name }) => reads !== undefined && name !== undefined);
  if (choosing.length === 0) return [];
  const words = wordsIn(language);
  const offers = readOffers(sealer, intake, sent);
  const errors: AnswerTrouble[] = [];
  for (const placed of choosing) {
    const { item, name } = placed;
    // Ids that come with a choice are never taken from the page.
    for (const { into, field } of item.reads!.fills ?? []) if (field === undefined) delete values[besides(name, into)];
    const chosen = [values[name] ?? []].flat();
    const shown: string[] = [];
    for (const id of chosen) {
      const held = await heldTo(placed, id);
      if (typeof held === 'string') errors.push({ field: name, message: held });
      else {
        shown.push(held.shown.filter(Boolean).join(', '));
        for (const [into, value] of Object.entries(held.locked))
          if (value !== '') values[besides(name, into)] = value;
          else errors.push({ field: name, message: words.nothingThere });
      }
    }
    if (shown.length > 0) values[shownName(name)] = shown.join('; ').slice(0, 1000);
  }
  return errors;

  async function heldTo(placed: Placed, id: string): Promise<Held | string> {
    try {
      return (await reading.chosen(placed, language, id)) ?? words.option;
    } catch (error) {
      if (!isSystemTrouble(error)) throw error;
      return offers.get(digestOf(placed, id)) ?? words.notChecked;
    }
  }
}
