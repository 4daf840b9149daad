import type { IntakeDocument } from '../intake/index.ts';
import type { Line, Treatment } from '../mapping/index.ts';
import { blankStep } from '../plans/index.ts';
import { takenOtherwiseOver, type Field, type Schema } from '../schema/index.ts';
import { makeEntity as entity, makeField as field } from '../testing/world.ts';
import { fitSteps, unfitParts, type Around } from './index.ts';

const readingOf = (...fields: Field[]): Schema => ({ entities: [entity('People', fields)] });
const line = (treatments: Treatment[], more: Partial<Line> = {}): Line => ({
  ...{ id: 'l', from: ['said'], treatments, field: 'x', ifBoth: 'write', blankErases: false, origin: 'set' },
  ...more,
});
const intake = (lines: Line[], name = 'Visit'): IntakeDocument => ({
  ...{ format: 1, name, source: { kind: 'page' }, settings: { perMinute: 60, locale: 'de' } },
  fields: [
    { name: 'said', label: 'Said', type: 'text', required: false },
    {
      ...{ name: 'chosen', label: 'Chosen', type: 'option', required: false },
      options: [{ value: 'Ja', label: 'Honey' }],
    },
  ],
  plan: { steps: [{ ...blankStep('person', 'crm', 'People'), lines }] },
});
/** What lines are made of a field that was one and is another, under the newest of two readings. */
const fitted = (was: Partial<Field>, is: Partial<Field>, lines: Line[], live?: Line[]) => {
  const readings = [readingOf(field('x', is)), readingOf(field('x', was))];
  const around: Around = {
    naming: {
      intakes: [{ id: 'i', document: intake(lines), ...(live ? { live: intake(live) } : {}) }],
      pairings: [],
    },
    ...{ recognitions: [], schemas: new Map([['crm', readings[0]!]]) },
  };
  const changed = takenOtherwiseOver(readings);
  const steps = fitSteps('crm', changed, around);
  return {
    parts: unfitParts('crm', changed, around),
    lines: steps.flatMap((step) => (step.kind === 'fit' ? step.lines : [])),
  };
};

it('a line treats what it brings as a field of another kind takes it', () => {
  const { parts, lines } = fitted({}, { type: 'number' }, [line([{ kind: 'trim' }])]);
  expect(lines).toEqual([
    { step: 'person', line: 'l', was: [{ kind: 'trim' }], is: [{ kind: 'number', decimal: 'comma' }] },
  ]);
  expect(parts).toEqual([
    {
      ...{ entity: 'People', field: 'x', called: 'x of People', what: 'was text, is number', places: ['Visit'] },
      treated: [expect.stringContaining('number')],
    },
  ]);
});

it('options are paired where a text has become a choice', () => {
  const options = [
    { value: 'honey', label: 'Honey' },
    { value: 'wax', label: 'Wax' },
  ];
  const { lines } = fitted({}, { type: 'option', options }, [line([{ kind: 'trim' }], { from: ['chosen'] })]);
  expect(lines[0]!.is).toEqual([{ kind: 'options', pairs: [{ from: 'Ja', to: 'honey' }] }]);
});

it('what somebody set besides stays; what they work out, take from elsewhere, or have mended already, is left alone', () => {
  const set: Treatment[] = [{ kind: 'default', value: '3' }, { kind: 'trim' }];
  expect(fitted({}, { type: 'integer' }, [line(set)]).lines[0]!.is).toEqual([
    { kind: 'default', value: '3' },
    { kind: 'number', decimal: 'comma' },
  ]);
  for (const untouched of [
    line([{ kind: 'compute', expression: 'form.said' }]),
    line([], { from: [], constant: '3' }),
    line([{ kind: 'number', decimal: 'point' }]),
    line([{ kind: 'trim' }], { field: 'other' }),
    line([{ kind: 'trim' }], { origin: 'suggested' }),
  ])
    expect(fitted({}, { type: 'integer' }, [untouched])).toEqual({ parts: [], lines: [] });
});

it('is cut where a field takes less, unless it is cut as short already', () => {
  const shorter = (treatments: Treatment[]) =>
    fitted({ maxLength: 80 }, { maxLength: 40 }, [line(treatments)]).lines.map(({ is }) => is);
  expect(shorter([{ kind: 'trim' }])).toEqual([[{ kind: 'trim' }, { kind: 'shorten', limit: 40, unit: 'characters' }]]);
  expect(shorter([{ kind: 'shorten', limit: 60, unit: 'characters' }])).toEqual([
    [{ kind: 'shorten', limit: 40, unit: 'characters' }],
  ]);
  expect(shorter([{ kind: 'shorten', limit: 30, unit: 'characters' }])).toEqual([]);
  expect(fitted({}, { maxBytes: 40 }, [line([])]).lines[0]!.is).toEqual([
    { kind: 'shorten', limit: 40, unit: 'bytes' },
  ]);
  expect(fitted({ maxLength: 40 }, { maxLength: 80 }, [line([])])).toEqual({ parts: [], lines: [] });
});

it('covers what is live and what is planned, each line once', () => {
  const both = fitted({}, { type: 'integer' }, [line([{ kind: 'trim' }])], [line([{ kind: 'trim' }])]);
  expect(both.lines).toHaveLength(1);
  const apart = fitted(
    {},
    { type: 'integer' },
    [line([{ kind: 'trim' }])],
    [line([{ kind: 'case', to: 'upper' } as never])],
  );
  expect(apart.lines).toHaveLength(2);
});
