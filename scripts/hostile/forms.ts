import { formOf, item } from '../../core/testing/hosted.ts';
import { json, together, type Attack } from './arena.ts';
import { many } from './many.ts';

const KEY = 'a-form-under-attack';

/** What anybody can send to a form of ours, and what somebody who makes forms can make of one. */
export const forms: Attack = {
  name: 'a form of 300 questions under conditions and rows within rows, filled in as long and as often as it takes',
  run: async ({ as, ask, post, size }) => {
    const { intakes = [] } = (await ask('GET', '/intakes')).body;
    const like = intakes.find(({ key }) => key === 'pollination-enquiry')!;
    const { draft } = (await ask('GET', `/intakes/${like.id}`)).body.intake!;
    const most = Math.ceil(290 * size);
    const parts = Array.from({ length: 20 }, (_, at) => ({ field: 'long', test: 'has' as const, value: `zz${at}` }));
    const inRow = Array.from({ length: Math.ceil(4 * size) }, (_, at) => item('text', `r${at}`, { required: true }));
    const form = formOf(
      [
        item('long text', 'long'),
        item('text', 'contact_last'),
        ...Array.from({ length: most }, (_, at) =>
          item('text', `q${at}`, { required: true, shown: { match: 'any', parts } }),
        ),
        item('group', 'g', {
          mostRows: 50,
          items: [...inRow, item('group', 'h', { mostRows: 10, items: [item('email', 'x', { required: true })] })],
        }),
      ],
      { guard: { trap: true, leastSeconds: 0 } },
    );
    const steps = draft.plan.steps.map((step) => ({
      ...step,
      lines: step.lines.filter(({ from }) => from.every((name) => name === 'contact_last')),
      recognise: [],
    }));
    const document = { ...draft, source: { kind: 'ours' }, form, fields: [], plan: { steps } };
    const circular = structuredClone(form);
    circular.pages[0]!.items[0]!.shown = { match: 'all', parts: [{ field: 'q0', test: 'is', value: 'x' }] };
    const endless = structuredClone(form);
    for (const group of endless.pages[0]!.items.filter(({ kind }) => kind === 'group'))
      group.items!.push(
        item('group', 'k', { mostRows: 50, items: inRow.map((each) => ({ ...each, id: `k${each.id}` })) }),
      );
    const statuses = [
      await as('viewer', 'POST', '/intakes', json({ key: KEY, document })),
      await as('specialist', 'POST', '/intakes', json({ key: `${KEY}-1`, document: { ...document, form: circular } })),
      await as('specialist', 'POST', '/intakes', json({ key: `${KEY}-2`, document: { ...document, form: endless } })),
    ];
    const made = (await ask('POST', '/intakes', json({ key: KEY, document }))).body.intake!;
    statuses.push(await as('specialist', 'POST', `/intakes/${made.id}/publish`, json({ revision: 1, accept: true })));
    const long = Math.ceil(950_000 * size);
    const rows = Math.ceil(990 * size);
    const rowsOf = (name: (at: number) => string): URLSearchParams =>
      new URLSearchParams(Array.from({ length: rows }, (_, at): [string, string] => [name(at), 'x']));
    const bodies = [
      ...['x', ' ', 'zz', '@', '1', '\u{1f41d}'].map(
        (text) => new URLSearchParams({ long: many(long / encodeURIComponent(text).length, () => text) }),
      ),
      new URLSearchParams({ contact_last: `${'1'.repeat(long)}x`, _shown: 'v1.'.repeat(long / 10) }),
      rowsOf((at) => `g[${at}][r0]`),
      rowsOf((at) => `g[${at % 50}][h][${at}][x]`),
      rowsOf((at) => `${'g[0]'.repeat(100)}[${at}]`),
      new URLSearchParams({ _more: 'g', 'g[9999][r0]': 'x', 'g[-1][r0]': 'x', '__proto__[x]': 'y' }),
      new URLSearchParams({ _less: 'g[0'.repeat(5_000) }),
    ];
    for (const body of bodies)
      for (const Accept of ['application/json', 'text/html'])
        statuses.push(...(await together(3, () => post(`/f/${KEY}?lang=${'x-'.repeat(2_000)}`, body, { Accept }))));
    return statuses;
  },
};
