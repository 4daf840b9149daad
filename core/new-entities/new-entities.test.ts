import { evidenceOf, type ColumnEvidence } from '../forms/index.ts';
import { suggestRecognition } from '../recognition/index.ts';
import type { Schema } from '../schema/index.ts';
import { makeEntity, makeField, makeFormField } from '../testing/world.ts';
import {
  asType,
  becomesInWords,
  definitionOfSheet,
  intakeOfSheet,
  lengthFor,
  proposeSheet,
  saidByRows,
  usualRoles,
  type SheetColumn,
} from './index.ts';

const many = (count: number, value: (at: number) => string): string[] =>
  Array.from({ length: count }, (_, at) => value(at));
const NOTHING: Schema = { entities: [] };
const seen = (columns: Record<string, string[]>) =>
  Object.entries(columns).map(([column, values]) => ({ column, evidence: evidenceOf(values) }));
const propose = (columns: Record<string, string[]>, file = 'cards.csv') => proposeSheet(file, seen(columns), NOTHING);
const words = (column: SheetColumn, evidence: ColumnEvidence): string[] =>
  saidByRows(column, evidence).map((each) => `${each.look ? '! ' : ''}${each.words}`);

describe('a sheet as an entity', () => {
  it('is called after its file, under a name that is free', () => {
    expect(propose({ a: ['1', '2'] }, 'registration_cards-2026.final.xlsx')).toMatchObject({
      ...{ label: 'Registration cards 2026 final', name: 'RegistrationCards2026Final' },
    });
    const known = { entities: [makeEntity('Cards', [], { label: 'Card' })] };
    expect(proposeSheet('cards.csv', seen({ a: ['x'] }), known)).toMatchObject({ label: 'Card', name: 'Card2' });
    expect(propose({ a: ['x'] }, '🐝.csv').name).toMatch(/^[A-Z][A-Za-z0-9]*$/);
  });
  it('gives each column the kind that its rows prove, with room, and leaves out what is blank in all', () => {
    const { columns, namedBy } = propose({
      'Card no.': many(30, (at) => `HB-${100 + at}`),
      State: many(30, (at) => ['full', 'Full ', 'empty'][at % 3]!),
      Paid: many(30, (at) => `${at},50 €`),
      Kept: many(30, (at) => ['Linde; Raps', 'Raps', 'Linde'][at % 3]!),
      Born: many(30, (at) => `${(at % 28) + 1}.4.2020`),
      Office: many(30, () => ''),
    });
    expect(columns.map(({ field }) => field?.type)).toEqual(['text', 'option', 'number', 'options', 'date', undefined]);
    expect(columns[0]!.field).toMatchObject({ name: 'card_no', unique: true, required: true, maxLength: 12 });
    expect(namedBy).toBe('card_no');
    expect(columns[1]).toMatchObject({
      field: { options: [{ label: 'empty' }, { label: 'full' }] },
      spellings: expect.arrayContaining([{ from: 'full', to: expect.any(String) }]),
    });
    expect(new Set(columns[1]!.spellings!.map(({ to }) => to)).size).toBe(2);
    expect(columns[2]).toMatchObject({ money: true, mark: 'comma', field: { scale: 2 } });
    expect(columns[3]!.by).toBe(';');
    expect(columns[4]!.order).toBe('day first');
    expect([6, 7, 300, 90_000].map(lengthFor)).toEqual([12, 12, 500, 100_000]);
  });
  it('takes no text that somebody wrote for what tells records apart', () => {
    const notes = propose({
      Notes: many(20, (at) => `The ${at}th note, which says a good deal more than a number would say`),
    });
    expect(notes.columns[0]!.field).not.toHaveProperty('unique');
    expect(propose({ One: ['x'] }).columns[0]!.field).not.toHaveProperty('unique');
  });
  it('is a definition of the columns that are taken', () => {
    const sheet = propose({ a: ['x', 'y'], b: ['', ''] });
    expect(definitionOfSheet(sheet).entities[0]!.fields.map(({ name }) => name)).toEqual(['a']);
  });
  it('is read and written by whoever reads and writes most of what is there', () => {
    const of = (reads: string[], writes: string[]) => ({ ...makeEntity('E', []), roles: { reads, writes } });
    const entities = [of(['a', 'b', 'c'], ['a']), of(['a', 'b'], ['a', 'b']), of(['a'], ['a'])];
    expect(usualRoles({ entities })).toEqual({ reads: ['a', 'b'], writes: ['a'] });
    expect(usualRoles(NOTHING)).toEqual({});
  });
});

describe('what the rows say', () => {
  const column = (type: Parameters<typeof asType>[2], values: string[]): [SheetColumn, ColumnEvidence] => {
    const evidence = evidenceOf(values);
    return [asType('c', { name: 'c', label: 'C' }, type, evidence), evidence];
  };
  it('names what needs a look first', () => {
    const dates = [...many(30, (at) => `${(at % 12) + 1}/${(at % 12) + 1}/2020`), 'n/a', 'spring'];
    expect(words(...column('date', dates))).toEqual([
      '! 1 can’t be read: “spring”',
      '! 1 fill it with n/a: left blank',
      '! none proves which comes first; day first is taken',
      '2020-01-01 to 2020-12-12',
    ]);
    expect(words(...column('integer', ['43558', '43921']))[0]).toBe('! may be days counted as a workbook does');
    expect(words(...column('date', ['13/2/2021', '2/13/2021']))).toContain('! 1 can only be the other way round');
  });
  it('says what it becomes in a few words', () => {
    expect(becomesInWords({ column: 'c' })).toBe('left out');
    expect(becomesInWords(column('date', ['13.4.2020'])[0])).toBe('date, day first');
    expect(becomesInWords(column('text', ['abc'])[0])).toBe('text, up to 8');
    expect(
      becomesInWords({ ...column('reference', ['x'])[0], reference: { by: 'name', entity: 'People' } }, 'Person'),
    ).toBe('→ Person by name');
  });
});

describe('how rows come in', () => {
  const people = makeEntity(
    'People',
    [
      makeField('first_name', { label: 'First name' }),
      makeField('last_name', { label: 'Last name' }),
      makeField('email', { label: 'E-mail', type: 'email' }),
      makeField('number', { label: 'Number', unique: true }),
    ],
    { label: 'Person' },
  );
  const cards = makeEntity('Cards', [
    makeField('no', { label: 'No', unique: true }),
    makeField('keeper_id', { label: 'Keeper', type: 'reference', relation: 'People' }),
    makeField('seen', { label: 'Seen', type: 'date' }),
  ]);
  const make = (reference: SheetColumn['reference'], recognised = true) => {
    const columns: SheetColumn[] = [
      { column: 'No.', field: { name: 'no', label: 'No', type: 'text', unique: true } },
      {
        ...{
          column: 'Keeper',
          fillers: ['n/a'],
          field: { name: 'keeper', label: 'Keeper', type: 'reference' as const },
        },
        ...(reference ? { reference } : {}),
      },
      { column: 'Seen', order: 'day first', field: { name: 'seen', label: 'Seen', type: 'date' } },
      { column: 'Office' },
    ];
    return intakeOfSheet({
      ...{ sheet: { name: 'Card', label: 'Card', plural: 'Cards', columns }, file: 'f1', system: 'crm', entity: cards },
      fields: ['No.', 'Keeper', 'Seen', 'Office'].map((name) => makeFormField(name)),
      schema: { entities: [people, cards] },
      recognitions: new Map(recognised ? [['crm/People', suggestRecognition(people)!]] : []),
    });
  };
  it('a reference by name is a step that looks, asks where it isn’t sure, and makes nobody', () => {
    const { plan, source } = make({ by: 'name', entity: 'People' });
    expect(source).toEqual({ kind: 'file', file: 'f1' });
    expect(plan.steps).toMatchObject([
      {
        ...{ entity: 'People', evidence: true, whenNone: 'skip', whenOne: 'leave', whenSeveral: 'ask' },
        recognise: [{ fields: ['first_name', 'last_name'] }],
      },
      { entity: 'Cards', recognise: [{ fields: ['no'] }], whenNone: 'create', whenOne: 'update' },
    ]);
    expect(plan.steps[1]!.lines).toMatchObject([
      { from: ['No.'], field: 'no' },
      { from: [], field: 'keeper_id', fromStep: { step: plan.steps[0]!.id } },
      { from: ['Seen'], field: 'seen', treatments: [{ kind: 'trim' }, { kind: 'date', order: 'day first' }] },
    ]);
    // What stands for nothing is nobody's name.
    expect(plan.steps[0]!.lines[0]!.treatments).toContainEqual({ kind: 'nothing', value: 'n/a' });
  });
  it('a reference by a field goes by that field alone', () => {
    const [find] = make({ by: 'field', field: 'number', entity: 'People' }).plan.steps;
    expect(find).toMatchObject({ recognise: [{ fields: ['number'] }], whenNone: 'skip' });
    expect(find).not.toHaveProperty('evidence');
  });
  it('where it isn’t known how records are recognised, the value goes in as it is', () => {
    const { steps } = make({ by: 'name', entity: 'People' }, false).plan;
    expect(steps).toHaveLength(1);
    expect(steps[0]!.lines[1]).toMatchObject({ from: ['Keeper'], field: 'keeper_id' });
  });
});
