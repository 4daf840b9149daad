import { typeOf } from '../forms/index.ts';
import { fold } from '../values/index.ts';
import { AUTOFILL, meaningAlone, meaningsOf, qualifiersOf, withoutCompounds, type Meaning } from './lexicon.ts';
import type { SourceField, TargetEntity } from './suggestion.ts';
import { tellingWords } from './words.ts';

/** What a field says of itself, on a form or in a record: its words, what they mean, its type. */
export interface Side {
  nameWords: string[];
  labelWords: string[];
  meanings: Map<Meaning, string>;
  qualifiers: Set<string>;
  type: string;
  options: Set<string> | undefined;
  /** What a record of this entity is called; '' for a form's field. */
  about: 'person' | 'organisation' | '';
}

/** Words by which somebody is spoken of. */
export const PERSON = new Set('person contact people attendee participant subscriber user customer member'.split(' '));
/** Words by which an organisation is spoken of. */
export const ORGANISATION = new Set(
  'organisation organization company account firm business club orchard farm'.split(' '),
);

/** Reads a field's words, options and type. @param entity what its records are called; '' for a form's field */
export function readSide(
  name: string,
  label: string,
  field: SourceField | TargetEntity['fields'][number],
  entity: string,
): Side {
  const nameWords = withoutCompounds(tellingWords(name));
  const labelWords = withoutCompounds(tellingWords(label));
  const meanings = new Map<Meaning, string>();
  const alone = meaningAlone(labelWords);
  if (alone) meanings.set(alone, labelWords[0]!);
  for (const { meaning, phrase } of [...meaningsOf(labelWords), ...meaningsOf(nameWords)]) {
    if (!meanings.has(meaning)) meanings.set(meaning, phrase);
  }
  const token = 'autocomplete' in field ? field.autocomplete?.split(/\s+/).at(-1) : undefined;
  const autofill = token === undefined ? undefined : AUTOFILL[token];
  if (autofill && !meanings.has(autofill)) meanings.set(autofill, token!);
  const said = field.type.toLowerCase();
  // A bare text is what its samples look like.
  const shape = 'samples' in field && field.samples ? typeOf(field.samples.slice(0, 50)) : undefined;
  const type = said === 'text' && shape !== undefined && shape !== 'long text' ? shape : said;
  const byType = ({ email: 'email', phone: 'phone', tel: 'phone', 'web address': 'website', url: 'website' } as const)[
    type
  ];
  if (byType && meanings.size === 0) meanings.set(byType, type);
  dropGeneral(meanings);
  const entityWords = tellingWords(entity);
  const about = entityWords.some((word) => PERSON.has(word))
    ? 'person'
    : entityWords.some((word) => ORGANISATION.has(word))
      ? 'organisation'
      : '';
  // In an entity of organisations a bare "name" is the organisation's.
  if (about === 'organisation' && meanings.has('name')) meanings.set('organisation', meanings.get('name')!);
  if (about === 'person' && meanings.has('name')) meanings.set('full name', meanings.get('name')!);
  return {
    nameWords,
    labelWords,
    meanings,
    qualifiers: qualifiersOf([...nameWords, ...labelWords]),
    type,
    options: field.options
      ? new Set(
          field.options.flatMap((option) =>
            typeof option === 'string' ? [fold(option)] : [fold(option.value), fold(option.label)],
          ),
        )
      : undefined,
    about,
  };
}

/** A general meaning beside a particular one says nothing more: "contact e-mail" is an e-mail, not a contact's name. */
function dropGeneral(meanings: Map<Meaning, string>): void {
  const particular = [...meanings.keys()].filter(
    (each) => each !== 'name' && each !== 'full name' && each !== 'organisation',
  );
  if (particular.length > 0) {
    meanings.delete('name');
    if (
      particular.some((each) =>
        ['given name', 'family name', 'email', 'phone', 'mobile', 'fax', 'job', 'message'].includes(each),
      )
    ) {
      meanings.delete('full name');
    }
    if (
      particular.some((each) =>
        ['email', 'phone', 'mobile', 'website', 'tax number', 'city', 'postcode', 'street'].includes(each),
      )
    ) {
      meanings.delete('organisation');
    }
  }
  if (meanings.has('mobile')) meanings.delete('phone');
  if (meanings.has('email')) meanings.delete('address');
  if (meanings.has('website')) meanings.delete('address');
  if (meanings.has('start') || meanings.has('end') || meanings.has('birth date')) meanings.delete('date');
}

/**
 * A bare "name" beside a family name is the given name (nombre, apellidos), beside a given name the family name
 * (Vorname, Name).
 */
export function tellNamesApart(from: readonly Side[]): void {
  const plain = from.filter(({ qualifiers }) => qualifiers.size === 0);
  const having = (meaning: Meaning): Side[] => plain.filter(({ meanings }) => meanings.has(meaning));
  const bare = plain.filter(({ meanings }) => meanings.size === 1 && meanings.has('name'));
  if (bare.length !== 1 || having('full name').length > 0) return;
  const [given, family] = [having('given name').length, having('family name').length];
  const meant = given === 1 && family === 0 ? 'family name' : given === 0 && family === 1 ? 'given name' : undefined;
  if (!meant) return;
  const { meanings } = bare[0]!;
  meanings.set(meant, meanings.get('name')!);
  meanings.delete('name');
}

const FAMILIES: Record<string, string> = {
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

/** The family a field's type belongs to, by which types are compared. */
export const familyOf = ({ type }: Side): string => FAMILIES[type] ?? 'text';

/** A text goes in as it is: no reference, no choice. */
export const takesText = (side: Side): boolean => familyOf(side) === 'text';
