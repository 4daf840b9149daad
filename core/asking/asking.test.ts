import fc from 'fast-check';
import { formOf, item } from '../testing/hosted.ts';
import {
  breakPage,
  moveItem,
  placeItem,
  removeItem,
  standingsOf,
  troublesOf,
  withKind,
  type HostedForm,
} from '../forms/hosted/index.ts';
import { withForm, type IntakeDocument } from '../intake/index.ts';
import { blankStep } from '../plans/index.ts';
import type { Entity, Field, Schema } from '../schema/index.ts';
import {
  askByLink,
  askFor,
  askNewest,
  askWhich,
  chooserOf,
  editForm,
  filledBy,
  isLinked,
  leadingTo,
  renameQuestion,
  startFrom,
  STARTING_POINTS,
  stopAsking,
  withoutLink,
} from './index.ts';

const field = (name: string, type: Field['type'], more: Partial<Field> = {}): Field => ({
  ...{ name, label: name[0]!.toUpperCase() + name.slice(1), type, required: false, unique: false },
  ...{ computed: false, immutable: false, rights: 'read and write', ...more },
});
const entity = (name: string, label: string, fields: Field[]): Entity => ({
  ...{ name, label, key: 'id', alternateKeys: [], fields: [field('id', 'id', { rights: 'read' }), ...fields] },
  rights: { read: true, create: true, update: true, delete: false },
});
const schema: Schema = {
  entities: [
    entity('Organisations', 'Organisation', [
      field('name', 'text', { required: true, maxLength: 80 }),
      field('town', 'text'),
    ]),
    entity('Contracts', 'Contract', [
      field('organisation', 'reference', { relation: 'Organisations' }),
      field('starts', 'date'),
      field('hives', 'integer', { required: true }),
      field('kind', 'option', {
        options: [
          { value: 'a', label: 'Alpha' },
          { value: 'b', label: 'Beta' },
        ],
      }),
      field('nowhere', 'reference'),
    ]),
    entity('People', 'Person', [field('email', 'email'), field('mobile', 'phone')]),
  ],
};
let made = 0;
const asking = { schemas: new Map([['crm', schema]]), newId: () => `n${(made += 1)}` };
const begun = (...entities: string[]): IntakeDocument =>
  withForm(
    {
      ...{ format: 1, name: 'A form', source: { kind: 'ours' }, fields: [], settings: { perMinute: 60 } },
      plan: { steps: entities.map((name) => blankStep(name, 'crm', name)) },
    } as IntakeDocument,
    formOf([], { languages: ['en'] }),
  );
const linesIn = (document: IntakeDocument, step: string) =>
  document.plan.steps.find(({ id }) => id === step)!.lines.map(({ from, field: to }) => [from.join('+'), to]);
const names = (form: HostedForm | undefined): string[] => standingsOf(form!).map(({ name }) => name);

it('asks for a field with the control, options and limits that the field has, and fills it', () => {
  const asked = ['hives', 'kind', 'starts'].reduce(
    (held, name) => askFor(held, 'Contracts', name, asking),
    begun('Contracts'),
  );
  const [hives, kind, starts] = standingsOf(asked.form!).map((each) => each.item);
  expect(hives).toMatchObject({ kind: 'number', decimals: 0, required: true, label: { en: 'Hives' } });
  expect(kind).toMatchObject({ kind: 'one of', options: [{ value: 'a', label: { en: 'Alpha' } }, { value: 'b' }] });
  expect(starts).toMatchObject({ kind: 'date', name: 'starts' });
  expect(linesIn(asked, 'Contracts')).toEqual([
    ['hives', 'hives'],
    ['kind', 'kind'],
    ['starts', 'starts'],
  ]);
  expect(asked.fields.map(({ name }) => name)).toEqual(['hives', 'kind', 'starts']);
  expect(filledBy(asked.form!, asked.plan.steps[0]!).get('kind')).toMatchObject({ by: 'question', at: 2 });
  expect(troublesOf(asked.form!)).toEqual([]);
});

it('asks once, and for nothing that visitors can’t answer', () => {
  const once = askFor(begun('Contracts'), 'Contracts', 'hives', asking);
  expect(askFor(once, 'Contracts', 'hives', asking)).toBe(once);
  for (const name of ['id', 'nowhere', 'missing']) expect(askFor(once, 'Contracts', name, asking)).toBe(once);
});

it('tells browsers what they may fill in by themselves', () => {
  const asked = ['email', 'mobile'].reduce((held, name) => askFor(held, 'People', name, asking), begun('People'));
  expect(standingsOf(asked.form!).map(({ item: { autocomplete } }) => autocomplete)).toEqual(['email', 'tel']);
});

it('asks for a reference by choosing among the records that it leads to', () => {
  const asked = askFor(begun('Contracts'), 'Contracts', 'organisation', asking);
  expect(standingsOf(asked.form!)[0]!.item).toMatchObject({
    kind: 'record',
    reads: { system: 'crm', entity: 'Organisations', shows: ['name', 'town'] },
  });
  // A chosen record is its id: nothing is looked up by name.
  expect(asked.plan.steps[0]!.lines).toMatchObject([{ field: 'organisation', treatments: [] }]);
});

it('takes a question’s lines with it, and what goes by its answer', () => {
  const asked = ['hives', 'kind'].reduce((held, name) => askFor(held, 'Contracts', name, asking), begun('Contracts'));
  const [hives, kind] = standingsOf(asked.form!).map((each) => each.item);
  const shown = withForm(asked, {
    ...asked.form!,
    pages: [
      {
        id: 'p1',
        items: [
          hives!,
          { ...kind!, shown: { match: 'all', parts: [{ field: 'hives', test: 'is more than', value: '20' }] } },
        ],
      },
    ],
  });
  const left = stopAsking(shown, hives!.id);
  expect(linesIn(left, 'Contracts')).toEqual([['kind', 'kind']]);
  expect(standingsOf(left.form!)[0]!.item.shown).toBeUndefined();
  expect(troublesOf(left.form!)).toEqual([]);
  const renamed = renameQuestion(shown, hives!.id, 'boxes');
  expect(linesIn(renamed, 'Contracts')).toEqual([
    ['boxes', 'hives'],
    ['kind', 'kind'],
  ]);
  expect(standingsOf(renamed.form!)[1]!.item.shown?.parts[0]!.field).toBe('boxes');
});

it('asks once a row where the step is done once per row, and follows a group that is renamed', () => {
  const rows = item('group', 'contacts', { items: [], mostRows: 6 });
  const before = withForm(begun('People'), formOf([rows], { languages: ['en'] }));
  before.plan.steps[0]!.repeat = 'contacts';
  const asked = askFor(before, 'People', 'email', asking);
  expect(names(asked.form)).toEqual(['contacts', 'contacts[0][email]']);
  expect(linesIn(asked, 'People')).toEqual([['contacts[0][email]', 'email']]);
  const renamed = renameQuestion(asked, rows.id, 'persons');
  expect(renamed.plan.steps[0]!.repeat).toBe('persons');
  expect(linesIn(renamed, 'People')).toEqual([['persons[0][email]', 'email']]);
  expect(linesIn(stopAsking(renamed, rows.id), 'People')).toEqual([]);
});

it('lets visitors choose the record of a step, whose values the questions begin with', () => {
  const asked = askFor(begun('Organisations'), 'Organisations', 'town', asking);
  const chosen = askFor(askWhich(asked, 'Organisations', asking), 'Organisations', 'name', asking);
  const [which] = standingsOf(chosen.form!).map((each) => each.item);
  expect(which).toMatchObject({ kind: 'record', name: 'organisation', required: true });
  expect(which!.reads!.fills).toEqual([
    { into: 'town', field: 'town' },
    { into: 'name', field: 'name' },
  ]);
  expect(chosen.plan.steps[0]).toMatchObject({ record: { by: 'field', field: 'organisation' }, whenNone: 'stop' });
  expect(chooserOf(chosen.form!, chosen.plan.steps[0]!)?.item.id).toBe(which!.id);
  expect(troublesOf(chosen.form!)).toEqual([]);
});

it('goes on to the newest of what leads to the chosen record', () => {
  const [of] = leadingTo(schema, 'Organisations');
  expect(of).toEqual({ entity: 'Contracts', by: 'organisation', newest: 'starts' });
  const asked = askWhich(
    askFor(begun('Organisations', 'Contracts'), 'Contracts', 'hives', asking),
    'Organisations',
    asking,
  );
  const which = standingsOf(asked.form!).find(({ item: { kind } }) => kind === 'record')!.item;
  const newest = askFor(askNewest(asked, 'Contracts', which.id, of!, asking), 'Contracts', 'starts', asking);
  const reads = standingsOf(newest.form!).find(({ item: { id } }) => id === which.id)!.item.reads!;
  expect(reads.fills).toEqual([
    { into: 'contract_meant', of },
    { into: 'hives', field: 'hives', of },
    { into: 'starts', field: 'starts', of },
  ]);
  expect(newest.plan.steps[1]!.record).toEqual({ by: 'field', field: 'contract_meant' });
  expect(troublesOf(newest.form!)).toEqual([]);
});

it('is opened by a link to the record of a step, whose values the questions begin with, and again without', () => {
  const asked = askFor(begun('Organisations'), 'Organisations', 'town', asking);
  const linked = askFor(askByLink(asked, 'Organisations', asking), 'Organisations', 'name', asking);
  expect(linked.form!.link).toMatchObject({
    entity: 'Organisations',
    into: 'organisation_of_the_link',
    required: true,
  });
  expect(standingsOf(linked.form!).map(({ item: each }) => each.begins?.value)).toEqual(['town', 'name', undefined]);
  expect(isLinked(linked.form!, linked.plan.steps[0]!)).toBe(true);
  expect(troublesOf(linked.form!)).toEqual([]);
  const bare = withoutLink(linked);
  expect([bare.form!.link, bare.plan.steps[0]!.record]).toEqual([undefined, undefined]);
  expect(standingsOf(bare.form!).map(({ item: each }) => each.begins)).toEqual([undefined, undefined]);
  expect(troublesOf(bare.form!)).toEqual([]);
  const lost = { ...linked.form!, link: { ...linked.form!.link!, into: 'town' } };
  expect(troublesOf(lost).map(({ reason }) => reason)).toEqual([expect.stringContaining('hidden question')]);
});

it('moves, places, breaks and changes items so that none is lost or doubled, and a sound form stays sound', () => {
  const start = formOf(
    [
      item('text', 'one'),
      item('group', 'rows', { items: [item('text', 'a'), item('group', 'inner', { items: [item('text', 'b')] })] }),
      item('one of', 'two', { options: [{ value: 'x', label: { en: 'X' } }] }),
      item('words', undefined),
    ],
    { languages: ['en'] },
  );
  const ids = (form: HostedForm): string[] =>
    standingsOf(form)
      .map((each) => each.item.id)
      .sort();
  const nth = (form: HostedForm, at: number): string => standingsOf(form)[at % standingsOf(form).length]!.item.id;
  const step = fc.tuple(fc.constantFrom('up', 'down', 'before', 'after', 'break', 'kind'), fc.nat(20), fc.nat(20));
  fc.assert(
    fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
      let form = start;
      for (const [what, one, other] of steps) {
        const [id, next] = [nth(form, one), nth(form, other)];
        if (what === 'up' || what === 'down') form = moveItem(form, id, what === 'up' ? -1 : 1);
        else if (what === 'before') form = placeItem(form, id, { before: next });
        else if (what === 'after') form = placeItem(form, id, { after: next });
        else if (what === 'break')
          form = breakPage(form, id, `page ${one} ${other} ${form.pages.length} ${steps.length}`);
      }
      expect(ids(form)).toEqual(ids(start));
      const unsound = troublesOf(form).filter(({ reason }) => !/given twice|more than/.test(reason));
      expect(unsound).toEqual([]);
    }),
    { numRuns: 300 },
  );
  expect(moveItem(start, 'none', 1)).toBe(start);
  expect(ids(removeItem(start, standingsOf(start)[1]!.item.id))).toHaveLength(3);
});

it('follows a question that is moved into a group, and out of it again', () => {
  const rows = item('group', 'rows', { items: [item('text', 'other')] });
  const asked = askFor(withForm(begun('People'), formOf([rows], { languages: ['en'] })), 'People', 'email', asking);
  const email = standingsOf(asked.form!).find(({ name }) => name === 'email')!.item.id;
  const inside = editForm(asked, (form) => placeItem(form, email, { after: rows.items![0]!.id }));
  expect(linesIn(inside, 'People')).toEqual([['rows[0][email]', 'email']]);
  const outside = editForm(inside, (form) => placeItem(form, email, { before: rows.id }));
  expect(linesIn(outside, 'People')).toEqual([['email', 'email']]);
});

describe('starting points', () => {
  const world: Schema = {
    entities: [
      entity('People', 'Person', [
        field('first_name', 'text', { label: 'First name' }),
        field('last_name', 'text', { label: 'Surname', required: true, maxLength: 80 }),
        field('email', 'email', { label: 'E-mail' }),
        field('notes', 'long text'),
        field('country', 'option', { options: [{ value: 'DE', label: 'Germany' }] }),
      ]),
      entity('Requests', 'Request', [
        field('subject', 'text', { required: true }),
        field('text', 'long text', { label: 'Message' }),
        field('kind', 'option', { required: true, options: [{ value: 'a', label: 'Alpha' }] }),
        field('number', 'text', { required: true, unique: true, label: 'Request number' }),
        field('status', 'option', { required: true, options: [{ value: 'open', label: 'Open' }] }),
        field('person_id', 'reference', { relation: 'People', label: 'Person' }),
      ]),
    ],
  };
  const start = (key: string, schemas: Schema = world) =>
    startFrom(STARTING_POINTS.find((point) => point.key === key)!, {
      ...{ schemas: new Map([['crm', schemas]]), learned: [], where: {}, newId: asking.newId },
    });

  it('become the fields of the connected system, with what it needs; what it lacks is said', () => {
    const { document, left, added, missing } = start('enquiry');
    const byName = new Map(standingsOf(document.form!).map(({ item: each, name }) => [name, each]));
    expect(byName.get('family_name')).toMatchObject({ label: { en: 'Surname' }, maxLength: 80, required: true });
    expect(linesIn(document, document.plan.steps[0]!.id)).toEqual([
      ['first_name', 'first_name'],
      ['family_name', 'last_name'],
      ['e_mail', 'email'],
    ]);
    // The message is the request's, not the person's; the request leads to the person.
    expect(linesIn(document, document.plan.steps[1]!.id)).toEqual(
      expect.arrayContaining([
        ['message', 'text'],
        ['subject', 'subject'],
        ['kind', 'kind'],
        ['', 'person_id'],
      ]),
    );
    expect(document.plan.steps[0]!.recognise).toEqual([{ fields: ['email'] }]);
    expect(left).toEqual(['Phone', 'Organisation']);
    expect(added).toEqual(['Request: Kind']);
    expect(missing).toEqual(['Request: Request number', 'Request: Status']);
    expect(troublesOf(document.form!)).toEqual([]);
  });

  it('are sound forms whatever the systems keep, also nothing', () => {
    for (const { key } of STARTING_POINTS)
      for (const schemas of [world, schema, { entities: [] }]) {
        const { document } = start(key, schemas);
        expect(troublesOf(document.form!)).toEqual([]);
        const asked = new Set(document.fields.map(({ name }) => name));
        for (const { lines } of document.plan.steps)
          for (const { from } of lines) expect(from.filter((name) => !asked.has(name))).toEqual([]);
      }
  });
});

it('keeps of a question what its new kind has a use for', () => {
  const amount = withKind(item('number', 'fee', { least: 5, decimals: 2, required: true }), 'money', 'en');
  expect(amount).toMatchObject({ kind: 'money', least: 5, currency: 'EUR', required: true, name: 'fee' });
  expect(amount.decimals).toBeUndefined();
  expect(withKind(amount, 'one of', 'en').options).toHaveLength(2);
  expect(withKind(amount, 'heading', 'en').name).toBeUndefined();
});
