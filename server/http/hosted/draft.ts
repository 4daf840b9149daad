import type { LiveIntake } from '../../engine/index.ts';
import type { Sealer } from '../../access/index.ts';
import { intakeByKey } from '../../store/index.ts';
import type { Context } from '../context.ts';

/** A draft is shown to those who make it, and to whom they give its address, for so long, in milliseconds. */
const GOOD_FOR_MS = 8 * 3_600_000;
const ABOUT = 'draft of a form';

/** What speaks for whoever looks at the draft of an intake's form. */
export const sealDraft = (sealer: Sealer, intake: string): string =>
  sealer.seal(JSON.stringify([intake, Date.now()]), ABOUT);

/** The draft of a form, for whoever has its address; undefined without, or when that is too old. */
export async function draftOf(
  { db, sealer }: Pick<Context, 'db' | 'sealer'>,
  key: string,
  by: string,
): Promise<LiveIntake | undefined> {
  if (by.length > 400) return undefined;
  let sealed: [string, number];
  try {
    sealed = JSON.parse(sealer.open(by, ABOUT)) as [string, number];
  } catch {
    return undefined;
  }
  const intake = await intakeByKey(db, key);
  if (!intake || intake.id !== sealed[0] || Date.now() - sealed[1] > GOOD_FOR_MS) return undefined;
  return { intake, version: 0, document: intake.draft, secrets: [] };
}
