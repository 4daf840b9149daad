import type { Line } from '../mapping/index.ts';
import type { IntakeDocument } from '../intake/index.ts';
import type { Step } from '../plans/index.ts';
import { makeEntity, makeField, makeLine, schemasOf } from '../testing/world.ts';
import { check, inputOf } from './index.ts';

const person = makeEntity('People', [
  makeField('id', { type: 'id' }),
  makeField('email', { type: 'email', label: 'E-mail' }),
  makeField('last_name', { required: true, label: 'Family name', maxLength: 20 }),
  makeField('language', {
    type: 'option',
    label: 'Language',
    options: [
      { value: 'de', label: 'German' },
      { value: 'en', label: 'English' },
    ],
  }),
  makeField('born', { type: 'date', label: 'Born' }),
  makeField('hives', { type: 'integer', label: 'Hives' }),
  makeField('sent', { computed: true, label: 'Letters sent' }),
  makeField('number', { immutable: true, label: 'Number' }),
  makeField('secret', { rights: 'none', label: 'Secret' }),
]);
const line = makeLine;
const SOUND = [
  line(['mail'], 'email'),
  line(['last'], 'last_name'),
  line(['lang'], 'language'),
  line(['hives'], 'hives'),
];

function findings(
  lines: Line[],
  samples: Record<string, string | string[]>[] = [],
  step: Partial<Step> = {},
  schemas = schemasOf(person),
) {
  const document: IntakeDocument = {
    name: 'N',
    format: 1,
    source: { kind: 'page' },
    fields: [
      { name: 'mail', label: 'Mail', type: 'email', required: true },
      { name: 'last', label: 'Last', type: 'text', required: true },
      {
        name: 'lang',
        label: 'Language',
        type: 'option',
        required: false,
        options: [
          { value: 'German', label: 'Deutsch' },
          { value: 'English', label: 'English' },
        ],
      },
      { name: 'hives', label: 'Hives', type: 'number', required: false },
      { name: 'born', label: 'Born', type: 'date and time', required: false },
    ],
    plan: {
      steps: [
        {
          id: 's',
          system: 'crm',
          entity: 'People',
          recognise: [{ fields: ['email'] }],
          whenNone: 'create',
          whenOne: 'update',
          whenSeveral: 'ask',
          lines,
          ...step,
        },
      ],
    },
    settings: { perMinute: 60 },
  };
  return check({ ...inputOf(document), schemas, samples }).map(({ id, severity, place, samples: hit }) =>
    `${id} ${severity} ${place.field ?? ''}${hit ? ` ${hit.hit}/${hit.of}` : ''}`.trim(),
  );
}
const without = (field: string): Line[] => SOUND.filter((each) => each.field !== field);
const sample = { mail: 'a@b.example', last: 'Brandt', lang: 'German', hives: '3' };

describe('checks', () => {
  it('find nothing in a sound configuration', () => {
    expect(findings(SOUND)).toEqual([]);
    expect(findings(SOUND, [sample, { ...sample, lang: '', hives: '' }])).toEqual([]);
  });
  it('K01: a required field gets no value, or may stay blank', () => {
    expect(findings(without('last_name'))).toEqual(['K01 stops last_name']);
    expect(findings([...without('last_name'), line(['last'], 'last_name', { origin: 'suggested' })])).toEqual([
      'K01 stops last_name',
    ]);
    expect(findings(SOUND, [sample, { ...sample, last: ' ' }])).toEqual(['K01 look last_name 1/2']);
    expect(findings([...without('last_name'), line(['lang'], 'last_name')])).toContain('K01 look last_name');
    expect(findings(without('last_name'), [], { whenNone: 'skip' })).toEqual([]);
  });
  it('K02: an option has no counterpart', () => {
    const unpaired = [
      ...without('language'),
      line(['lang'], 'language', {
        treatments: [{ kind: 'options', pairs: [{ from: 'German', to: 'de' }, { from: 'English' }] }],
      }),
    ];
    expect(findings(unpaired, [sample])).toEqual(['K02 look language 0/1']);
    const missing = [
      ...without('language'),
      line(['lang'], 'language', { treatments: [{ kind: 'replace', find: 'German', with: 'Plattdeutsch' }] }),
    ];
    expect(findings(missing, [sample, { ...sample, lang: 'English' }])).toEqual(['K02 look language 1/2']);
  });
  it('K04: a conversion loses something on the samples', () => {
    expect(findings([...SOUND, line(['born'], 'born')], [{ ...sample, born: '2027-04-20T06:00' }, sample])).toEqual([
      'K04 look born 1/2',
    ]);
  });
  it('K07: samples that can’t be converted', () => {
    // What came in once is evidence about visitors, and stops nobody from publishing a mend of it.
    expect(findings(SOUND, [sample, { ...sample, hives: 'many' }])).toEqual(['K07 look hives 1/2']);
    const bad = { ...sample, hives: 'many' };
    expect(findings(SOUND, [bad])).toEqual(['K07 look hives 1/1']);
    // Where nothing ever goes in, the line is wrong.
    expect(findings(SOUND, [bad, { ...bad, hives: 'few' }, { ...bad, hives: 'none' }])).toEqual([
      'K07 stops hives 3/3',
    ]);
  });
  it('K08: the target can’t be written, or not later', () => {
    expect(findings([...SOUND, line(['mail'], 'sent')])).toEqual(['K08 stops sent']);
    expect(findings([...SOUND, line(['mail'], 'id')])).toEqual(['K08 stops id']);
    expect(findings([...SOUND, line(['mail'], 'number')])).toEqual(['K08 stops number']);
    expect(findings([...SOUND, line(['mail'], 'number', { ifBoth: 'new records only' })])).toEqual([]);
  });
  it('K09: the connection may not', () => {
    expect(findings([...SOUND, line(['mail'], 'secret')])).toEqual(['K09 stops secret']);
    const readOnly = schemasOf({ ...person, rights: { read: true, create: false, update: true, delete: false } });
    expect(findings(SOUND, [], {}, readOnly)).toEqual(['K09 stops']);
    expect(findings(SOUND, [], { entity: 'Ghosts' })).toEqual(['K09 stops']);
  });
  it('K13: recognised by what no line fills', () => expect(findings(without('email'))).toEqual(['K13 stops email']));
  it('K24: a constant or a stand-in that won’t go in', () => {
    expect(findings([...without('hives'), line([], 'hives', { constant: 'many' })])).toEqual(['K24 stops hives']);
    expect(findings([...without('hives'), line([], 'hives', { constant: '4' })])).toEqual([]);
    expect(
      findings([...without('hives'), line(['hives'], 'hives', { treatments: [{ kind: 'default', value: 'none' }] })]),
    ).toEqual(['K24 stops hives']);
    expect(
      findings([
        ...without('hives'),
        line(['hives'], 'hives', { treatments: [{ kind: 'default', value: '0' }, { kind: 'number' }] }),
      ]),
    ).toEqual([]);
  });
  it('K27: a field that is gone', () =>
    expect(findings([...SOUND, line(['mail'], 'vanished')])).toEqual(['K27 stops vanished']));
  it('put what stops first', () => {
    expect(
      findings([
        ...without('language'),
        line([], 'hives', { constant: 'x' }),
        line(['lang'], 'language', {
          treatments: [
            { kind: 'case', case: 'upper' },
            { kind: 'replace', find: 'GERMAN', with: 'x' },
          ],
        }),
      ])[0],
    ).toContain('stops');
  });
});
