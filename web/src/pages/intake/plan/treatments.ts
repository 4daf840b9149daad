import { pairOptions, type Treatment, type TreatmentKind } from '@zusammen/core/mapping';
import { calledBy, type Field, type Schema } from '@zusammen/core/schema';

/** What treatments are called where one is chosen, those that go together under one heading. */
export const TREATMENT_GROUPS: { name: string; kinds: [TreatmentKind, string][] }[] = [
  {
    name: 'Texts',
    kinds: [
      ['trim', 'trim spaces'],
      ['case', 'capital and small letters'],
      ['replace', 'replace a text'],
      ['shorten', 'cut at a length'],
      ['default', 'stand-in for a blank'],
    ],
  },
  {
    name: 'Parts',
    kinds: [
      ['join', 'join'],
      ['split', 'split'],
      ['list', 'one of several, how many, each once'],
      ['name part', 'part of a full name'],
      ['address part', 'part of an address'],
    ],
  },
  {
    name: 'Kinds of value',
    kinds: [
      ['phone', 'phone'],
      ['email', 'e-mail'],
      ['web address', 'web address'],
      ['country', 'country'],
      ['language', 'language'],
      ['number', 'number'],
      ['money', 'money'],
      ['date', 'date'],
    ],
  },
  {
    name: 'Meaning',
    kinds: [
      ['options', 'pair options'],
      ['lookup', 'look up a record by name'],
      ['compute', 'compute (CEL)'],
    ],
  },
];

interface Around {
  field: Field | undefined;
  sources: readonly { name: string; type: string; options?: readonly { value: string; label: string }[] }[];
  settings: { country?: string; locale?: string };
  schema: Schema | undefined;
}

/** A treatment as it starts out: with what the line, the form and the record already say. */
export function freshTreatment(kind: TreatmentKind, { field, sources, settings, schema }: Around): Treatment {
  switch (kind) {
    case 'phone':
      return settings.country ? { kind, country: settings.country } : { kind };
    case 'options':
      return {
        kind,
        pairs: pairOptions(
          sources.flatMap(({ options }) => options ?? []),
          field?.options ?? [],
        ),
      };
    case 'join':
      return { kind, separator: ' ' };
    case 'split':
      return { kind, separator: ',' };
    case 'case':
      return { kind, case: 'title' };
    case 'default':
      return { kind, value: '' };
    case 'replace':
      return { kind, find: '', with: '' };
    case 'list':
      return { kind, take: 'first' };
    case 'name part':
      return { kind, take: 'family' };
    case 'address part':
      return { kind, take: 'street' };
    case 'country':
    case 'language':
      return { kind, as: 'code' };
    case 'money':
      return { kind, take: 'amount' };
    case 'shorten':
      return field?.maxBytes === undefined
        ? { kind, limit: field?.maxLength ?? 255, unit: 'characters' }
        : { kind, limit: field.maxBytes, unit: 'bytes' };
    case 'compute':
      return { kind, expression: 'value' };
    case 'lookup': {
      const related = schema?.entities.find(({ name }) => name === field?.relation);
      const by = related && calledBy(related);
      return { kind, ...(related ? { entity: related.name } : {}), ...(by === undefined ? {} : { by }) };
    }
    default:
      return { kind };
  }
}
