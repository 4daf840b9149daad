import { randomBytes } from 'node:crypto';
import { createChallenge, solveChallenge, type Challenge } from 'altcha-lib';
import { deriveKey } from 'altcha-lib/algorithms/pbkdf2';
import { Sealer } from '../../access/index.ts';
import { Work } from './work.ts';

/** A proof of work: what was signed by us, for this form, once. */
const work = new Work(new Sealer(randomBytes(32)));
const proofOf = async (challenge: Challenge): Promise<string> =>
  JSON.stringify({ challenge, solution: await solveChallenge({ challenge, deriveKey }) });

it('is asked for when a form is busy, always, or never', () => {
  const asked = (guard: { work?: 'never' | 'always' }, now = 0): boolean[] =>
    [1, 2, 3, 4].map(() => work.isNeeded(`busy ${JSON.stringify(guard)}`, guard, 2, now));
  expect(asked({})).toEqual([false, false, true, true]);
  expect(asked({ work: 'always' })).toEqual([true, true, true, true]);
  expect(asked({ work: 'never' })).toEqual([false, false, false, false]);
  expect(asked({}, 60_000)).toEqual([false, false, true, true]);
});

it('is good once, and for its form only', async () => {
  const challenge = await work.challenge('one');
  const proof = await proofOf(challenge);
  expect(await work.isDone('another', proof)).toBe(false);
  expect(await work.isDone('one', proof)).toBe(true);
  expect(await work.isDone('one', proof)).toBe(false);
});

it('is done once, also when it is sent twice at the same moment', async () => {
  const proof = await proofOf(await work.challenge('one'));
  const both = await Promise.all([work.isDone('one', proof), work.isDone('one', proof)]);
  expect(both.filter(Boolean)).toHaveLength(1);
});

it('is none when nobody has worked, or when it isn’t ours', async () => {
  const challenge = await work.challenge('one');
  const solved = JSON.parse(await proofOf(challenge)) as { solution: { counter: number; derivedKey: string } };
  const foreign = await createChallenge({
    ...{ algorithm: 'PBKDF2/SHA-256', cost: 1, keyPrefix: '0', deriveKey, data: { intake: 'one' } },
    hmacSignatureSecret: 'another',
  });
  const cheaper = { ...challenge, parameters: { ...challenge.parameters, cost: 1, keyPrefix: '0' } };
  const late = { ...challenge, parameters: { ...challenge.parameters, expiresAt: 2_000_000_000 } };
  for (const proof of [
    ...[undefined, '', '{}', 'null', '[]', '{"challenge":null}', 'x'.repeat(10_000), ['a']],
    JSON.stringify({ challenge, solution: { ...solved.solution, derivedKey: '00'.repeat(32) } }),
    JSON.stringify({ challenge, solution: { ...solved.solution, counter: -1 } }),
    JSON.stringify({ challenge: late, solution: solved.solution }),
    await proofOf(foreign),
    await proofOf(cheaper),
  ])
    expect([proof, await work.isDone('one', proof)]).toEqual([proof, false]);
});
