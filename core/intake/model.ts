import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  Equals,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsISO31661Alpha2,
  IsObject,
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
import { HostedForm, Panel, READ_TESTS } from '../forms/hosted/index.ts';
import { FormField } from '../forms/index.ts';
import { Plan } from '../plans/index.ts';

/** The newest format of an intake's document; raised with every change that older documents have to be brought to. */
export const INTAKE_FORMAT = 1;

/** What leads to an intake: a form on a page, a form of ours, a feed of signed events, a file, a program, or a system's records. */
export const SOURCE_KINDS = ['page', 'ours', 'events', 'file', 'program', 'record'] as const;

/** Once, or again whenever it is another version by then. */
export const CONVERTED = ['once', 'each version'] as const;

/** One comparison that a record has to meet. */
export class RecordPart {
  @IsString() @MinLength(1) @MaxLength(255) field!: string;
  @IsIn(READ_TESTS) test!: (typeof READ_TESTS)[number];
  @IsOptional() @IsString() @MaxLength(1000) value?: string;
}

export class FormSource {
  @IsIn(SOURCE_KINDS) kind!: (typeof SOURCE_KINDS)[number];
  /** Where the form stands, as far as is known. */
  @IsOptional() @IsString() @MaxLength(2000) page?: string;
  @IsOptional() @IsString() @MaxLength(500) formName?: string;
  /** The encoding of the page, where it isn't UTF-8: its form is sent in it (Encoding Standard). */
  @IsOptional() @IsString() @MaxLength(40) charset?: string;
  /** The uploaded file it was made from, by id. */
  @IsOptional() @IsString() @MaxLength(36) file?: string;
  /** Of a conversion: the records that become others, by their system and entity. */
  @IsOptional() @IsString() @MinLength(1) @MaxLength(64) system?: string;
  @IsOptional() @IsString() @MinLength(1) @MaxLength(255) entity?: string;
  /** Of a conversion that starts by itself: when a record comes to meet all of these. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(10)
  @ValidateNested({ each: true })
  @Type(() => RecordPart)
  starts?: RecordPart[];
  /** How often one record is converted; absent: once. */
  @IsOptional() @IsIn(CONVERTED) converted?: (typeof CONVERTED)[number];
  /** Pages of the records show it, for whoever is signed in there. */
  @IsOptional() @ValidateNested() @Type(() => Panel) panel?: Panel;
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
  /** Submissions accepted per minute per IP address. */
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
  /** Which format it is written in; an older one is upgraded when it is read (format.ts). */
  @Equals(INTAKE_FORMAT) format!: typeof INTAKE_FORMAT;
  @IsString() @MinLength(1) @MaxLength(120) name!: string;
  @IsObject() @ValidateNested() @Type(() => FormSource) source!: FormSource;
  /** The form, where it is one of ours; `fields` are those that it sends. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => HostedForm) form?: HostedForm;
  @IsArray() @ArrayMaxSize(1000) @ValidateNested({ each: true }) @Type(() => FormField) fields!: FormField[];
  @IsObject() @ValidateNested() @Type(() => Plan) plan!: Plan;
  @IsObject() @ValidateNested() @Type(() => IntakeSettings) settings!: IntakeSettings;
}
