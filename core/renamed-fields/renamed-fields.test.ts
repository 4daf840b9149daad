import { freshLine, freshPairing, type Pairing } from '../pairing/index.ts';
import { fieldsOfRecord, type IntakeDocument } from '../intake/index.ts';
import type { Line } from '../mapping/index.ts';
import { blankStep } from '../plans/index.ts';
import { makeEntity as entity, makeField as field } from '../testing/world.ts';
import type { Schema } from '../schema/index.ts';
import { followRename, followRenamePaired, followRenameRecognised, goneFromUnder, renameSteps } from './index.ts';

const move = { system: 'crm', entity: 'People', was: 'phone', is: 'telephone' };
const back = { ...move, was: 'telephone', is: 'phone' };
const schema: Schema = {
  entities: [
    entity('People', [field('name'), field('telephone')]),
    entity('Visits', [field('person_id', { type: 'reference', relation: 'People' }), field('phone'), field('name')]),
  ],
};
const schemas = new Map([['crm', schema]]);
const line = (more: Partial<Line>): Line => ({
  ...{ id: 'l', from: ['tel'], treatments: [], field: 'phone', ifBoth: 'write', blankErases: false, origin: 'set' },
  ...more,
});
const intake: IntakeDocument = {
  ...{ format: 1, name: 'Visit', source: { kind: 'page' } },
  settings: { perMinute: 60, told: [{ name: 'tel', step: 'person', field: 'phone' }] },
  fields: [{ name: 'tel', label: 'Telephone', type: 'phone', required: false }],
  plan: {
    steps: [
      { ...blankStep('person', 'crm', 'People'), recognise: [{ fields: ['name', 'phone'] }], lines: [line({})] },
      {
        ...blankStep('visit', 'crm', 'Visits'),
        lines: [
          line({ id: 'a' }),
          line({ id: 'b', field: 'name', from: [], fromStep: { step: 'person', field: 'phone' } }),
          line({ id: 'c', field: 'person_id', treatments: [{ kind: 'lookup', entity: 'People', by: 'phone' }] }),
        ],
      },
    ],
  },
};

describe('a field that goes by another name', () => {
  it('is followed in lines, keys, lookups and what is told, and nowhere else; and back again', () => {
    const next = followRename(intake, move);
    const [person, visit] = next.plan.steps;
    expect(person!.recognise).toEqual([{ fields: ['name', 'telephone'] }]);
    expect(person!.lines[0]!.field).toBe('telephone');
    expect(next.settings.told![0]!.field).toBe('telephone');
    // Visits have a phone of their own.
    expect(visit!.lines[0]!.field).toBe('phone');
    expect(visit!.lines[1]!.fromStep).toEqual({ step: 'person', field: 'telephone' });
    expect(visit!.lines[2]!.treatments).toEqual([{ kind: 'lookup', entity: 'People', by: 'telephone' }]);
    expect(followRename(next, back)).toEqual(intake);
    expect(followRename(intake, { ...move, system: 'other' })).toEqual(intake);
  });
  it('of records that are converted is what comes in, is compared, and starts it', () => {
    const people = entity('People', [field('name'), field('phone')]);
    const conversion: IntakeDocument = {
      ...intake,
      source: { kind: 'record', system: 'crm', entity: 'People', starts: [{ field: 'phone', test: 'is not blank' }] },
      fields: fieldsOfRecord('crm', people),
      plan: {
        steps: [
          {
            ...blankStep('visit', 'crm', 'Visits'),
            condition: { match: 'all', parts: [{ field: 'phone', test: 'is not blank' }] },
            lines: [line({ from: ['phone'] })],
          },
        ],
      },
    };
    const next = followRename(conversion, move);
    expect(next.source.starts![0]!.field).toBe('telephone');
    expect(next.fields.map(({ name }) => name)).toContain('telephone');
    expect(next.plan.steps[0]!.lines[0]).toMatchObject({ from: ['telephone'], field: 'phone' });
    expect(next.plan.steps[0]!.condition!.parts[0]!.field).toBe('telephone');
    expect(followRename(next, back)).toEqual(conversion);
  });
  it('is followed in what a form reads and begins with', () => {
    const form = {
      ...{ languages: ['en'], title: { en: 'F' }, link: { system: 'crm', entity: 'People', into: 'who' } },
      pages: [
        {
          id: 'p',
          items: [
            { id: 'i', kind: 'text', name: 'x', begins: { with: 'record', value: 'phone' } },
            {
              ...{ id: 'j', kind: 'record', name: 'y' },
              reads: {
                ...{ system: 'crm', entity: 'People', shows: ['name', 'phone'], by: 'phone' },
                where: [{ field: 'phone', test: 'is not blank' }],
                order: [{ field: 'phone' }],
                fills: [{ into: 'x', field: 'phone' }],
              },
            },
          ],
        },
      ],
    } as never;
    const text = JSON.stringify(followRename({ ...intake, form }, move).form);
    expect(text.match(/"telephone"/g)).toHaveLength(6);
    expect(text).not.toContain('"phone"');
  });
  it('of a pairing is followed on its side, through relations, in matches and in what stays', () => {
    const pairing: Pairing = {
      ...freshPairing('P', { system: 'crm', entity: 'Visits' }, { system: 'crm', entity: 'People' }),
      matches: [{ parts: [{ left: ['person_id', 'phone'], right: ['phone'] }] }],
      lines: [freshLine('a', ['phone'], ['phone']), freshLine('b', ['person_id', 'phone'], ['name'])],
      onlyLeft: ['phone'],
      onlyRight: ['phone'],
      alone: {
        left: { what: 'leave' },
        right: { what: 'make', condition: { match: 'all', parts: [{ field: 'phone', test: 'is not blank' }] } },
      },
    };
    const next = followRenamePaired(pairing, move, schemas);
    expect(next.matches[0]!.parts[0]).toEqual({ left: ['person_id', 'telephone'], right: ['telephone'] });
    expect(next.lines.map(({ left, right }) => [left.path, right.path])).toEqual([
      [['phone'], ['telephone']],
      [['person_id', 'telephone'], ['name']],
    ]);
    expect([next.onlyLeft, next.onlyRight]).toEqual([['phone'], ['telephone']]);
    expect(next.alone.right.condition!.parts[0]!.field).toBe('telephone');
  });
  it('is followed in what is worked out over a record, on its own side only', () => {
    const compute = 'record.phone + record.name';
    const condition = { match: 'all' as const, parts: [], expression: 'record.phone != ""' };
    const paired: Pairing = {
      ...freshPairing('P', { system: 'crm', entity: 'Visits' }, { system: 'crm', entity: 'People' }),
      lines: [{ ...freshLine('a', [], []), left: { path: [], compute }, right: { path: [], compute } }],
      alone: { left: { what: 'make', condition }, right: { what: 'make', condition } },
    };
    const next = followRenamePaired(paired, move, schemas);
    expect(next.lines[0]!.left.compute).toBe(compute);
    expect(next.lines[0]!.right.compute).toBe('record.telephone + record.name');
    expect(next.alone.left.condition).toEqual(condition);
    expect(next.alone.right.condition!.expression).toBe('record.telephone != ""');

    const conversion: IntakeDocument = {
      ...intake,
      source: { kind: 'record', system: 'crm', entity: 'People' },
      fields: fieldsOfRecord('crm', entity('People', [field('name'), field('phone')])),
      plan: {
        steps: [
          {
            ...blankStep('visit', 'crm', 'Visits'),
            condition,
            lines: [line({ from: [], treatments: [{ kind: 'compute', expression: compute }] })],
          },
        ],
      },
    };
    const [step] = followRename(conversion, move).plan.steps;
    expect(step!.condition!.expression).toBe('record.telephone != ""');
    expect(step!.lines[0]!.treatments).toEqual([{ kind: 'compute', expression: 'record.telephone + record.name' }]);
    expect(followRename(followRename(conversion, move), back)).toEqual(conversion);
  });
  it('has a step for every place that goes by the old one', () => {
    const recognition = { parts: [{ part: 'phone', field: 'phone' }] } as never;
    expect(followRenameRecognised(recognition, move)).toEqual({ parts: [{ part: 'phone', field: 'telephone' }] });
    const naming = {
      intakes: [
        { id: 'i', document: intake },
        // Its draft is mended; what is live isn't.
        { id: 'j', document: followRename(intake, move), live: intake },
        { id: 'k', document: followRename(intake, move) },
      ],
      pairings: [],
    };
    const steps = renameSteps([move], {
      ...{ naming, schemas },
      recognitions: [{ systemId: 'crm', entity: 'People', document: recognition }],
    });
    expect(steps.map((step) => ('id' in step ? step.id : ''))).toEqual(['People', 'i', 'j']);
  });
});

it('what has gone from under a plan is told in words, and nothing where its system isn’t known', () => {
  expect(goneFromUnder(intake.plan, schemas)).toContain('has no “phone” any more');
  expect(goneFromUnder(followRename(intake, move).plan, schemas)).toBeUndefined();
  expect(goneFromUnder(intake.plan, new Map())).toBeUndefined();
  // What counts as evidence of who is meant is needed as well.
  const plan = { steps: [{ ...blankStep('p', 'crm', 'People'), evidence: true }] };
  const recognitions = new Map([['crm/People', { parts: [{ part: 'phone', field: 'phone' }] } as never]]);
  expect(goneFromUnder(plan, schemas, recognitions)).toContain('has no “phone” any more');
  expect(goneFromUnder(plan, schemas)).toBeUndefined();
});
