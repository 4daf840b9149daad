import type { Sealer } from '../../access/index.ts';

/** What speaks for a panel that was opened: which record's page it stands on, and who is signed in there. */
export interface PanelPass {
  entity: string;
  record: string;
  person: string;
  name: string;
  email?: string;
}

/** Somebody may fill in a panel for so long; with a token that has run out by then, they are told. Milliseconds. */
const GOOD_FOR_MS = 12 * 3_600_000;
const LONGEST = 4_000;
const about = (intake: string): string => `panel ${intake}`;

export const sealPass = (sealer: Sealer, intake: string, pass: PanelPass): string =>
  sealer.seal(JSON.stringify([Date.now(), pass]), about(intake));

/** @returns undefined for what was never given for this form, was altered, or is too old */
export function readPass(sealer: Sealer, intake: string, sealed: unknown, now = Date.now()): PanelPass | undefined {
  if (typeof sealed !== 'string' || sealed.length > LONGEST) return undefined;
  try {
    const [at, pass] = JSON.parse(sealer.open(sealed, about(intake))) as [number, PanelPass];
    return now - at > GOOD_FOR_MS ? undefined : pass;
  } catch {
    return undefined;
  }
}
