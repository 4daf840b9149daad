import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsOptional,
  IsString,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import type { FormField } from '../forms/index.ts';
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

/** What is mapped, and what is done with it: as much as an interpreter, a check or a text of a plan has to know. */
export interface Planned {
  fields: FormField[];
  plan: Plan;
}
