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
