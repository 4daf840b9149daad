import { typeOf } from '../forms/index.ts';
import { fold } from '../values/index.ts';
import { qualifiersOf, withoutCompounds, type Meaning } from './lexicon.ts';
import { readFields, type Reader, type Reading, type Whose } from './reading/index.ts';
import type { SourceField, TargetEntity } from './suggestion.ts';
import { tellingWords } from './words.ts';

/** What a field says of itself, on a form or in a record: its words, what they are taken to mean, its type. */
export interface Side {
  nameWords: string[];
  labelWords: string[];
  reading: Reading;
  /** What it means, where that is likelier than everything else together. */
  meaning: Meaning | undefined;
  qualifiers: Set<string>;
  type: string;
  hidden: boolean;
  /** It tells of somebody else than its record is about: a person's employer, an order's address. */
  guest: boolean;
  options: Set<string> | undefined;
}

/** Words by which somebody is spoken of. */
const PERSON = new Set(
  'person contact people attendee participant subscriber user customer member keeper lead client kontakt osoba klient personne persona persoon kunde mitglied'.split(
    ' ',
  ),
);
/** Words by which an organisation is spoken of. */
const ORGANISATION = new Set(
  'organisation organization company account firm business club orchard farm firma unternehmen verein societe entreprise empresa bedrijf azienda organizacja'.split(
    ' ',
  ),
);

/** Reads the fields of a form together. @param read how fields are read; another reader only while weights are learned */
export function sidesOfForm(fields: readonly SourceField[], read: Reader = readFields): Side[] {
  const typed = fields.map((field) => ({ ...field, type: typeBySamples({ ...field, type: ourType(field.type) }) }));
  const readings = read(typed);
  return typed.map((field, at) => sideOf(field, readings[at]!));
}

/** Reads the fields of an entity together; whose they are is what most of them say, and what its records are called. */
export function sidesOfEntity(entity: TargetEntity, read: Reader = readFields): Side[] {
  const typed = entity.fields.map((field) => ({ ...field, type: ourType(field.type) }));
  const readings = read(typed.map((field) => ({ ...field, section: entity.label })));
  const about = whoseRecords(entity, readings);
  return typed.map((field, at) => {
    const reading = readings[at]!;
    if (!about) return sideOf(field, reading);
    const leant = leaning(reading, about);
    return { ...sideOf(field, leant), guest: !leant.whose.has(about) };
  });
}

/** Bare texts are what their samples look like. */
function typeBySamples({ type, samples }: SourceField): string {
  if (type !== 'text' || !samples) return type;
  const shape = typeOf(samples.slice(0, 50));
  return shape !== undefined && shape !== 'long text' ? shape : type;
}

/** Words that only ask for a number: “How many hives?” asks for what a record calls hives. */
const ASKING = new Set(
  'how many much wie viele viel ile combien cuantos cuantas quantos quantas hoeveel quanti quante'.split(' '),
);

function whatIsAsked(words: string[]): string[] {
  const asked = words.filter((word) => !ASKING.has(word));
  return asked.length > 0 ? asked : words;
}

function sideOf(field: TargetEntity['fields'][number] & { hidden?: boolean }, reading: Reading): Side {
  const nameWords = withoutCompounds(tellingWords(field.name));
  const labelWords = whatIsAsked(withoutCompounds(tellingWords(field.label)));
  const [likeliest] = [...reading.meanings].sort(([, a], [, b]) => b - a);
  return {
    nameWords,
    labelWords,
    reading,
    meaning: likeliest && likeliest[1] > 0.5 ? likeliest[0] : undefined,
    qualifiers: qualifiersOf([...nameWords, ...labelWords]),
    type: field.type,
    hidden: field.hidden === true,
    guest: false,
    options: field.options
      ? new Set(
          field.options.flatMap((option) =>
            typeof option === 'string' ? [fold(option)] : [fold(option.value), fold(option.label)],
          ),
        )
      : undefined,
  };
}

const PERSONAL = new Set<Meaning>(['given name', 'family name', 'birth date', 'job', 'gender']);
const CORPORATE = new Set<Meaning>(['tax number', 'employees']);

/** Whether an entity's records are people or organisations, by what it is called, else by what only these have. */
function whoseRecords({ label, name }: TargetEntity, readings: readonly Reading[]): Whose | undefined {
  const words = [...tellingWords(label), ...tellingWords(name)];
  if (words.some((word) => PERSON.has(word))) return 'the visitor';
  if (words.some((word) => ORGANISATION.has(word))) return 'their organisation';
  const having = (meanings: ReadonlySet<Meaning>): number =>
    readings.filter((reading) => [...reading.meanings].some(([meaning, share]) => share > 0.5 && meanings.has(meaning)))
      .length;
  if (having(PERSONAL) >= 2) return 'the visitor';
  return having(CORPORATE) >= 1 && having(PERSONAL) === 0 ? 'their organisation' : undefined;
}

/** Fields that say otherwise by themselves keep it: a person's employer, an order's delivery address. */
const OWN: readonly Whose[] = ['the bill', 'the delivery', 'the matter', 'somebody else'];

/** A bare name is what the records of its entity are called; and its fields are theirs. */
function leaning(reading: Reading, about: Whose): Reading {
  const meanings = new Map(reading.meanings);
  const named = (meanings.get('name') ?? 0) + (meanings.get('full name') ?? 0);
  const theirs: Meaning = about === 'their organisation' ? 'organisation' : 'full name';
  if (named > 0) {
    for (const meaning of ['name', 'full name'] as const) meanings.delete(meaning);
    meanings.set(theirs, named + (meanings.get(theirs) ?? 0));
  }
  const said: Whose | undefined =
    about === 'the visitor' && (meanings.get('organisation') ?? 0) > 0.5
      ? 'their organisation'
      : about === 'their organisation' && [...PERSONAL].some((each) => (meanings.get(each) ?? 0) > 0.5)
        ? 'the visitor'
        : OWN.find((each) => (reading.whose.get(each) ?? 0) > 0.6);
  return { ...reading, meanings, whose: new Map([[said ?? about, 1]]) };
}

const FAMILIES: Record<string, string> = {
  text: 'text',
  'long text': 'text',
  email: 'email',
  phone: 'phone',
  tel: 'phone',
  'web address': 'web',
  url: 'web',
  number: 'number',
  integer: 'number',
  date: 'date',
  'date and time': 'date',
  time: 'time',
  duration: 'duration',
  datetime: 'date',
  'yes/no': 'yes/no',
  boolean: 'yes/no',
  checkbox: 'yes/no',
  option: 'choice',
  options: 'choice',
  select: 'choice',
  radio: 'choice',
  file: 'file',
  reference: 'reference',
  id: 'reference',
};

/** A type by our name for it; those asking from elsewhere have names of their own, and what isn't known is a text. */
function ourType(type: string): string {
  const said = type.toLowerCase();
  return Object.hasOwn(FAMILIES, said) ? said : 'text';
}

/** The family a field's type belongs to, by which types are compared. */
export const familyOf = ({ type }: Pick<Side, 'type'>): string => FAMILIES[type] ?? 'text';

/** A text goes in as it is: no reference, no choice. */
export const takesText = (side: Side): boolean => familyOf(side) === 'text';
