import { json, together, type Attack } from './arena.ts';
import { many } from './many.ts';

const ALONE = { left: { what: 'leave' }, right: { what: 'leave' } };
const GONE = { left: 'undo', right: 'undo' };
const GROWS = { kind: 'replace', find: 'a', with: many(20, () => 'aa') };

const line = (at: number, more: object = {}) => ({
  id: `line-${at}`,
  left: { path: ['given'] },
  right: { path: ['first_name'] },
  way: 'both',
  decides: 'ask',
  there: [],
  back: [],
  ...more,
});

/** What somebody who makes pairings can ask for. */
export const pairings: Attack = {
  name: 'pairings of hundreds of lines that grow their values, proposed, looked at and rehearsed all at once',
  run: async ({ as, ask, size }) => {
    const { systems = [] } = (await ask('GET', '/systems')).body;
    const crm = { system: systems.find(({ kind }) => kind === 'odata')!.id, entity: 'People' };
    const letters = { system: systems.find(({ kind }) => kind === 'json')!.id, entity: 'subscribers' };
    const pairing = (lines: object[], more: object = {}) => ({
      ...{ format: 1, name: 'Evil', left: letters, right: crm, alone: ALONE, gone: GONE, lines },
      ...{
        matches: [{ parts: [{ left: ['email'], right: ['email'] }] }],
        onlyLeft: [],
        onlyRight: [],
        lookEvery: 600,
        ...more,
      },
    });
    const most = Math.ceil(300 * size);
    const lines = (more: (at: number) => object) => Array.from({ length: most }, (_, at) => line(at, more(at)));
    const options = Array.from({ length: Math.ceil(5_000 * size) }, (_, at) => ({ left: `l${at}`, right: `r${at}` }));
    const deep = `${'('.repeat(900)}record.x${')'.repeat(900)}`;
    const documents = [
      pairing(lines(() => ({ there: Array(10).fill(GROWS), back: Array(10).fill(GROWS) }))),
      pairing(lines((at) => ({ options: at < 4 ? options : [] }))),
      pairing(lines(() => ({ left: { path: [], compute: deep }, way: 'to right' }))),
      pairing(lines(() => ({ left: { path: ['__proto__', 'constructor'] }, right: { path: ['owner_id', 'name'] } }))),
      pairing([line(0)], { left: crm, right: crm, matches: [{ parts: [{ left: ['id'], right: ['id'] }] }] }),
      pairing([line(0)], { onlyLeft: Array.from({ length: 1000 }, (_, at) => `${at}${'x'.repeat(250)}`) }),
    ];
    const statuses = await together(6, () =>
      as('specialist', 'POST', '/pairings/propose', json({ left: letters, right: crm })),
    );
    statuses.push(
      await as('specialist', 'POST', '/pairings/propose', json({ left: crm, right: crm })),
      await as('viewer', 'POST', '/pairings/propose', json({ left: letters, right: crm })),
    );
    for (const document of documents) {
      const made = await ask('POST', '/pairings', json({ document }));
      statuses.push(made.status);
      const { id } = made.body;
      if (id === undefined) continue;
      statuses.push(
        ...(await together(4, () => as('specialist', 'POST', `/pairings/${id}/look`, json({ document })))),
        ...(await together(3, () => as('specialist', 'POST', `/pairings/${id}/rehearse`, json({ pairs: 1000 })))),
        await as('specialist', 'POST', `/pairings/${id}/start`, json({ revision: 0, accept: true })),
        await as('specialist', 'DELETE', `/pairings/${id}`),
      );
    }
    statuses.push(
      await as(
        'specialist',
        'POST',
        '/pairings',
        json({ document: pairing([line(0)], { name: 'x'.repeat(5_000_000) }) }),
      ),
      await as('specialist', 'POST', '/pairings', '['.repeat(100_000)),
    );
    return statuses;
  },
};
