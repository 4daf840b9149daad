import { createChallenge, verifySolution, type Challenge, type Payload } from 'altcha-lib';
import { deriveKey } from 'altcha-lib/algorithms/pbkdf2';
import type { Sealer } from '../../access/index.ts';
import type { Guard } from '@zusammen/core/forms/hosted';

/**
 * A proof of work: a small sum that a browser does in a moment, and that makes sending a thousand times dear. It is asked
 * for when a form is busy, or always; what was signed by us and not used before counts.
 */

/** What is sent along as its proof. */
export const PROOF = '_work';
const MOST_PROOF = 4_000;
/** Iterations of PBKDF2 (RFC 8018) a try; with eight bits to be met there are 256 tries on average. */
const COST = 1_500;
const KEY_PREFIX = '00';
const GOOD_FOR_MS = 5 * 60_000;
const MINUTE_MS = 60_000;
const MOST_REMEMBERED = 100_000;

export class Work {
  private readonly secret: string;
  private minute = 0;
  private readonly sent = new Map<string, number>();
  /** Proofs that were used, by their signature, and until when they would be good. */
  private readonly used = new Map<string, number>();

  constructor(sealer: Sealer) {
    this.secret = sealer.mark('proof of work', 'proof of work');
  }

  /**
   * Whether a sending has to bring a proof; each counts.
   * @param often how many in a minute are as many as one address may send: with more, a form is busy
   */
  isNeeded(intake: string, { work = 'when busy' }: Pick<Guard, 'work'>, often: number, now = Date.now()): boolean {
    const minute = Math.floor(now / MINUTE_MS);
    if (minute !== this.minute) {
      this.minute = minute;
      this.sent.clear();
    }
    const count = (this.sent.get(intake) ?? 0) + 1;
    this.sent.set(intake, count);
    return work === 'always' || (work === 'when busy' && count > often);
  }

  /** What is to be solved. */
  challenge(intake: string): Promise<Challenge> {
    return createChallenge({
      ...{ algorithm: 'PBKDF2/SHA-256', cost: COST, keyPrefix: KEY_PREFIX, deriveKey },
      ...{ data: { intake }, expiresAt: new Date(Date.now() + GOOD_FOR_MS), hmacSignatureSecret: this.secret },
    });
  }

  /** Whether a proof is one, of this form, and comes for the first time. */
  async isDone(intake: string, proof: unknown, now = Date.now()): Promise<boolean> {
    const payload = readProof(proof);
    const signature = payload?.challenge.signature;
    if (!payload || signature === undefined || payload.challenge.parameters.data?.['intake'] !== intake) return false;
    if (this.used.has(signature)) return false;
    const { verified } = await verifySolution({ ...payload, deriveKey, hmacSignatureSecret: this.secret }).catch(
      () => ({
        verified: false,
      }),
    );
    if (!verified || this.used.has(signature)) return false;
    this.remember(signature, now);
    return true;
  }

  private remember(signature: string, now: number): void {
    if (this.used.size >= MOST_REMEMBERED)
      for (const [each, until] of this.used) if (until < now) this.used.delete(each);
    this.used.set(signature, now + GOOD_FOR_MS);
  }
}

function readProof(proof: unknown): Payload | undefined {
  if (typeof proof !== 'string' || proof.length > MOST_PROOF) return undefined;
  try {
    const { challenge, solution } = JSON.parse(proof) as Partial<Payload>;
    const isOne =
      typeof challenge?.signature === 'string' &&
      typeof challenge.parameters === 'object' &&
      typeof solution === 'object';
    return isOne ? { challenge, solution } : undefined;
  } catch {
    return undefined;
  }
}
