import { INTAKE_FORMAT, type IntakeDocument } from '@zusammen/core/intake';
import { join } from 'node:path';
import { PROGRAMS } from '../../scripts/testing/setup.ts';
import { Heavy, TooHeavy } from './index.ts';

const program = join(process.cwd(), PROGRAMS, 'heavy-thread.mjs');
let heavy: Heavy;
beforeEach(async () => {
  heavy = new Heavy(program, { readForms: 1 });
  // The thread is up: what is measured is the work.
  await heavy.run('suggest', { fields: [], entities: [], learned: [] }, { by: 'the test' });
});
afterEach(() => heavy.close());

/** Elements nested so deep that a parser takes the square of it. */
const endless = '<div><p>'.repeat(400_000);
const form = '<form><input name=a></form>';
const somebody = { by: 'somebody' };

it('does what it is asked, and hands back what came of it', async () => {
  expect(await heavy.run('readForms', { html: form }, somebody)).toMatchObject([{ fields: [{ name: 'a' }] }]);
});

it('has told of every result by the time it hands back the whole, and of each once', async () => {
  const document: IntakeDocument = {
    format: INTAKE_FORMAT,
    name: 'Nothing to do',
    source: { kind: 'program' },
    settings: { perMinute: 60 },
    fields: [],
    plan: { steps: [] },
  };
  const nobody = () => Promise.reject(new Error('A plan without steps asks nothing.'));
  const reading = { find: nobody, read: nobody, weigh: nobody };
  // Parts and the whole come by different ports: which is first changes from one time to the next.
  for (let time = 0; time < 100; time += 1) {
    const told: number[] = [];
    const results = await heavy.asking(
      'rehearse',
      { document, schemas: new Map(), samples: [{}, {}] },
      reading,
      () => false,
      somebody,
      (_, at) => told.push(at),
    );
    expect(results).toHaveLength(2);
    expect(told.sort()).toEqual([0, 1]);
  }
});

it('breaks off what takes too long, in words, and goes on with the next', async () => {
  await expect(heavy.run('readForms', { html: endless }, somebody)).rejects.toThrow(/more than 1 seconds/);
  await expect(heavy.run('readForms', { html: endless }, somebody)).rejects.toBeInstanceOf(TooHeavy);
  // Work with more patience: a new thread has to come up first, on a machine that may be slow.
  expect(await heavy.run('suggest', { fields: [], entities: [], learned: [] }, somebody)).toEqual([]);
});

it('breaks off what nobody waits for any more', async () => {
  const gone = new AbortController();
  const work = heavy.run('readForms', { html: endless }, { by: 'somebody', gone: gone.signal });
  setTimeout(() => gone.abort(), 100);
  await expect(work).rejects.toMatchObject({ kind: 'gone' });
});

it('leaves this thread free meanwhile', async () => {
  const work = heavy.run('readForms', { html: endless }, somebody).catch(() => undefined);
  let beats = 0;
  const heart = setInterval(() => (beats += 1), 10);
  await work;
  clearInterval(heart);
  expect(beats).toBeGreaterThan(20);
});

it('gives nobody more than a share', async () => {
  const mine = Array.from({ length: 6 }, () =>
    heavy.run('readForms', { html: endless }, somebody).catch((error: unknown) => error),
  );
  const others = heavy.run('suggest', { fields: [], entities: [], learned: [] }, { by: 'somebody else' });
  const ends = (await Promise.all(mine)) as TooHeavy[];
  expect(ends.filter(({ kind }) => kind === 'too many')).toHaveLength(3);
  expect(await others).toEqual([]);
});

it('turns away what is beyond a share before it is read, and gives places back', () => {
  const leave = [heavy.enter('somebody'), heavy.enter('somebody'), heavy.enter('somebody')];
  expect(() => heavy.enter('somebody')).toThrow(TooHeavy);
  heavy.enter('somebody else')();
  leave[0]!();
  leave[1]!();
  expect([heavy.enter('somebody'), heavy.enter('somebody')]).toHaveLength(2);
  expect(() => heavy.enter('somebody')).toThrow(/wait for one of them/);
});
