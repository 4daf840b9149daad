import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsNumber,
  IsString,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import type { Entity, Field, Values } from '../schema/index.ts';
import { THRESHOLDS } from './matcher.ts';
import { dayOf, emailOf, hostOf, phoneOf, told } from './parts.ts';

export const KIND_NAMES = ['person', 'organisation'] as const;
export type KindName = (typeof KIND_NAMES)[number];

/** What comparisons know of a person and of an organisation; each may be held by one field of an entity. */
export const PARTS = {
  person: [
    'first_name',
    'last_name',
    'email',
    'phone',
    'mobile',
    'street',
    'city',
    'postcode',
    'country',
    'birth_date',
    'organisation',
  ],
  organisation: ['name', 'website', 'email', 'phone', 'street', 'city', 'postcode', 'country'],
} as const satisfies Record<KindName, readonly string[]>;
const ALL_PARTS = [...new Set([...PARTS.person, ...PARTS.organisation])];
export type Part = (typeof ALL_PARTS)[number];

export class RecognitionPart {
  @IsIn(ALL_PARTS) part!: Part;
  @IsString() @MaxLength(255) field!: string;
}

/** By how many bits a level weighs more, or less, in this workspace than by default. */
export class LearnedLevel {
  @IsString() @MaxLength(60) about!: string;
  @IsString() @MaxLength(60) level!: string;
  @IsNumber() @Min(-8) @Max(8) shift!: number;
}

export class RecognitionThresholds {
  /** Bits from which two records are taken for one. */
  @IsNumber() @Min(-20) @Max(60) same!: number;
  /** Bits from which somebody is asked. */
  @IsNumber() @Min(-20) @Max(60) unsure!: number;
}

/** How records of an entity are recognised by evidence, as one versioned document. */
export class Recognition {
  @IsIn(KIND_NAMES) kind!: KindName;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(20)
  @ValidateNested({ each: true })
  @Type(() => RecognitionPart)
  parts!: RecognitionPart[];
  @ValidateNested() @Type(() => RecognitionThresholds) thresholds!: RecognitionThresholds;
  @IsArray() @ArrayMaxSize(200) @ValidateNested({ each: true }) @Type(() => LearnedLevel) learned!: LearnedLevel[];
}

/** What is wrong with a recognition beyond its shape; undefined: nothing. */
export function troubleWith(recognition: Recognition, entity: Entity): { at: string; what: string } | undefined {
  const { kind, parts, thresholds } = recognition;
  if (thresholds.unsure > thresholds.same)
    return { at: 'thresholds.unsure', what: 'must not lie above the line from which two are the same' };
  const seen = new Set<string>();
  for (const [at, { part, field }] of parts.entries()) {
    if (!(PARTS[kind] as readonly string[]).includes(part))
      return { at: `parts.${at}.part`, what: `${part} says nothing about a ${kind}` };
    if (seen.has(part)) return { at: `parts.${at}.part`, what: `${part} is told by two fields` };
    seen.add(part);
    if (!entity.fields.some(({ name, rights }) => name === field && rights !== 'none'))
      return { at: `parts.${at}.field`, what: `${entity.label} has no field “${field}” that can be seen` };
  }
  const needed = kind === 'person' ? 'last_name' : 'name';
  return seen.has(needed) ? undefined : { at: 'parts', what: `must say which field holds the ${needed}` };
}

const WORDS: Record<Part, RegExp> = {
  first_name: /\b(?:first|given|fore|vor)\s?names?\b|\bvorname|\bimi[eę]\b|\bpr[eé]nom/,
  last_name: /\b(?:last|family|sur)\s?name|\bnachname|\bnazwisk|\bnom de famille|\bapellido/,
  name: /\bname\b|\bnazwa\b|\bfirma\b|\bnom\b/,
  email: /\be-?mail|\bmail\b/,
  mobile: /\bmobile?\b|\bcell|\bhandy|\bkom[oó]rk|\bportable/,
  phone: /\bphone|\btelephone|\btelefon|\btel\b/,
  street: /\bstreet|\bstra(?:ss|ß)e|\bulica|\brue\b|\baddress ?(?:line)? ?1?\b|\badresse\b|\badres\b/,
  city: /\bcity|\btown|\bort\b|\bstadt|\bmiasto|\bville\b|\bplace\b/,
  postcode: /\bpost ?code|\bpostal|\bzip|\bplz\b|\bpostleitzahl|\bkod pocztowy/,
  country: /\bcountry|\bland\b|\bkraj\b|\bpays\b/,
  birth_date: /\bbirth|\bgeburt|\bborn\b|\burodz|\bnaissance/,
  organisation: /\borgani[sz]ation|\bcompany|\bfirm|\bemployer|\bverein|\bclub\b/,
  website: /\bweb|\bhomepage|\burl\b|\binternet/,
};
const TEXTS = ['text', 'long text'];

const couldHold = (part: Part, { type }: Field): boolean => {
  if (part === 'email') return type === 'email' || type === 'text';
  if (part === 'phone' || part === 'mobile') return type === 'phone' || type === 'text';
  if (part === 'website') return type === 'web address' || type === 'text';
  if (part === 'birth_date') return type === 'date';
  if (part === 'country') return type === 'option' || TEXTS.includes(type);
  return TEXTS.includes(type);
};

const allOf = (kind: KindName): readonly Part[] => PARTS[kind];

/** Which of an entity's fields say what, as far as names and types tell; undefined where it keeps neither people nor organisations. */
export function suggestRecognition(entity: Entity): Recognition | undefined {
  const kindsInOrder: KindName[] = ['person', 'organisation'];
  for (const kind of kindsInOrder) {
    const taken = new Set<string>();
    const parts: RecognitionPart[] = [];
    // A mobile number is a phone too: what is said more narrowly comes first.
    const order = [...PARTS[kind]].sort((a, b) => Number(b === 'mobile') - Number(a === 'mobile'));
    for (const part of order) {
      const field = entity.fields.find(
        (each) =>
          each.rights !== 'none' &&
          !taken.has(each.name) &&
          couldHold(part, each) &&
          WORDS[part].test(`${each.label} ${each.name.replace(/[_-]/g, ' ')}`.toLowerCase()),
      );
      if (!field) continue;
      taken.add(field.name);
      parts.push({ part, field: field.name });
    }
    parts.sort((a, b) => allOf(kind).indexOf(a.part) - allOf(kind).indexOf(b.part));
    const has = (part: Part): boolean => parts.some((each) => each.part === part);
    const besides = ['email', 'phone', 'street', 'birth_date'].some((part) => has(part as Part));
    const fits = kind === 'person' ? has('last_name') && besides : has('name') && (has('website') || has('street'));
    if (fits) return { kind, parts, thresholds: { ...THRESHOLDS }, learned: [] };
  }
  return wholeNames(entity);
}

/** Somebody named in one field, with a mailbox or a telephone beside it: a booking's contact, an order's buyer. */
function wholeNames(entity: Entity): Recognition | undefined {
  const find = (part: Part, words = WORDS[part]): RecognitionPart[] => {
    const field = entity.fields.find(
      (each) =>
        each.rights !== 'none' &&
        couldHold(part, each) &&
        words.test(`${each.label} ${each.name.replace(/[_-]/g, ' ')}`.toLowerCase()),
    );
    return field ? [{ part, field: field.name }] : [];
  };
  const name = find('last_name', /\bname\b/);
  const reached = [...find('email'), ...find('phone')];
  if (name.length === 0 || reached.length === 0) return undefined;
  const street = find('street');
  // A place without a street may be any place.
  const parts = [...name, ...reached, ...(street.length > 0 ? [...street, ...find('city'), ...find('postcode')] : [])];
  return { kind: 'person', parts, thresholds: { ...THRESHOLDS }, learned: [] };
}

/** Whether a value only fills its field: a placeholder, or something no such value can be. Blank is not meant. */
export function saysNothing(part: Part, value: string): boolean {
  if (value.trim() === '') return false;
  if (part === 'email') return emailOf(value) === undefined;
  if (part === 'phone' || part === 'mobile') return phoneOf(value, undefined) === undefined;
  if (part === 'birth_date') return dayOf(value) === undefined;
  if (part === 'website') return hostOf(value) === '';
  return told(value) === '';
}

/** A record's values under the names that comparisons know. */
export function partsOf(recognition: Recognition, id: string, values: Values): { id: string } & Record<string, string> {
  const record: { id: string } & Record<string, string> = { id };
  for (const { part, field } of recognition.parts) {
    const value = values[field];
    if (value === undefined || value === null || typeof value === 'boolean') continue;
    record[part] = Array.isArray(value) ? value.join(' ') : String(value);
  }
  return record;
}
