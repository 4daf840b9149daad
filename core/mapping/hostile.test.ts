import fc from 'fast-check';
import { awkwardTexts } from '../testing/awkward.ts';
import { makeField, makeLine } from '../testing/world.ts';
import { assign, greedily, type Candidate } from './assign.ts';
import { evaluateLine, suggestLines, type Treatment, type TreatmentKind } from './index.ts';
import { TREATMENT_KINDS } from './treatments/index.ts';

const SETTINGS: Partial<Record<TreatmentKind, Omit<Treatment, 'kind'>>> = {
  case: { case: 'title' },
  replace: { find: '1', with: 'b'.repeat(1000) },
  shorten: { limit: 500_000, unit: 'bytes' },
  options: {
    pairs: [
      { from: 'a', to: 'b' },
      { from: 'c', to: 'd' },
    ],
  },
  lookup: { entity: 'Keepers', by: 'name' },
  compute: { expression: 'form.a + form.a + form.a + form.a' },
  'address part': { take: 'street and number' },
  'name part': { take: 'family' },
};

describe.each(TREATMENT_KINDS.map((kind) => [kind] as const))('the treatment %s', (kind) => {
  const line = makeLine('a', 'note', { treatments: [{ kind, ...SETTINGS[kind] }] });
  const field = makeField('note', { label: 'Note' });
  it.each(awkwardTexts(50_000))('comes to an end with %s, in bounded memory and words', (_what, text) => {
    const fields = [{ name: 'a' }];
    const value = evaluateLine(line, { a: text }, field, { fields });
    expect((value.problem ?? '').length).toBeLessThan(500);
    expect(evaluateLine(line, { a: text.repeat(20) }, field, { fields }).problem).toContain('more than the');
    for (const loss of value.losses) expect(loss.length).toBeLessThan(500);
  });
  it('takes a thousand values under one name', () => {
    const value = evaluateLine(line, { a: Array.from({ length: 1000 }, (_, at) => `v${at}`) }, field, {
      fields: [{ name: 'a', multiple: true }],
    });
    expect((value.problem ?? '').length).toBeLessThan(500);
  });
});

describe('assigning', () => {
  const worth = (chosen: readonly Candidate[]): number => chosen.reduce((sum, { confidence }) => sum + confidence, 0);
  const candidates = fc.uniqueArray(
    fc.record({ row: fc.nat(7), column: fc.nat(7), confidence: fc.integer({ min: 1, max: 100 }).map((n) => n / 100) }),
    { selector: ({ row, column }) => `${row},${column}`, maxLength: 40 },
  );
  const isOneToOne = (chosen: readonly Candidate[]): boolean =>
    new Set(chosen.map(({ row }) => row)).size === chosen.length &&
    new Set(chosen.map(({ column }) => column)).size === chosen.length;

  it('never takes a row or a column twice, and greedily never less than half of the best', () => {
    fc.assert(
      fc.property(candidates, (all) => {
        const [best, greedy] = [assign(all), greedily(all)];
        expect(isOneToOne(best)).toBe(true);
        expect(isOneToOne(greedy)).toBe(true);
        expect(worth(greedy)).toBeGreaterThanOrEqual(worth(best) / 2 - 1e-9);
      }),
    );
  });
  it('settles a group that no table can hold', () => {
    const all = Array.from({ length: 700 }, (_, row) =>
      Array.from({ length: 700 }, (_, column) => ({ row, column, confidence: row === column ? 0.99 : 0.6 })),
    ).flat();
    expect(assign(all).filter(({ row, column }) => row === column)).toHaveLength(700);
  });
});

it('suggests for five hundred by five hundred fields that are all alike', () => {
  const fields = Array.from({ length: 500 }, (_, at) => ({
    name: `email_${at}`,
    label: 'Your e-mail address',
    type: 'email',
  }));
  expect(suggestLines(fields, [{ name: 'People', label: 'Person', fields }]).length).toBeGreaterThan(400);
});

it('suggests for fields called by the strangest texts', () => {
  const fields = awkwardTexts(2_000).map(([, text], at) => ({ name: `${at}${text}`, label: text, type: 'text' }));
  expect(Array.isArray(suggestLines(fields, [{ name: 'People', label: 'Person', fields }]))).toBe(true);
});
