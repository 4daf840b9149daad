import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsISO31661Alpha2,
  IsOptional,
  IsString,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import type { Field, Value } from '../../schema/index.ts';
import type { Reading } from '../../values/index.ts';

export const TREATMENT_KINDS = [
  'trim',
  'case',
  'join',
  'split',
  'replace',
  'default',
  'phone',
  'email',
  'web address',
  'number',
  'date',
  'options',
] as const;
export type TreatmentKind = (typeof TREATMENT_KINDS)[number];

export class OptionPair {
  @IsString() @MaxLength(1000) from!: string;
  /** The record's option; '' leaves the value out on purpose; absent: not paired yet. */
  @IsOptional() @IsString() @MaxLength(1000) to?: string;
}

/** One treatment with its settings; which settings a kind reads stands beside its function. */
export class Treatment {
  @IsIn(TREATMENT_KINDS) kind!: TreatmentKind;
  @IsOptional() @IsIn(['lower', 'upper', 'title']) case?: 'lower' | 'upper' | 'title';
  /** Between joined parts, or where a text is split. */
  @IsOptional() @IsString() @MaxLength(20) separator?: string;
  /** Which part of a split text is taken, from 1; absent takes all as a list. */
  @IsOptional() @IsInt() @Min(1) part?: number;
  @IsOptional() @IsString() @MaxLength(1000) find?: string;
  @IsOptional() @IsString() @MaxLength(1000) with?: string;
  @IsOptional() @IsString() @MaxLength(4000) value?: string;
  /** ISO 3166-1 alpha-2. */
  @IsOptional() @IsISO31661Alpha2() country?: string;
  @IsOptional() @IsIn(['comma', 'point']) decimal?: 'comma' | 'point';
  @IsOptional() @IsIn(['day first', 'month first', 'year first']) order?: 'day first' | 'month first' | 'year first';
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(5000)
  @ValidateNested({ each: true })
  @Type(() => OptionPair)
  pairs?: OptionPair[];
  /** What a value without a pair becomes; absent: it is left as it is and the check says so. */
  @IsOptional() @IsString() otherwise?: string;
}

/** A treatment is a plain function: the value and its settings in, the treated value or the reason against it out. */
export type Treat = (value: Value, settings: Treatment, field: Field) => Reading<Value>;

/** What a kind of treatment is to people: a short text for its chip, and how it works. */
export interface TreatmentDefinition {
  describe(settings: Treatment): string;
  treat: Treat;
}
