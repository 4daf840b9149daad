import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsISO31661Alpha2,
  IsOptional,
  IsString,
  IsTimeZone,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { FormField } from '../forms/index.ts';
import { Condition } from '../expressions/index.ts';
import { Line } from '../mapping/index.ts';

/** Fields of a record whose values together name it; compared exactly, but for the case of e-mail addresses. */
export class RecognitionKey {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(5) @IsString({ each: true }) fields!: string[];
}

export const WHEN_NONE = ['create', 'skip', 'ask', 'stop'] as const;
export const WHEN_ONE = ['update', 'leave', 'delete', 'skip', 'ask', 'stop'] as const;
export const WHEN_SEVERAL = ['ask', 'skip', 'stop'] as const;

/** Which record a step is about when it isn't recognised: that of an earlier step, or the one the submission names. */
export class GivenRecord {
  @IsIn(['step', 'field']) by!: 'step' | 'field';
  /** By step: the earlier step whose record it is. */
  @IsOptional() @IsString() @MaxLength(64) step?: string;
  /** By field: the form's field that holds the record's id. */
  @IsOptional() @IsString() @MaxLength(500) field?: string;
}

/**
 * One entity, three questions: which record (`recognise`, `evidence`; neither: always a new one), what if none / one /
 * several are found, and which values (`lines`).
 */
export class Step {
  @IsString() @MaxLength(64) id!: string;
  @IsString() @MaxLength(64) system!: string;
  @IsString() @MaxLength(255) entity!: string;
  /** Tried in order; the first key with a value for each of its fields that finds something decides. */
  @IsArray() @ArrayMaxSize(10) @ValidateNested({ each: true }) @Type(() => RecognitionKey) recognise!: RecognitionKey[];
  /** Where no key has found anything, all values together are weighed, as the entity's recognition says. */
  @IsOptional() @IsBoolean() evidence?: boolean;
  /** The record is given; neither is asked then. */
  @IsOptional() @ValidateNested() @Type(() => GivenRecord) record?: GivenRecord;
  /** The step is done once per row of this repeating group of the form. */
  @IsOptional() @IsString() @MaxLength(500) repeat?: string;
  /** When the step is done at all; absent: always. */
  @IsOptional() @ValidateNested() @Type(() => Condition) condition?: Condition;
  @IsIn(WHEN_NONE) whenNone!: (typeof WHEN_NONE)[number];
  @IsIn(WHEN_ONE) whenOne!: (typeof WHEN_ONE)[number];
  @IsIn(WHEN_SEVERAL) whenSeveral!: (typeof WHEN_SEVERAL)[number];
  @IsArray() @ArrayMaxSize(1000) @ValidateNested({ each: true }) @Type(() => Line) lines!: Line[];
}

/** The lines of a step that count: a suggestion waits for somebody's yes and does nothing until then. */
export const standingLines = (step: Pick<Step, 'lines'>): Line[] => step.lines.filter(({ origin }) => origin === 'set');

/** Whether a step looks for nothing. */
export const alwaysNew = ({ record, recognise, evidence }: Step): boolean =>
  !record && recognise.length === 0 && evidence !== true;

/** Whether a step may make a record: one that comes back to an earlier step's never does. */
export const mayCreate = (step: Step): boolean =>
  step.record
    ? step.record.by === 'field' && step.whenNone === 'create'
    : step.whenNone === 'create' || alwaysNew(step);

/** Whether a step may change a record that is there. */
export const mayUpdate = (step: Step): boolean => step.whenOne === 'update' && !alwaysNew(step);

/** What a submission does, in order. */
export class Plan {
  @IsArray() @ArrayMaxSize(50) @ValidateNested({ each: true }) @Type(() => Step) steps!: Step[];
  /** What becomes of earlier steps when a later one is refused; absent: what was done is kept. */
  @IsOptional() @IsIn(['keep', 'take back']) onRefusal?: 'keep' | 'take back';
}

/** What leads to an intake: a form on a page, a feed of signed events, a file, or a program. */
export const SOURCE_KINDS = ['page', 'events', 'file', 'program'] as const;

export class FormSource {
  /** Absent: a page, as far as anybody has said. */
  @IsOptional() @IsIn(SOURCE_KINDS) kind?: (typeof SOURCE_KINDS)[number];
  /** Where the form stands, as far as is known. */
  @IsOptional() @IsString() @MaxLength(2000) page?: string;
  @IsOptional() @IsString() @MaxLength(500) formName?: string;
  /** The encoding of the page, where it isn't UTF-8: its form is sent in it (Encoding Standard). */
  @IsOptional() @IsString() @MaxLength(40) charset?: string;
  /** The uploaded file it was made from, by id. */
  @IsOptional() @IsString() @MaxLength(36) file?: string;
}

/** What the page that sends is told of a record, once the submission is carried out, where it asks to wait for that. */
export class ToldValue {
  @Matches(/^[A-Za-z][\w-]{0,59}$/, { message: 'must begin with a letter and have letters, digits, _ or - after it' })
  name!: string;
  @IsString() @MaxLength(64) step!: string;
  /** A field of the step's record; absent: its id. */
  @IsOptional() @IsString() @MaxLength(255) field?: string;
}

/** Where a browser may be sent: a web address, or a path on our own site; never another scheme, nor `//host`. */
export const THANK_YOU = /^(?:https?:\/\/[^\s\\]+|\/(?![/\\])[^\s\\]*)$/i;

export class IntakeSettings {
  /** Where visitors dial from, ISO 3166-1 alpha-2. */
  @IsOptional() @IsISO31661Alpha2() country?: string;
  /** Where moments without a zone of their own were meant, by its name in the IANA time zone database; absent: UTC. */
  @IsOptional() @IsTimeZone() zone?: string;
  /** How visitors write numbers and dates, BCP 47. */
  @IsOptional() @Matches(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/) locale?: string;
  /** Submissions accepted a minute and address. */
  @IsInt() @Min(1) @Max(100_000) perMinute!: number;
  /** Pages that may send here, by origin (RFC 6454); absent or empty: any page. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(50)
  @Matches(/^https?:\/\/[^\s/]+$/, { each: true, message: 'must be origins such as https://example.org' })
  allowedOrigins?: string[];
  /** Besides the pages named, those that hide where they are (`Origin: null`) may send; anybody's page can do so. */
  @IsOptional() @IsBoolean() hiddenOrigins?: boolean;
  /** Kinds of events taken in, as their `type` says; absent or empty: all. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  eventTypes?: string[];
  /** Days after which what people sent is forgotten, with the values written of it; absent: kept for ever. */
  @IsOptional() @IsInt() @Min(1) @Max(3650) keepDays?: number;
  @IsOptional() @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => ToldValue) told?: ToldValue[];
  /** Where a browser is sent after a plain form; absent: a thank-you page of ours. */
  @IsOptional()
  @IsString()
  @MaxLength(2000)
  @Matches(THANK_YOU, { message: 'must be a web address that starts with https:// or http://, or a path of this site' })
  thankYou?: string;
}

/** Everything an intake is, as one versioned document. */
export class IntakeDocument {
  @IsString() @MinLength(1) @MaxLength(120) name!: string;
  @ValidateNested() @Type(() => FormSource) source!: FormSource;
  @IsArray() @ArrayMaxSize(1000) @ValidateNested({ each: true }) @Type(() => FormField) fields!: FormField[];
  @ValidateNested() @Type(() => Plan) plan!: Plan;
  @ValidateNested() @Type(() => IntakeSettings) settings!: IntakeSettings;
}
