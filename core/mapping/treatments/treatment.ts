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
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { TREATMENT_KINDS, type TreatmentKind } from './registry.ts';

export const PARTS = [
  'title',
  'given',
  'family',
  'street',
  'number',
  'street and number',
  'more',
  'postcode',
  'city',
  'amount',
  'currency',
  'first',
  'last',
  'count',
  'each once',
] as const;

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
  /** Which part of a name, an address, an amount or a list is taken. */
  @IsOptional() @IsIn(PARTS) take?: (typeof PARTS)[number];
  @IsOptional() @IsInt() @Min(1) @Max(1_000_000) limit?: number;
  @IsOptional() @IsIn(['characters', 'bytes']) unit?: 'characters' | 'bytes';
  /** How a country or language is written: its code, or its name in a language (BCP 47). */
  @IsOptional() @Matches(/^(code|[a-z]{2}(-[A-Z]{2})?)$/) as?: string;
  /** ISO 4217. */
  @IsOptional() @Matches(/^[A-Z]{3}$/) currency?: string;
  /** CEL over the form's fields. */
  @IsOptional() @IsString() @MaxLength(2000) expression?: string;
  /** Lookup: the entity whose record is looked for, by which of its fields. */
  @IsOptional() @IsString() @MaxLength(255) entity?: string;
  @IsOptional() @IsString() @MaxLength(255) by?: string;
  /** Lookup: what becomes of a value that leads to no record. */
  @IsOptional() @IsIn(['refuse', 'leave blank']) missing?: 'refuse' | 'leave blank';
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
