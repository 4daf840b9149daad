import { applyMend, check, inputOf } from '../checks/index.ts';
import { formOf, item } from '../testing/hosted.ts';
import { makeEntity, makeField, makeLine } from '../testing/world.ts';
import { readAnswers, standingsOf, troublesOf, type Item } from '../forms/hosted/index.ts';
import { withForm, type IntakeDocument } from '../intake/index.ts';
import { blankStep } from '../plans/index.ts';
import type { Schema } from '../schema/index.ts';
import { askFor, becomesOurs, copyItem } from './index.ts';

/** A page's form as one of ours, and questions taken from one form to another. */
const options = (...values: string[]) => values.map((value) => ({ value, label: value.toUpperCase() }));
const schemaWith = (...kinds: string[]): Schema => ({
  entities: [
    makeEntity('people', [
      makeField('name'),
      makeField('kind', { type: 'option', label: 'Kind', options: options(...kinds) }),
    ]),
  ],
});
let made = 0;
const newId = (): string => `n${(made += 1)}`;
const asking = { schemas: new Map([['crm', schemaWith('a', 'b')]]), newId };
const document = (items: Item[], more: Partial<IntakeDocument> = {}): IntakeDocument =>
  withForm(
    {
      ...{ format: 1, name: 'A form', source: { kind: 'ours' }, fields: [], settings: { perMinute: 60 } },
      plan: { steps: [blankStep('person', 'crm', 'people')] },
      ...more,
    } as IntakeDocument,
    formOf(items, { languages: ['en'] }),
  );
const names = ({ form }: IntakeDocument): string[] => standingsOf(form!).map(({ name }) => name);

describe('a question copied to another form', () => {
  it('comes under a name of its own, with ids of its own, and its line where one fits', () => {
    const from = askFor(document([]), 'person', 'kind', asking);
    const [kind] = standingsOf(from.form!);
    const into = document([item('text', 'kind')]);
    const copied = copyItem(from, kind!.item.id, into, asking);
    expect(names(copied)).toEqual(['kind', 'kind_2']);
    expect(standingsOf(copied.form!)[1]!.item).toMatchObject({ kind: 'one of', options: kind!.item.options! });
    expect(standingsOf(copied.form!)[1]!.item.id).not.toBe(kind!.item.id);
    expect(copied.plan.steps[0]!.lines.map(({ from: of, field }) => [of, field])).toEqual([[['kind_2'], 'kind']]);
    expect(troublesOf(copied.form!)).toEqual([]);
    // What is filled already stays as it is.
    expect(copyItem(from, kind!.item.id, copied, asking).plan).toEqual(copied.plan);
  });
  it('leaves behind what it can’t have there, and keeps what its own rows go by', () => {
    const shown = (field: string) => ({ match: 'all' as const, parts: [{ field, test: 'is' as const, value: 'x' }] });
    const group = item('group', 'guests', {
      shown: shown('other'),
      items: [item('text', 'name'), item('text', 'meal', { shown: shown('guests[0][name]') })],
    });
    const from = document([item('text', 'other'), group]);
    const copied = copyItem(
      from,
      group.id,
      document([item('group', 'guests', { items: [item('text', 'x')] })]),
      asking,
    );
    expect(names(copied)).toEqual(['guests', 'guests[0][x]', 'guests_2', 'guests_2[0][name]', 'guests_2[0][meal]']);
    const [, , rows, , meal] = standingsOf(copied.form!).map((each) => each.item);
    expect(rows!.shown).toBeUndefined();
    expect(meal!.shown).toEqual(shown('guests_2[0][name]'));
    expect(troublesOf(copied.form!)).toEqual([]);
  });
  it('of nothing is nothing', () => {
    const into = document([]);
    expect(copyItem(document([]), 'gone', into, asking)).toBe(into);
  });
});

describe('a page’s form that becomes one of ours', () => {
  const page = (fields: object[], more = {}): IntakeDocument =>
    ({
      ...{ format: 1, name: 'Enquiry', source: { kind: 'page', page: 'https://garden.example' }, fields },
      plan: { steps: [{ ...blankStep('person', 'crm', 'people'), lines: [makeLine(['thema[]'], 'name')] }] },
      settings: { perMinute: 60, locale: 'de-DE' },
      ...more,
    }) as unknown as IntakeDocument;
  it('asks the same under the same names; where one can’t stay, lines follow', () => {
    const { document: ours, renamed } = becomesOurs(
      page([
        { name: 'mail', label: 'E-Mail', type: 'email', required: true, autocomplete: 'email' },
        {
          name: 'thema[]',
          label: 'Thema',
          type: 'options',
          required: false,
          options: options('a', 'b'),
          multiple: true,
        },
        { name: 'wer[0][name]', label: 'Name', type: 'text', required: true, group: 'wer', section: 'Gäste' },
        { name: 'wer[1][name]', label: 'Name', type: 'text', required: false, group: 'wer' },
        { name: 'utm_source', label: '', type: 'text', required: false, hidden: true },
        { name: 'hektar', label: 'Hektar', type: 'number', required: false, minimum: '0.5', maximum: '40' },
      ]),
      newId,
    );
    expect(ours.source).toEqual({ kind: 'ours', page: 'https://garden.example' });
    expect(names(ours).filter(Boolean)).toEqual(['mail', 'thema', 'wer', 'wer[0][name]', 'utm_source', 'hektar']);
    expect(renamed).toEqual([{ was: 'thema[]', is: 'thema' }]);
    expect(ours.plan.steps[0]!.lines[0]!.from).toEqual(['thema']);
    const read = readAnswers(
      ours.form!,
      { mail: 'a@b.example', thema: ['a'], 'wer[0][name]': 'Zosia', hektar: '12,5' },
      { language: 'de', today: '2027-04-20' },
    );
    expect(read).toEqual({
      ok: true,
      values: { mail: 'a@b.example', thema: ['a'], 'wer[0][name]': 'Zosia', hektar: '12.5' },
    });
  });
});

describe('K27 for options that a field has got since it was asked for', () => {
  const findings = (held: IntakeDocument, schema: Schema) =>
    check({ ...inputOf(held), schemas: new Map([['crm', schema]]), samples: [], facts: {} }).filter(
      ({ id, sentence }) => id === 'K27' && sentence.includes('since'),
    );
  const asked = askFor(document([]), 'person', 'kind', asking);
  it('says so, and offers them', () => {
    expect(findings(asked, schemaWith('a', 'b'))).toEqual([]);
    const [found] = findings(asked, schemaWith('a', 'b', 'c'));
    expect(found).toMatchObject({ severity: 'look', sentence: expect.stringContaining('“C”') });
    const mended = applyMend(asked, found!.mend!);
    expect(standingsOf(mended.form!)[0]!.item.options!.map(({ value }) => value)).toEqual(['a', 'b', 'c']);
    expect(findings(mended, schemaWith('a', 'b', 'c'))).toEqual([]);
  });
  it('says nothing of options that were left out on purpose', () => {
    const form = structuredClone(asked.form!);
    form.pages[0]!.items[0]!.options!.pop();
    expect(findings(withForm(asked, form), schemaWith('a', 'b'))).toEqual([]);
  });
});

describe('K27 for what is to be paid', () => {
  const charges = [{ id: 'a', label: { en: 'A fee' }, by: 'fixed' as const, minor: 100 }];
  const paid = { ...document([]) };
  paid.form = { ...paid.form!, fee: { service: 'till', currency: 'EUR', charges, refunded: 'paid-back' } };
  const said = (facts: object): string[] =>
    check({ ...inputOf(paid), schemas: asking.schemas, samples: [], facts })
      .filter(({ id }) => id === 'K27')
      .map(({ severity, sentence }) => `${severity}: ${sentence}`);
  it('stops where its service is gone, and names an intake that takes nothing', () => {
    expect(said({ paymentServices: ['till'], openIntakes: ['paid-back'] })).toEqual([]);
    expect(said({})).toEqual([]);
    expect(said({ paymentServices: [], openIntakes: [] })).toEqual([
      expect.stringMatching(/^stops: .*isn’t connected any more/),
      expect.stringMatching(/^look: .*paid-back/),
    ]);
  });
});
