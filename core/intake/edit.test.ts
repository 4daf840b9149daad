import { makeLine } from '../testing/world.ts';
import { carriedRows, unusedFields } from '../plans/index.ts';
import { changeSettings, INTAKE_FORMAT, takeInFields, type IntakeDocument } from './index.ts';

const document = (): IntakeDocument => ({
  format: INTAKE_FORMAT,
  name: 'Enquiry',
  source: { kind: 'program' },
  settings: { perMinute: 60, locale: 'de' },
  fields: [
    { name: 'tel', label: 'Phone', type: 'phone', required: false },
    { name: 'price', label: 'Price', type: 'text', required: false },
    { name: 'count', label: 'Count', type: 'number', required: false },
    { name: 'day', label: 'Day', type: 'text', required: false },
    ...[0, 1, 2].map((row) => ({
      ...{ name: `who[${row}][first]`, label: 'First name', type: 'text' as const, required: false, group: 'who' },
    })),
    ...[0, 1].map((row) => ({
      ...{ name: `who[${row}][age]`, label: 'Age', type: 'text' as const, required: false, group: 'who' },
    })),
    { name: 'trace', label: 'Trace', type: 'text', required: false, hidden: true },
  ],
  plan: {
    steps: [
      {
        ...{ id: 's', system: 'crm', entity: 'People', recognise: [], repeat: 'who' },
        ...{ whenNone: 'create', whenOne: 'update', whenSeveral: 'ask' },
        lines: [
          makeLine(['tel'], 'phone', { treatments: [{ kind: 'phone' }] }),
          makeLine(['tel'], 'fax', { treatments: [{ kind: 'phone', country: 'PL' }] }),
          makeLine(['price'], 'price', { treatments: [{ kind: 'number', decimal: 'comma' }] }),
          makeLine(['count'], 'count', { treatments: [{ kind: 'number', decimal: 'point' }] }),
          makeLine(['day'], 'day', { treatments: [{ kind: 'date', order: 'day first' }] }),
          makeLine(['who[0][first]'], 'first'),
        ],
      },
    ],
  },
});
const treatments = ({ plan }: IntakeDocument) => plan.steps[0]!.lines.flatMap((line) => line.treatments);

describe('how visitors dial and write', () => {
  it('reaches lines that went by the former setting, and no others', () => {
    const before = document();
    const dialled = changeSettings(before, { country: 'DE' });
    expect(treatments(dialled).slice(0, 2)).toEqual([
      { kind: 'phone', country: 'DE' },
      // Somebody chose it.
      { kind: 'phone', country: 'PL' },
    ]);
    const english = changeSettings(dialled, { locale: 'en-US' });
    expect(treatments(english).slice(2, 5)).toEqual([
      { kind: 'number', decimal: 'point' },
      // A browser sends number inputs with a point, whatever the language.
      { kind: 'number', decimal: 'point' },
      { kind: 'date', order: 'month first' },
    ]);
    expect(treatments(changeSettings(english, { locale: 'de' })).slice(3, 4)).toEqual([
      { kind: 'number', decimal: 'point' },
    ]);
    expect(before).toEqual(document());
  });
  it('is taken away again from the lines, and other settings leave them alone', () => {
    const dialled = changeSettings(document(), { country: 'DE' });
    expect(treatments(changeSettings(dialled, { country: undefined }))[0]).toEqual({ kind: 'phone' });
    const other = changeSettings(dialled, { perMinute: 5 });
    expect(other.plan).toBe(dialled.plan);
  });
});

describe('what of a form is used', () => {
  it('later rows go with the first one’s lines, as far as those read the same of it', () => {
    expect([...carriedRows(document())]).toEqual(['who[1][first]', 'who[2][first]']);
    const once = document();
    delete once.plan.steps[0]!.repeat;
    expect([...carriedRows(once)]).toEqual([]);
  });
  it('what visitors fill in and nothing reads is named once, hidden fields aside', () => {
    expect(unusedFields(document()).map(({ name }) => name)).toEqual(['who[0][age]']);
  });
});

it('a field of the form under another name is followed in lines, conditions, rows and what is worked out', () => {
  const before = document();
  const [step] = before.plan.steps;
  step!.condition = {
    ...{ match: 'all', parts: [{ field: 'tel', test: 'is not blank' }] },
    expression: 'form.tel != "tel"',
  };
  step!.lines[2]!.treatments.push({ kind: 'compute', expression: 'form["tel"] + value' });
  const fields = [{ name: 'phone', label: 'Phone', type: 'phone' as const, required: true }];
  const after = takeInFields(before, fields, { tel: 'phone', who: 'people' });
  const [next] = after.plan.steps;
  expect(next!.lines[0]!.from).toEqual(['phone']);
  expect(next!.condition).toEqual({
    ...{ match: 'all', parts: [{ field: 'phone', test: 'is not blank' }] },
    expression: 'form.phone != "tel"',
  });
  expect(next!.lines[2]!.treatments.at(-1)).toEqual({ kind: 'compute', expression: 'form.phone + value' });
  expect(next!.repeat).toBe('people');
  expect(after.fields.filter(({ name }) => name === 'tel' || name === 'phone')).toEqual(fields);
});
