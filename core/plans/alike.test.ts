import { causeSignature, type Course, type Refusal, type StepReport } from './index.ts';

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
