import { metadataJson, metadataXml } from '../../../standins/crm/metadata.ts';
import { callerOf } from '../../../standins/crm/rights.ts';
import { NotUnderstood } from '../system.ts';
import { readCsdl } from './csdl.ts';
import { capabilitiesOf, schemaOf } from './schema.ts';

const caller = callerOf('Bearer demo-integration', 'x')!;
const xml = readCsdl(metadataXml(caller));
const json = readCsdl(JSON.stringify(metadataJson(caller)));

describe('metadata', () => {
  it('says the same as XML and as JSON', () => {
    expect(schemaOf(xml)).toEqual(schemaOf(json));
    expect(capabilitiesOf(xml)).toEqual(capabilitiesOf(json));
    expect(capabilitiesOf(json)).toMatchObject({ repeatability: true, batch: true });
  });
  it('tells types, options, limits, uniqueness and what is required', () => {
    const people = schemaOf(xml).entities.find(({ name }) => name === 'People')!;
    const field = (name: string) => people.fields.find((each) => each.name === name);
    expect(people.label).toBe('Person');
    expect(field('last_name')).toMatchObject({ type: 'text', required: true, maxLength: 80, label: 'Family name' });
    expect(field('member_number')).toMatchObject({ unique: true, immutable: true });
    expect(field('letters_sent')).toMatchObject({ type: 'integer', computed: true });
    expect(field('language')).toMatchObject({
      type: 'option',
      options: [{ value: 'en', label: 'English' }, { value: 'de' }, { value: 'pl' }],
    });
    expect(field('interests')).toMatchObject({ type: 'options', required: false });
    expect(field('letters_allowed')).toMatchObject({ type: 'yes/no', defaulted: true });
    expect(field('national_id')).toMatchObject({ rights: 'none' });
    expect(schemaOf(xml).entities.find(({ name }) => name === 'Users')!.rights).toEqual({
      read: true,
      create: false,
      update: false,
      delete: false,
    });
  });
  const schema = (types: string, sets: string) =>
    schemaOf(
      readCsdl(
        `<edmx:Edmx xmlns:edmx="x" Version="4.0"><edmx:DataServices><Schema Namespace="n" Alias="a">${types}<EntityContainer Name="C">${sets}</EntityContainer></Schema></edmx:DataServices></edmx:Edmx>`,
      ),
    );
  it('names what can’t be worked with, and why', () => {
    const { entities, unusable } = schema(
      `<EntityType Name="Keyless"><Property Name="x" Type="Edm.String"/></EntityType>
       <EntityType Name="Fine"><Key><PropertyRef Name="id"/></Key><Property Name="id" Type="Edm.Int32"/>
         <Property Name="photo" Type="Edm.Stream"/><Property Name="rows" Type="Collection(n.Row)"/><Property Name="odd" Type="m.Elsewhere"/></EntityType>
       <ComplexType Name="Row"><Property Name="y" Type="Edm.String"/></ComplexType>`,
      '<EntitySet Name="Keyless" EntityType="a.Keyless"/><EntitySet Name="Fine" EntityType="a.Fine"/><EntitySet Name="Gone" EntityType="n.Gone"/>',
    );
    expect(unusable).toEqual([
      { name: 'Keyless', why: expect.stringMatching(/no key/) },
      { name: 'Gone', why: expect.stringMatching(/isn’t described/) },
    ]);
    const closed = Object.fromEntries(entities[0]!.fields.map(({ name, closed: why }) => [name, why]));
    expect(closed).toMatchObject({
      photo: expect.stringMatching(/Edm\.Stream/),
      rows: expect.stringMatching(/list of structures/),
      odd: expect.stringMatching(/isn’t described/),
    });
    expect(closed['id']).toBeUndefined();
  });
  it('leads relations to the set they are bound to, where several have the type', () => {
    const person =
      '<EntityType Name="P"><Key><PropertyRef Name="id"/></Key><Property Name="id" Type="Edm.Int32"/><NavigationProperty Name="boss" Type="n.P"/></EntityType>';
    const bound = schema(
      person,
      '<EntitySet Name="A" EntityType="n.P"><NavigationPropertyBinding Path="boss" Target="B"/></EntitySet><EntitySet Name="B" EntityType="n.P"/>',
    );
    const boss = (set: string) =>
      bound.entities.find(({ name }) => name === set)!.fields.find(({ name }) => name === 'boss');
    expect(boss('A')).toMatchObject({
      type: 'reference',
      linked: true,
      relation: 'B',
      linkKey: 'id',
      native: 'Edm.Int32',
    });
    // Which of the two is meant isn't said, so nothing is guessed.
    expect(boss('B')?.closed).toMatch(/no list of its own/);
  });
  it('takes no time for types that lead to one another a thousand times', () => {
    const many = (make: (at: number) => string) => Array.from({ length: 4_000 }, (_, at) => make(at)).join('');
    // The square of it would take longer than a test may.
    const { entities } = schema(
      `<EntityType Name="P"><Key><PropertyRef Name="p0"/></Key>${many((at) => `<Property Name="p${at}" Type="Edm.String"/>`)}${many((at) => `<NavigationProperty Name="n${at}" Type="n.P"><ReferentialConstraint Property="p${at}" ReferencedProperty="p0"/></NavigationProperty>`)}</EntityType>`,
      '<EntitySet Name="P" EntityType="n.P"/>',
    );
    expect(entities[0]!.fields).toHaveLength(4_000);
  });
  it.each([['<!doctype html><p>Hi'], ['{"a": 1}'], ['{'], ['<a/>'], ['<edmx:Edmx'], ['']])(
    '%s is not understood, in words',
    (text) => {
      expect(() => readCsdl(text)).toThrow(NotUnderstood);
    },
  );
  it('isn’t blown up by entities that expand', () => {
    const bomb = `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "${'b'.repeat(1000)}">${Array.from({ length: 8 }, (_, at) => `<!ENTITY a${at} "${`&a${at === 0 ? '' : at - 1};`.repeat(10)}">`).join('')}]><edmx:Edmx xmlns:edmx="x"><edmx:DataServices><Schema Namespace="n"><EntityType Name="&a7;"/></Schema></edmx:DataServices></edmx:Edmx>`;
    const before = process.memoryUsage().heapUsed;
    try {
      readCsdl(bomb);
    } catch (error) {
      expect(error).toBeInstanceOf(NotUnderstood);
    }
    expect(process.memoryUsage().heapUsed - before).toBeLessThan(200_000_000);
  });
});
