import fc from 'fast-check';
import { applyMend, check, inputOf, mayNot } from '../checks/index.ts';
import { formOf, item } from '../testing/hosted.ts';
import { makeEntity, makeField } from '../testing/world.ts';
import { readAnswers, standingsOf, troublesOf, type Item } from '../forms/hosted/index.ts';
import { withForm, type IntakeDocument } from '../intake/index.ts';
import { blankStep } from '../plans/index.ts';
import type { Schema } from '../schema/index.ts';
import {
  askFor,
  begunWith,
  canBeFilledIn,
  fillFromParent,
  fromParents,
  isLinked,
  notOnRecord,
  openOnRecord,
  withBegun,
  withoutLink,
} from './index.ts';

/** A form on the page of a person or an organisation that makes apiaries of theirs. */
const id = makeField('id', { type: 'id', computed: true });
const address = [makeField('city', { label: 'City' }), makeField('phone', { type: 'phone', label: 'Phone' })];
const owner = makeField('owner', { type: 'reference', relation: 'users', label: 'Owner' });
const options = (...values: string[]) => values.map((value) => ({ value, label: value }));
const schema: Schema = {
  entities: [
    makeEntity('users', [id, makeField('name')]),
    makeEntity('people', [
      ...[id, makeField('last_name', { label: 'Family name' }), ...address, owner],
      makeField('bees', { type: 'option', label: 'Bees', options: options('dark', 'light') }),
    ]),
    makeEntity('firms', [id, makeField('name', { label: 'Name' }), ...address, owner]),
    makeEntity('apiaries', [
      ...[id, makeField('name', { label: 'Name', required: true }), ...address, owner],
      makeField('keeper', { type: 'reference', relation: 'people', label: 'Keeper' }),
      makeField('firm', { type: 'reference', relation: 'firms', label: 'Firm' }),
      makeField('bees', { type: 'option', label: 'Bees', options: options('Dark', 'light') }),
      makeField('made_at', { type: 'date and time', computed: true }),
    ]),
  ],
};
let made = 0;
const asking = { schemas: new Map([['crm', schema]]), newId: () => `n${(made += 1)}` };
const empty = (items: Item[] = []): IntakeDocument =>
  withForm(
    {
      ...{ format: 1, name: 'A form', source: { kind: 'ours' }, fields: [], settings: { perMinute: 60 } },
      plan: { steps: [{ ...blankStep('apiary', 'crm', 'apiaries'), whenNone: 'create' }] },
    } as IntakeDocument,
    formOf(items, { languages: ['en'] }),
  );
const onBoth = () => ['people', 'firms'].reduce((held, entity) => openOnRecord(held, 'crm', entity, asking), empty());
const lines = ({ plan }: IntakeDocument) =>
  Object.fromEntries(plan.steps[0]!.lines.map(({ field, from, treatments }) => [field, [from, treatments]]));
const facts = { systemNames: { crm: 'the CRM' } };
const found = (document: IntakeDocument, more = {}) =>
  check({ ...inputOf(document), schemas: asking.schemas, samples: [], facts: { ...facts, ...more } });

describe('a form on the page of a record', () => {
  it('links what it makes to the record by itself, whichever of its entities that is of', () => {
    const document = onBoth();
    const { link, panel } = document.form!;
    expect(link).toMatchObject({ system: 'crm', entity: 'people', required: true });
    expect(link!.others!.map(({ entity }) => entity)).toEqual(['firms']);
    expect(panel).toEqual({ whenGone: 'ask' });
    expect(lines(document)).toEqual({ keeper: [[link!.into], []], firm: [[link!.others![0]!.into], []] });
    // The fields say of which entity the ids are, so that nothing looks a text up.
    expect(document.fields.map(({ record }) => record?.entity)).toEqual(['people', 'firms']);
    expect(troublesOf(document.form!)).toEqual([]);
    expect(openOnRecord(document, 'crm', 'firms', asking)).toEqual(document);
    expect(openOnRecord(document, 'other', 'people', asking)).toEqual(document);
  });
  it('offers what parent and child have in common, and nothing else', () => {
    const offered = fromParents(onBoth(), 'apiary', asking);
    const said = Object.fromEntries(
      offered.map(({ field, from }) => [field.name, from.map((each) => `${each.entity}.${each.field?.name}`)]),
    );
    expect(said).toMatchObject({
      city: ['people.city', 'firms.city'],
      phone: ['people.phone', 'firms.phone'],
      owner: ['people.owner', 'firms.owner'],
    });
    expect(Object.keys(said)).not.toContain('made_at');
    expect(Object.keys(said)).not.toContain('keeper');
    const [city] = offered.filter(({ field }) => field.name === 'city');
    const [of] = offered.filter(({ field }) => field.name === 'owner');
    const step = onBoth().plan.steps[0]!;
    expect([canBeFilledIn(step, city!, 'shown'), canBeFilledIn(step, of!, 'shown')]).toEqual([true, false]);
    expect(canBeFilledIn({ ...step, repeat: 'rows' }, city!, 'left blank')).toBe(false);
  });
  it('fills in unseen, shown, or where something is left blank', () => {
    let document = fillFromParent(onBoth(), 'apiary', 'owner', 'unseen', asking);
    document = fillFromParent(document, 'apiary', 'city', 'left blank', asking);
    document = fillFromParent(document, 'apiary', 'phone', 'shown', asking);
    const form = document.form!;
    expect(troublesOf(form)).toEqual([]);
    const values = { last_name: 'Nowak', city: 'Hollow', phone: '123', owner: 'u1' };
    const begun = begunWith(form, { record: { entity: 'people', id: 'p1', values } });
    expect(begun).toEqual({ shown: { phone: '123' }, unseen: { owner: 'u1' }, ifBlank: { city: 'Hollow' } });
    // Of a firm the same questions begin with its own fields.
    expect(begunWith(form, { record: { entity: 'firms', id: 'f1', values: { city: 'Mill' } } }).ifBlank).toEqual({
      city: 'Mill',
    });
    expect(lines(document)['owner']).toEqual([['owner'], []]);
    expect(document.fields.find(({ name }) => name === 'owner')).toMatchObject({ record: { entity: 'users' } });
  });
  it('never lets the page say what is filled in unseen', () => {
    const document = fillFromParent(onBoth(), 'apiary', 'owner', 'unseen', asking);
    const form = fillFromParent(document, 'apiary', 'city', 'left blank', asking).form!;
    fc.assert(
      fc.property(fc.string(), fc.string(), (sent, typed) => {
        const answers = withBegun(
          form,
          { owner: sent, city: typed },
          { unseen: { owner: 'u1' }, ifBlank: { city: 'Hollow' } },
        );
        expect(answers['owner']).toBe('u1');
        expect(answers['city']).toBe(typed.trim() === '' ? 'Hollow' : typed);
        expect(withBegun(form, { owner: sent }, { unseen: {}, ifBlank: {} })).not.toHaveProperty('owner');
      }),
    );
    const filled = withBegun(form, { city: ' ' }, { unseen: {}, ifBlank: { city: 'Hollow' } });
    expect(readAnswers(form, filled, { language: 'en', today: '2027-01-01' })).toMatchObject({
      ok: true,
      values: { city: 'Hollow' },
    });
  });
  it('pairs options where the two lists differ, and reads nothing else anew', () => {
    const document = fillFromParent(onBoth(), 'apiary', 'bees', 'unseen', asking);
    const [, treatments] = lines(document)['bees'] as [unknown, { kind: string; pairs: object[] }[]];
    expect(treatments.map(({ kind }) => kind)).toEqual(['options']);
    expect(treatments[0]!.pairs).toContainEqual({ from: 'dark', to: 'Dark' });
    const phone = fillFromParent(onBoth(), 'apiary', 'phone', 'unseen', asking);
    expect(lines(phone)['phone']).toEqual([['phone'], []]);
  });
  it('takes a question that is there already, and makes it unseen or begin so', () => {
    const asked = askFor(onBoth(), 'apiary', 'city', asking);
    const shown = fillFromParent(asked, 'apiary', 'city', 'shown', asking);
    expect(standingsOf(shown.form!)).toHaveLength(standingsOf(asked.form!).length);
    expect(fromParents(shown, 'apiary', asking).map(({ field }) => field.name)).not.toContain('city');
    const unseen = fillFromParent(asked, 'apiary', 'city', 'unseen', asking);
    const city = standingsOf(unseen.form!).find(({ name }) => name === 'city')!.item;
    expect(city).toMatchObject({ kind: 'hidden', begins: { with: 'record', value: 'city' } });
    expect(lines(unseen)['city']![0]).toEqual(['city']);
  });
  it('leaves pages again: what began with those records doesn’t any more', () => {
    const document = fillFromParent(onBoth(), 'apiary', 'city', 'shown', asking);
    const firmsOnly = notOnRecord(document, 'people');
    expect(firmsOnly.form!.link).toMatchObject({ entity: 'firms', others: [] });
    expect(Object.keys(lines(firmsOnly))).not.toContain('keeper');
    expect(troublesOf(firmsOnly.form!)).toEqual([]);
    const begun = begunWith(firmsOnly.form!, { record: { entity: 'firms', id: 'f', values: { city: 'Mill' } } });
    expect(begun.shown).toEqual({ city: 'Mill' });
    const nowhere = notOnRecord(firmsOnly, 'firms');
    expect(nowhere.form).not.toHaveProperty('link');
    expect(nowhere.form).not.toHaveProperty('panel');
    expect(standingsOf(nowhere.form!).map(({ item: { begins } }) => begins)).toEqual([undefined]);
    expect(withoutLink(document).form).not.toHaveProperty('panel');
    expect(isLinked(document.form!, { record: { by: 'field', field: document.form!.link!.others![0]!.into } })).toBe(
      true,
    );
  });
  it.each([
    ['two entities in one question', { others: [{ entity: 'firms', into: 'person' }] }, {}, /in one question/],
    ['an entity twice', { others: [{ entity: 'people', into: 'other' }] }, {}, /twice with one entity/],
    ['a record in no hidden question', { into: 'asked' }, {}, /hidden question/],
    ['what isn’t told of a person', {}, { begins: { with: 'person', value: 'shoe size' } }, /isn’t told/],
    [
      'required and filled if blank',
      {},
      { required: true, begins: { with: 'record', value: 'city', ifBlank: true } },
      /left blank/,
    ],
  ])('can’t be with %s', (_what, link, question, words) => {
    const items = [item('hidden', 'person'), item('hidden', 'other'), item('text', 'asked', question as Partial<Item>)];
    const form = formOf(items, {
      link: { system: 'crm', entity: 'people', into: 'person', required: true, ...link },
      panel: { whenGone: 'ask' },
    });
    expect(troublesOf(form).map(({ reason }) => reason)).toEqual([expect.stringMatching(words)]);
  });
});

describe('checks of a form on the page of a record', () => {
  it('names a child without the link to its parent, and sets it (K14)', () => {
    const document = onBoth();
    const bare = { ...document, plan: { steps: [{ ...document.plan.steps[0]!, lines: [] }] } };
    const missing = found(bare).filter(({ id: name }) => name === 'K14');
    expect(missing.map(({ place }) => place.field)).toEqual(['keeper', 'firm']);
    const mended = missing.reduce<IntakeDocument>((held, { mend }) => applyMend(held, mend!), bare);
    expect(found(mended).filter(({ id: name }) => name === 'K14')).toEqual([]);
    expect(found(document).filter(({ id: name }) => name === 'K14')).toEqual([]);
  });
  it('says that nobody can open it, or that nobody has (K21)', () => {
    const document = onBoth();
    const told = (more: object, origins: string[] = ['https://crm.example']) =>
      found({ ...document, settings: { perMinute: 6, allowedOrigins: origins } }, more)
        .filter(({ id: name }) => name === 'K21')
        .map(({ severity, sentence }) => `${severity}: ${sentence}`);
    expect(told({ actingSystems: [] })[0]).toMatch(/^stops: .*act as themselves in the CRM/);
    expect(told({ actingSystems: ['crm'] }, [])[0]).toMatch(/^stops: .*no page is named/);
    expect(told({ actingSystems: ['crm'], published: true, panelSeen: false })).toEqual([
      'look: No page of a record has shown the panel yet.',
    ]);
    expect(told({ actingSystems: ['crm'], published: true, panelSeen: true })).toEqual([]);
  });
  it('notices that a field it begins with is gone (K27)', () => {
    const document = fillFromParent(onBoth(), 'apiary', 'city', 'shown', asking);
    const without = {
      entities: schema.entities.map((entity) =>
        entity.name === 'firms' ? { ...entity, fields: entity.fields.filter(({ name }) => name !== 'city') } : entity,
      ),
    };
    const gone = check({ ...inputOf(document), schemas: new Map([['crm', without]]), samples: [], facts });
    expect(gone.filter(({ id: name }) => name === 'K27').map(({ sentence }) => sentence)).toEqual([
      '“City” begins with “city” of the firms, which isn’t there or can’t be seen.',
    ]);
  });
});

describe('what somebody may not do who acts as themselves', () => {
  const plan = askFor(onBoth(), 'apiary', 'city', asking).plan;
  const theirs = (rights: object, more: object = {}): Schema => ({
    entities: schema.entities.map((entity) =>
      entity.name === 'apiaries'
        ? {
            ...entity,
            rights: { ...entity.rights, ...rights },
            fields: entity.fields.map((field) => (field.name === 'city' ? { ...field, ...more } : field)),
          }
        : entity,
    ),
  });
  const said = (seen: Schema, steps = plan.steps) =>
    mayNot({ steps }, 'crm', schema, seen).map(({ what, field, surely }) => [what, field, surely]);
  it('is nothing where they may what the connection may', () => expect(said(schema)).toEqual([]));
  it('is making the record, surely, or under a condition perhaps', () => {
    expect(said(theirs({ create: false, update: false }))).toEqual([['create', undefined, true]]);
    const condition = { match: 'all' as const, parts: [] };
    expect(said(theirs({ create: false }), [{ ...plan.steps[0]!, condition }])).toEqual([['create', undefined, false]]);
    expect(said({ entities: [] })).toEqual([['create', undefined, true]]);
  });
  it('is one of two things only, where somebody is looked for first', () => {
    const looked = { ...plan.steps[0]!, recognise: [{ fields: ['city'] }], whenOne: 'update' as const };
    expect(said(theirs({ create: false }), [looked])).toEqual([['create', undefined, false]]);
    expect(said(theirs({ create: false, update: false }), [looked])).toEqual([
      ['create', undefined, true],
      ['change', undefined, true],
    ]);
  });
  it('is writing a field, which an answer that is left blank doesn’t need', () => {
    expect(said(theirs({}, { rights: 'read' }))).toEqual([['write', 'City', false]]);
    const always = { ...plan.steps[0]!.lines[0]!, from: [], constant: 'x', field: 'city' };
    expect(said(theirs({}, { rights: 'none' }), [{ ...plan.steps[0]!, lines: [always] }])).toEqual([
      ['write', 'City', true],
    ]);
  });
});
