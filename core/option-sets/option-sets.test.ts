import { freshLine, freshPairing, type Pairing } from '../pairing/index.ts';
import type { IntakeDocument } from '../intake/index.ts';
import { pairOptions, type Line } from '../mapping/index.ts';
import type { Field, Option, Schema } from '../schema/index.ts';
import { nextStep } from '../schema-changes/index.ts';
import {
  compareOptions,
  counterparts,
  followOption,
  followPaired,
  optionTrouble,
  stepsOfOptions,
  type OptionChange,
  type OptionMove,
} from './index.ts';

const options = (...labels: string[]): Option[] => labels.map((label) => ({ value: label, label }));
const field = (name: string, of: Option[]): Field => ({
  ...{ name, label: name, type: 'options', required: false, unique: false, computed: false, immutable: false },
  ...{ rights: 'read and write', options: of },
});
const schemaWith = (entity: string, fields: Field[]): Schema => ({
  entities: [
    {
      ...{ name: entity, label: entity, key: 'id', alternateKeys: [], fields },
      rights: { read: true, create: true, update: true, delete: true },
    },
  ],
});
const CRM = schemaWith('people', [field('interests', options('Honey', 'Top bar', 'Skep'))]);
const LETTERS = schemaWith('subscribers', [field('interests', options('Honey', 'Top bar'))]);
const schemas = new Map([
  ['crm', CRM],
  ['letters', LETTERS],
]);
const move: OptionMove = {
  ...{ system: 'crm', entity: 'people', field: 'interests' },
  from: { value: 'Top bar', label: 'Top bar' },
  into: { value: 'Top-bar', label: 'Top-bar' },
};
const line = (more: Partial<Line> = {}): Line => ({
  ...{
    id: 'l1',
    from: ['kind'],
    treatments: [],
    field: 'interests',
    ifBoth: 'write',
    blankErases: false,
    origin: 'set',
  },
  ...more,
});
const intake = (lines: Line[], more: Partial<IntakeDocument> = {}): IntakeDocument => ({
  ...{ format: 1, name: 'Visit', source: { kind: 'page' }, settings: { perMinute: 60 } },
  fields: [{ name: 'kind', label: 'Kind', type: 'option', required: false, options: options('Top bar', 'Skep') }],
  plan: {
    steps: [
      {
        ...{ id: 's1', system: 'crm', entity: 'people', recognise: [], lines },
        ...{ whenNone: 'create', whenOne: 'update', whenSeveral: 'ask' },
      },
    ],
  },
  ...more,
});

describe('options side by side', () => {
  it('stand in one row where they are spelt alike, nearly alike, or are linked by hand; each once', () => {
    const rows = compareOptions(
      [options('Pollination', 'Honey', 'Top-bar'), options('hiring hives', 'Honey', 'Top bar', 'Wax')],
      [{ fields: [0, 1], pairs: [['Pollination', 'hiring hives']], why: 'paired in Letters' }],
    );
    expect(rows.map(({ option, cells }) => [option.label, cells.map((cell) => cell && cell.option.label)])).toEqual([
      ['Pollination', ['Pollination', 'hiring hives']],
      ['Honey', ['Honey', 'Honey']],
      ['Top-bar', ['Top-bar', 'Top bar']],
      ['Wax', [null, 'Wax']],
    ]);
    expect(rows[0]!.cells[1]).toMatchObject({ how: 'otherwise', why: 'paired in Letters' });
    expect(rows[1]!.cells[1]!.how).toBe('same');
    expect(rows[2]!.cells[1]).toMatchObject({ how: 'otherwise' });
  });
  it('are linked whichever of the two fields comes first', () => {
    const rows = compareOptions(
      [options('hiring hives'), options('Pollination')],
      [{ fields: [1, 0], pairs: [['Pollination', 'hiring hives']], why: 'x' }],
    );
    expect(rows).toHaveLength(1);
  });
  it('are held against a list, whose options come first', () => {
    const rows = compareOptions([options('skep', 'Old')], [], options('Skep', 'Log hive'));
    expect(rows.map(({ listed, option, cells }) => [listed, option.label, cells[0]?.how])).toEqual([
      [true, 'Skep', 'otherwise'],
      [true, 'Log hive', undefined],
      [false, 'Old', 'same'],
    ]);
  });
  it('count as the same where what travels is the same, whatever people see', () => {
    const [row] = compareOptions([[{ value: 'queens', label: 'Queen breeding' }], options('queens')], []);
    expect(row!.cells[1]).toEqual({ option: { value: 'queens', label: 'queens' }, how: 'same' });
  });
  it('of ten thousand each are compared without comparing every one with every other', () => {
    const many = Array.from({ length: 10_000 }, (_, at) => ({ value: `v${at}`, label: `Option ${at}` }));
    const others = many.map(({ label }, at) => ({ value: `w${at}`, label: at === 0 ? 'zzz' : label.toUpperCase() }));
    const found = counterparts(many, others);
    expect(found.filter(({ there }) => there === undefined)).toHaveLength(1);
    expect(new Set(found.flatMap(({ there }) => there ?? [])).size).toBe(9_999);
    // Pairing them for a line is the same work: none of it is looked for among all of them.
    expect(pairOptions(many, others)[5]).toEqual({ from: 'v5', to: 'w5' });
    expect(pairOptions(many, others)[9_999]).toEqual({ from: 'v9999', to: 'w9999' });
  });
});

describe('what names an option that becomes another', () => {
  const led = (document: IntakeDocument): unknown => document.plan.steps[0]!.lines[0]!.treatments;
  it('names the other: in pairs, constants and fallbacks; taken back, only where it was named', () => {
    const before = intake([
      line({
        treatments: [
          {
            kind: 'options',
            pairs: [
              { from: 'a', to: 'Top bar' },
              // This one has named the other all along.
              { from: 'b', to: 'Top-bar' },
            ],
            otherwise: 'Top bar',
          },
        ],
      }),
      line({ id: 'l2', from: [], constant: 'Top bar' }),
      line({ id: 'l3', field: 'other', from: [], constant: 'Top bar' }),
    ]);
    const { document, touched } = followOption(before, move);
    expect(led(document)).toEqual([
      {
        ...{ kind: 'options', otherwise: 'Top-bar' },
        pairs: [
          { from: 'a', to: 'Top-bar' },
          { from: 'b', to: 'Top-bar' },
        ],
      },
    ]);
    expect(document.plan.steps[0]!.lines.map(({ constant }) => constant)).toEqual([undefined, 'Top-bar', 'Top bar']);
    expect(touched).toHaveLength(3);
    expect(followOption(document, move).touched).toEqual([]);
    expect(followOption(document, move, new Set(touched)).document).toEqual(before);
  });
  it('leads what went through as it was to the other, and no more once taken back', () => {
    const before = intake([line()]);
    const { document, touched } = followOption(before, move);
    expect(led(document)).toEqual([{ kind: 'options', pairs: [{ from: 'Top bar', to: 'Top-bar' }] }]);
    expect(followOption(document, move, new Set(touched)).document).toEqual(before);
  });
  it('of records that are converted: what comes in, its conditions, and what it starts by', () => {
    const pairs = [{ from: 'Top bar', to: 'x' }];
    const before = intake([line({ from: ['interests'], field: 'y', treatments: [{ kind: 'options', pairs }] })], {
      source: {
        ...{ kind: 'record', system: 'crm', entity: 'people' },
        starts: [{ field: 'interests', test: 'is', value: 'Top bar' }],
      },
      fields: [
        { name: 'interests', label: 'I', type: 'options', required: false, options: options('Top bar', 'Skep') },
      ],
    });
    before.plan.steps[0]!.entity = 'contracts';
    before.plan.steps[0]!.condition = { match: 'all', parts: [{ field: 'interests', test: 'has', value: 'Top bar' }] };
    const { document, touched } = followOption(before, move);
    expect(document.source.starts![0]!.value).toBe('Top-bar');
    expect(document.fields[0]!.options).toEqual(options('Top-bar', 'Skep'));
    expect(document.plan.steps[0]!.condition!.parts[0]!.value).toBe('Top-bar');
    expect(led(document)).toEqual([{ kind: 'options', pairs: [{ from: 'Top-bar', to: 'x' }] }]);
    expect(followOption(document, move, new Set(touched)).document).toEqual(before);
  });
  it('leaves alone what has nothing to do with it', () => {
    const document = intake([line({ field: 'other' })]);
    expect(followOption(document, { ...move, entity: 'firms' }).touched).toEqual([]);
    expect(followOption(document, move).document).toEqual(document);
  });
  it('in a pairing: its pairs, and where both sides spelt it alike they are paired from then on', () => {
    const pairing: Pairing = {
      ...freshPairing('Letters', { system: 'letters', entity: 'subscribers' }, { system: 'crm', entity: 'people' }),
      lines: [freshLine('i', ['interests'], ['interests'])],
    };
    const { pairing: next, touched } = followPaired(pairing, move, schemas);
    expect(next.lines[0]!.options).toEqual([{ left: 'Top bar', right: 'Top-bar' }]);
    expect(followPaired(next, move, schemas, new Set(touched)).pairing).toEqual(pairing);
    const paired = { ...pairing, lines: [{ ...pairing.lines[0]!, options: [{ left: 'hives', right: 'Top bar' }] }] };
    const followed = followPaired(paired, move, schemas);
    expect(followed.pairing.lines[0]!.options).toEqual([{ left: 'hives', right: 'Top-bar' }]);
    expect(followPaired(followed.pairing, move, schemas, new Set(followed.touched)).pairing).toEqual(paired);
  });
});

describe('changes of options', () => {
  const of = { system: 'crm', entity: 'people', field: 'interests' };
  const [topBar] = options('Top-bar');
  it('are added first, then followed, then joined', () => {
    const changes: OptionChange[] = [
      { kind: 'join', of, from: 'Top bar', option: topBar! },
      { kind: 'join', of, from: 'Honey', option: options('Skep')[0]! },
      { kind: 'add', of, option: options('Wax')[0]! },
    ];
    expect(optionTrouble(changes, schemas)).toEqual([]);
    const naming = { intakes: [{ id: 'i1', document: intake([line()]) }], pairings: [] };
    const steps = stepsOfOptions(changes, schemas, naming);
    expect(steps.map((step) => step.kind)).toEqual(['options', 'follow', 'join', 'join']);
    expect(steps[0]).toMatchObject({ options: options('Top-bar', 'Wax') });
    expect(nextStep({ title: '', steps, outcomes: [], direction: 'forth' })).toBe(0);
  });
  it.each<[OptionChange[], string]>([
    [[{ kind: 'add', of, option: options('Honey')[0]! }], 'changes.0.option'],
    [[{ kind: 'join', of, from: 'Nothing', option: topBar! }], 'changes.0.from'],
    [[{ kind: 'join', of, from: 'Honey', option: options('Honey')[0]! }], 'changes.0.option'],
    [[{ kind: 'add', of: { ...of, field: 'x' }, option: topBar! }], 'changes.0.of'],
    [
      [
        { kind: 'join', of, from: 'Honey', option: options('Skep')[0]! },
        { kind: 'join', of, from: 'Skep', option: options('Honey')[0]! },
      ],
      'changes.0.option',
    ],
    [
      [
        { kind: 'join', of, from: 'Honey', option: topBar! },
        { kind: 'join', of, from: 'Honey', option: options('Skep')[0]! },
      ],
      'changes.1.from',
    ],
  ])('that can’t be say why: %#', (changes, path) => {
    expect(optionTrouble(changes, schemas)[0]!.field).toBe(path);
  });
});
