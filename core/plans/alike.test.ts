import { bestOf, causeSignature, type Course, type Refusal, type StepReport } from './index.ts';

const refused = (refusal: Partial<Refusal>, more: Partial<StepReport> = {}): Course => ({
  state: 'refused',
  steps: [
    {
      step: 's',
      system: 'crm',
      entity: 'People',
      outcome: 'refused',
      changes: [],
      refusal: { kind: 'values', words: '', fields: [], ...refusal },
      ...more,
    },
  ],
});

describe('what submissions came to grief over', () => {
  it('is the same for other values in the same fields, in whatever order they are named', () => {
    const one = refused({
      fields: [
        { field: 'phone', words: '“12” is too short' },
        { field: 'city', words: '' },
      ],
    });
    const other = refused({
      fields: [
        { field: 'city', words: '' },
        { field: 'phone', words: '“7” is too short' },
      ],
    });
    expect(causeSignature(one)).toBe(causeSignature(other));
  });

  it('tells steps, kinds, fields and words without values apart', () => {
    const all = [
      refused({ fields: [{ field: 'phone', words: '' }] }),
      refused({ fields: [{ field: 'email', words: '' }] }),
      refused({ kind: 'rights', fields: [{ field: 'phone', words: '' }] }),
      refused({ fields: [{ field: 'phone', words: '' }] }, { step: 't' }),
      refused({ words: 'Closed for the winter' }),
    ];
    expect(new Set(all.map(causeSignature)).size).toBe(all.length);
    expect(causeSignature(refused({ words: 'No “A”' }))).toBe(causeSignature(refused({ words: 'No “B”' })));
    expect(causeSignature({ state: 'applied', steps: [] })).toBeUndefined();
  });
});

describe('the record that the evidence speaks for most', () => {
  const weighed = (...each: [record: string, weight: number, verdict?: 'same' | 'unsure' | 'different'][]) => ({
    weighed: each.map(([record, weight, verdict = 'unsure']) => ({ record, weight, verdict, evidence: [] })),
  });

  it('is the heaviest, in whatever order they stand', () => {
    expect(bestOf(weighed(['a', 3], ['b', 5]))).toBe('b');
  });

  it('is none where two weigh the same, nothing speaks for the first, or nothing was weighed', () => {
    expect(bestOf(weighed(['a', 5], ['b', 5]))).toBeUndefined();
    expect(bestOf(weighed(['a', -4, 'different']))).toBeUndefined();
    expect(bestOf({})).toBeUndefined();
  });
});
