import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsISO31661Alpha2,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { FormField } from '../forms/index.ts';
import { Line } from '../mapping/index.ts';

/** Fields of a record whose values together name it; compared exactly, but for the case of e-mail addresses. */
export class RecognitionKey {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(5) @IsString({ each: true }) fields!: string[];
}

export const WHEN_NONE = ['create', 'skip', 'ask', 'stop'] as const;
export const WHEN_ONE = ['update', 'leave', 'skip', 'ask', 'stop'] as const;
export const WHEN_SEVERAL = ['ask', 'skip', 'stop'] as const;

/**
 * One entity, three questions: which record (`recognise`; no keys: always a new one), what if none / one / several
 * are found, and which values (`lines`).
 */
export class Step {
  @IsString() @MaxLength(64) id!: string;
  @IsString() @MaxLength(64) system!: string;
  @IsString() @MaxLength(255) entity!: string;
  /** Tried in order; the first key with a value for each of its fields that finds something decides. */
  @IsArray() @ArrayMaxSize(10) @ValidateNested({ each: true }) @Type(() => RecognitionKey) recognise!: RecognitionKey[];
  @IsIn(WHEN_NONE) whenNone!: (typeof WHEN_NONE)[number];
  @IsIn(WHEN_ONE) whenOne!: (typeof WHEN_ONE)[number];
  @IsIn(WHEN_SEVERAL) whenSeveral!: (typeof WHEN_SEVERAL)[number];
  @IsArray() @ArrayMaxSize(1000) @ValidateNested({ each: true }) @Type(() => Line) lines!: Line[];
}

/** The lines of a step that count: a suggestion waits for somebody's yes and does nothing until then. */
export const standingLines = (step: Pick<Step, 'lines'>): Line[] => step.lines.filter(({ origin }) => origin === 'set');

/** What a submission does, in order. */
export class Plan {
  @IsArray() @ArrayMaxSize(50) @ValidateNested({ each: true }) @Type(() => Step) steps!: Step[];
}

export class FormSource {
  /** Where the form stands, as far as is known. */
  @IsOptional() @IsString() @MaxLength(2000) page?: string;
  @IsOptional() @IsString() @MaxLength(500) formName?: string;
}

export class IntakeSettings {
  /** Where visitors dial from, ISO 3166-1 alpha-2. */
  @IsOptional() @IsISO31661Alpha2() country?: string;
  /** How visitors write numbers and dates, BCP 47. */
  @IsOptional() @Matches(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/) locale?: string;
  /** Submissions accepted a minute and address. */
  @IsInt() @Min(1) @Max(100_000) perMinute!: number;
  /** Where a browser is sent after a plain form; absent: a thank-you page of ours. */
  @IsOptional() @IsString() @MaxLength(2000) thankYou?: string;
}

/** Everything an intake is, as one versioned document. */
export class IntakeDocument {
  @IsString() @MinLength(1) @MaxLength(120) name!: string;
  @ValidateNested() @Type(() => FormSource) source!: FormSource;
  @IsArray() @ArrayMaxSize(1000) @ValidateNested({ each: true }) @Type(() => FormField) fields!: FormField[];
  @ValidateNested() @Type(() => Plan) plan!: Plan;
  @ValidateNested() @Type(() => IntakeSettings) settings!: IntakeSettings;
}
