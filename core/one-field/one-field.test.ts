import { check } from '../checks/index.ts';
import { optionsFrom } from '../definitions/index.ts';
import { fieldsOfRecord, type IntakeDocument } from '../intake/index.ts';
import { freshLine, freshPairing, type Pairing } from '../pairing/index.ts';
import { blankStep } from '../plans/index.ts';
import { joinedValue } from '../schema-changes/index.ts';
import type { Entity, Field, Schema } from '../schema/index.ts';
import {
  assumedValue,
  carriedAs,
  fieldMade,
  givenByLine,
  givenByPair,
  membersOf,
  notCarriedBy,
  notPairedBy,
  planField,
  recognised,
  stepsOfPlan,
  withCarried,
  withoutCarried,
  withoutPaired,
  withPaired,
  type Around,
  type OneField,
} from './index.ts';

const field = (name: string, more: Partial<Field> = {}): Field => ({
  ...{ name, label: name, type: 'text', required: false, unique: false, computed: false, immutable: false },
  ...{ rights: 'read and write' },
  ...more,
});
const entity = (name: string, label: string, fields: Field[]): Entity => ({
  ...{ name, label, key: 'id', alternateKeys: [], fields: [field('id', { type: 'id' }), ...fields] },
  rights: { read: true, create: true, update: true, delete: true },
});
const options = (...labels: string[]) => labels.map((label) => ({ value: label, label }));
const HOUSING = options('Frame hive', 'Top-bar', 'Skep');
const crm: Schema = {
  entities: [
    entity('enquiries', 'Enquiry', [field('subject')]),
    entity('people', 'Person', [field('name'), field('email', { label: 'E-mail', type: 'email' })]),
    entity('contracts', 'Contract', [
      field('hive_housing', { label: 'Hive housing', type: 'options', options: options('Frame hive', 'Top bar') }),
      field('number'),
    ]),
  ],
};
const letters: Schema = { entities: [entity('subscribers', 'Subscriber', [field('email', { type: 'email' })])] };
const conversion: IntakeDocument = {
  ...{ format: 1, name: 'Enquiry becomes a customer', settings: { perMinute: 60 } },
  source: { kind: 'record', system: 'crm', entity: 'enquiries' },
  fields: fieldsOfRecord('crm', crm.entities[0]!),
  plan: { steps: [blankStep('person', 'crm', 'people'), blankStep('contract', 'crm', 'contracts')] },
};
const hosted: IntakeDocument = {
  ...{ format: 1, name: 'Renewal', settings: { perMinute: 60 }, source: { kind: 'ours' }, fields: [] },
  form: { languages: ['en'], title: { en: 'Renewal' }, pages: [{ id: 'p', items: [] }] } as never,
  plan: { steps: [blankStep('person', 'crm', 'people'), blankStep('contract', 'crm', 'contracts')] },
};
const page: IntakeDocument = {
  ...{ format: 1, name: 'Page', settings: { perMinute: 60 }, source: { kind: 'page' } },
  fields: [
    { name: 'housing', label: 'Your housing', type: 'options', required: false, options: HOUSING, multiple: true },
  ],
  plan: { steps: [blankStep('person', 'crm', 'people')] },
};
const pairing: Pairing = {
  ...freshPairing('Letters', { system: 'letters', entity: 'subscribers' }, { system: 'crm', entity: 'people' }),
  lines: [{ ...freshLine('e', ['email'], ['email']), decides: 'right' }],
};
let made = 0;
const around = (more: Partial<Around> = {}): Around => ({
  systems: new Map([
    ['crm', { schema: crm, make: (_, wanted) => fieldMade(wanted) }],
    [
      'letters',
      { schema: letters, make: (_, wanted) => (wanted.type === 'duration' ? 'no kind for it' : fieldMade(wanted)) },
    ],
  ]),
  standing: {
    intakes: [
      { id: 'c', document: conversion },
      { id: 'h', document: hosted },
      { id: 'p', document: page },
    ],
    pairings: [{ id: 'q', document: pairing }],
  },
  newId: () => `n${(made += 1)}`,
  ...more,
});
const wanted = (more: Partial<OneField> = {}): OneField => ({
  field: { label: 'Housing', type: 'options', options: HOUSING },
  places: [
    { system: 'crm', entity: 'enquiries' },
    { system: 'crm', entity: 'people' },
    { system: 'crm', entity: 'contracts' },
    { system: 'letters', entity: 'subscribers' },
  ],
  lines: [],
  ...more,
});
const NOTHING = { intakes: [], pairings: [] };

describe('a field in several places', () => {
  it('is recognised under another name by its options and words, and not where little speaks for it', () => {
    const [, people, contracts] = crm.entities;
    expect(recognised(wanted().field, contracts!)?.field.name).toBe('hive_housing');
    expect(recognised(wanted().field, people!)).toBeUndefined();
    // A list of fifty holds the few that are there.
    const many = {
      ...wanted().field,
      options: [...HOUSING, ...options(...Array.from({ length: 47 }, (_, at) => `K ${at}`))],
    };
    expect(recognised(many, contracts!)?.field.name).toBe('hive_housing');
    expect(recognised({ label: 'E-mail', type: 'text' }, people!)?.field.name).toBe('email');
  });
  it('is made under a free name, and not where the system has nothing for it, with the reason', () => {
    const { places } = planField(wanted({ field: { label: 'Name', type: 'duration' } }), around());
    const at = (name: string) => places.find((each) => each.entity === name);
    expect(at('people')!.made!.name).toBe('name_2');
    expect(at('subscribers')!.cannot).toBe('no kind for it');
  });
  it('is made by hand, last, where nothing can be made from here; lines go by what it is called there', () => {
    const systems = new Map([...around().systems, ['letters', { schema: letters, make: undefined }] as const]);
    const plan = planField(wanted(), around({ systems }));
    expect(plan.places.find((each) => each.entity === 'subscribers')).toMatchObject({
      byHand: true,
      made: { name: 'housing' },
    });
    const fields = stepsOfPlan(plan, NOTHING).flatMap((step) => (step.kind === 'field' ? [step.entity] : []));
    expect(fields.at(-1)).toBe('subscribers');
    const lines = plan.lines.flatMap(({ id, carried }) => (id === 'q' && carried ? [carried] : []));
    const made = [{ system: 'letters', entity: 'subscribers', planned: 'housing', made: 'Housing_x' }];
    const [line] = carriedAs({ pairing }, lines, made);
    expect(line).toMatchObject({ line: { left: { path: ['Housing_x'] }, right: { path: ['housing'] } } });
    const own = plan.lines.flatMap(({ id, carried }) => (id === 'c' && carried ? [carried] : []));
    const otherwise = [{ system: 'crm', entity: 'enquiries', planned: 'housing', made: 'hs' }];
    expect(carriedAs({ document: conversion }, own, otherwise)[0]).toMatchObject({
      ...{ takes: { name: 'hs' }, line: { from: ['hs'], field: 'housing' } },
    });
  });
  it('is another where somebody says so', () => {
    const { places } = planField(wanted({ places: [{ system: 'crm', entity: 'contracts', field: '' }] }), around());
    expect(places.find((each) => each.entity === 'contracts')).toMatchObject({ made: { name: 'housing' } });
    const chosen = planField(wanted({ places: [{ system: 'crm', entity: 'contracts', field: 'gone' }] }), around());
    expect(chosen.places.find((each) => each.entity === 'contracts')!.cannot).toMatch(/can’t be seen/);
  });
  it('left as it is keeps its options, and nothing is joined', () => {
    const asIs = wanted({ places: [{ system: 'crm', entity: 'contracts', asIs: true }] });
    expect(stepsOfPlan(planField(asIs, around()), NOTHING)).toEqual([]);
    const mended = wanted({ places: [{ system: 'crm', entity: 'contracts' }] });
    expect(stepsOfPlan(planField(mended, around()), NOTHING).map(({ kind }) => kind)).toEqual(['options', 'join']);
  });
});

describe('what carries it on', () => {
  const plan = planField(wanted(), around());
  const by = (name: string, to: string) => plan.lines.find((line) => line.name === name && line.to.entity === to)!;
  it('runs through conversions, pages that ask for it, forms of ours that could, and pairings', () => {
    expect(by(conversion.name, 'Person')).toMatchObject({
      taken: true,
      from: { entity: 'Enquiry' },
      rule: 'add to list',
    });
    expect(by('Page', 'Person')).toMatchObject({
      taken: true,
      from: { label: 'Your housing' },
      carried: { kind: 'line' },
    });
    expect(by('Renewal', 'Person')).toMatchObject({ taken: false, carried: { kind: 'question' } });
    expect(by('Letters', 'Person')).toMatchObject({ taken: true, rule: 'right', from: { entity: 'Subscriber' } });
    const others = planField(wanted({ field: { ...wanted().field, label: 'Kind of roof' } }), around());
    expect(others.lines.find(({ name }) => name === 'Page')).toMatchObject({ cannot: 'no question for it' });
  });
  it('is made in an order that never leaves a line without its field', () => {
    const kinds = stepsOfPlan(plan, NOTHING).map((step) => step.kind);
    expect(kinds).toEqual(['field', 'field', 'field', 'options', 'join', 'carry', 'carry', 'carry']);
    expect(membersOf(plan).map(({ field: name }) => name)).toEqual(['housing', 'housing', 'hive_housing', 'housing']);
  });
  it('gives what a record holds, and says what it can’t give', () => {
    const { carried } = by(conversion.name, 'Contract');
    expect(givenByLine(carried!, ['Top-bar'], conversion, plan.schemas)).toEqual({ value: ['Top-bar'] });
    expect(givenByLine(carried!, ['Straw'], conversion, plan.schemas)).toMatchObject({
      problem: expect.stringContaining('Straw'),
    });
    expect(givenByPair(by('Letters', 'Person').carried!, ['Skep'], pairing, plan.schemas)).toEqual({ value: ['Skep'] });
    expect([0, 1, 4].map((at) => assumedValue(wanted().field, at))).toEqual([['Frame hive'], ['Top-bar'], ['Top-bar']]);
    expect(assumedValue({ type: 'text' })).toBeUndefined();
  });
  it('goes into a document once, and out of it again without a trace', () => {
    const lines = plan.lines.flatMap(({ id, carried }) => (id === 'c' && carried ? [carried] : []));
    const with_ = withCarried(conversion, lines, plan.schemas);
    expect(with_.fields.at(-1)).toMatchObject({ name: 'housing', type: 'options' });
    expect(with_.plan.steps.map((step) => step.lines.map((line) => line.field))).toEqual([
      ['housing'],
      ['hive_housing'],
    ]);
    expect(withCarried(with_, lines, plan.schemas)).toEqual(with_);
    expect(withoutCarried(with_, lines)).toEqual(conversion);
    const paired = plan.lines.flatMap(({ id, carried }) => (id === 'q' && carried ? [carried] : []));
    expect(withPaired(withPaired(pairing, paired), paired).lines).toHaveLength(2);
    expect(withoutPaired(withPaired(pairing, paired), paired)).toEqual(pairing);
  });
  it('asks once in a form of ours, and fills both records by it', () => {
    const asking = planField(
      wanted({
        lines: [
          { key: 'h person', taken: true },
          { key: 'h contract', taken: true },
        ],
      }),
      around(),
    );
    const lines = asking.lines.flatMap(({ id, carried, taken }) => (id === 'h' && taken && carried ? [carried] : []));
    expect(lines).toHaveLength(2);
    const document = withCarried(hosted, lines, asking.schemas);
    expect(document.form!.pages[0]!.items).toHaveLength(1);
    expect(document.plan.steps.map((step) => step.lines.map((line) => [line.field, line.from]))).toEqual([
      [['housing', ['housing']]],
      [['hive_housing', ['housing']]],
    ]);
    expect(withoutCarried(document, lines).form!.pages[0]!.items).toEqual([]);
    expect(withoutCarried(document, lines).plan).toEqual(hosted.plan);
  });
});

describe('a place that was left out', () => {
  const plan = planField(wanted(), around());
  const families = [{ label: 'Housing', members: membersOf(plan) }];
  const checked = (document: IntakeDocument) =>
    check({
      ...{ fields: document.fields, plan: document.plan, schemas: plan.schemas, samples: [], facts: { families } },
      intake: { source: document.source, settings: document.settings },
    }).filter(({ sentence }) => sentence.includes('Housing'));
  it('is named by a check, with the line that mends it', () => {
    const found = checked(conversion);
    expect(found.map(({ id, severity, place }) => [id, severity, place.step])).toEqual([
      ['K21', 'look', 'person'],
      ['K21', 'look', 'contract'],
    ]);
    const lines = found.flatMap(({ mend }) => (mend?.kind === 'carry' ? mend.lines : []));
    expect(checked(withCarried(conversion, lines, plan.schemas))).toEqual([]);
  });
  it('is not named where nothing is there to carry, or where it was never one field', () => {
    expect(checked(page)).toEqual([]);
    expect(notCarriedBy(conversion, [], plan.schemas)).toEqual([]);
    expect(notCarriedBy(conversion, families, new Map([['crm', crm]]))).toEqual([]);
  });
  it('of a pairing is named until somebody says that it stays on its side', () => {
    expect(notPairedBy(pairing, families, plan.schemas)).toHaveLength(1);
    expect(notPairedBy({ ...pairing, onlyLeft: ['housing'] }, families, plan.schemas)).toEqual([]);
    const lines = plan.lines.flatMap(({ id, carried }) => (id === 'q' && carried ? [carried] : []));
    expect(notPairedBy(withPaired(pairing, lines), families, plan.schemas)).toEqual([]);
  });
});

describe('options that are pasted', () => {
  it.each([
    ['Frame hive\r\nTop-bar\n\n  Skep ', ['Frame hive', 'Top-bar', 'Skep']],
    ['a; b;c', ['a', 'b', 'c']],
    ['a\tb', ['a', 'b']],
    ['one, two', ['one', 'two']],
    // As a spreadsheet copies cells that hold marks of its own.
    ['"say ""hm"""\n"a, b"', ['say "hm"', 'a, b']],
    ['only one', ['only one']],
    ['', []],
  ])('%j', (text, expected) => {
    expect(optionsFrom(text).options.map(({ label }) => label)).toEqual(expected);
  });
  it('count once, and no more than a field may have, none of them too long', () => {
    expect(optionsFrom('a\nb\na').twice).toEqual(['a']);
    expect(optionsFrom(`a\n${'x'.repeat(300)}`).tooLong).toBe(1);
    const many = optionsFrom(Array.from({ length: 12_000 }, (_, at) => `o${at}`).join('\n'));
    expect([many.options.length, many.more]).toEqual([10_000, 2_000]);
  });
  it('joined, a value is held once', () => {
    const [from, into] = options('a', 'b');
    expect(joinedValue(['a', 'b', 'c'], from!, into!)).toEqual(['b', 'c']);
    expect(joinedValue('a', from!, into!)).toBe('b');
    expect(joinedValue('c', from!, into!)).toBe('c');
  });
});
