import { failureSignature, type Course, type Refusal, type StepReport } from './index.ts';

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
    expect(failureSignature(one)).toBe(failureSignature(other));
  });

  it('tells steps, kinds, fields and words without values apart', () => {
    const all = [
      refused({ fields: [{ field: 'phone', words: '' }] }),
      refused({ fields: [{ field: 'email', words: '' }] }),
      refused({ kind: 'rights', fields: [{ field: 'phone', words: '' }] }),
      refused({ fields: [{ field: 'phone', words: '' }] }, { step: 't' }),
      refused({ words: 'Closed for the winter' }),
    ];
    expect(new Set(all.map(failureSignature)).size).toBe(all.length);
    expect(failureSignature(refused({ words: 'No “A”' }))).toBe(failureSignature(refused({ words: 'No “B”' })));
    expect(failureSignature({ state: 'applied', steps: [] })).toBeUndefined();
  });
});
