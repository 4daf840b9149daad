import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsDefined,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { DEFINED_TYPES, DefinedOption, type DefinedField, type DefinedType } from '../definitions/index.ts';
import type { FormField } from '../forms/index.ts';
import type { Line } from '../mapping/index.ts';
import type { PairLine } from '../pairing/index.ts';
import type { Option } from '../schema/index.ts';

/** Kinds that one field may have in any system: what leads to a record leads to one of its own system. */
export const WANTED_TYPES = DEFINED_TYPES.filter((type) => type !== 'reference');

/** What a field is to be, wherever it is needed. */
export class WantedField {
  @IsString() @MinLength(1) @MaxLength(60) label!: string;
  @IsIn(WANTED_TYPES) type!: Exclude<DefinedType, 'reference'>;
  @IsOptional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => DefinedOption)
  options?: DefinedOption[];
  @IsOptional() @IsString() @MaxLength(200) default?: string;
  @IsOptional() @IsBoolean() required?: boolean;
  @IsOptional() @IsString() @MaxLength(400) help?: string;
  @IsOptional() @IsInt() @Min(1) @Max(100_000) maxLength?: number;
}

/** An entity that is to have the field. */
export class WantedPlace {
  @IsString() @MinLength(1) @MaxLength(64) system!: string;
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
  /** The field there that is taken for it; '': none, a new one is made; absent: whichever is recognised. */
  @IsOptional() @IsString() @MaxLength(255) field?: string;
  /** Options that are spelt otherwise there, or missing, stay so. */
  @IsOptional() @IsBoolean() asIs?: boolean;
}

/** What was chosen of a line that carries the field on. */
export class LineChoice {
  @IsString() @MaxLength(600) key!: string;
  /** Whether it is made; absent: as it is proposed. */
  @IsOptional() @IsBoolean() taken?: boolean;
  /** Of a line: what happens where both have a value. Of a pairing: who decides. Absent: as it is proposed. */
  @IsOptional() @IsString() @MaxLength(20) rule?: string;
}

/** One field, wherever it is needed. */
export class OneField {
  @IsDefined() @ValidateNested() @Type(() => WantedField) field!: WantedField;
  @IsArray() @ArrayMaxSize(50) @ValidateNested({ each: true }) @Type(() => WantedPlace) places!: WantedPlace[];
  @IsArray() @ArrayMaxSize(500) @ValidateNested({ each: true }) @Type(() => LineChoice) lines!: LineChoice[];
}

/** How a field that is there already goes with what is wanted. */
export interface FieldThere {
  name: string;
  label: string;
  /** Its kind in words, where it is another one. */
  otherKind?: string;
  /** What speaks for its being the same, in words. */
  why: string[];
  /** How many of the wanted options it has as they are wanted; those it spells otherwise, and those it lacks. */
  agrees: number;
  spelt: { wanted: Option; there: Option }[];
  missing: Option[];
  /** How many it has besides. */
  more: number;
  /** Its options differ, and stay so. */
  asIs: boolean;
}

/** An entity that has the field, is to have it, or could. */
export interface PlaceStands {
  system: string;
  entity: string;
  label: string;
  wanted: boolean;
  /** What is there already. */
  there?: FieldThere;
  /** What is made there. */
  made?: DefinedField;
  /** Nothing can be made there from here: somebody makes it there, and it is found by reading. */
  byHand?: true;
  /** As which kind it is made, where the system has no such kind. */
  as?: string;
  /** Why it can't be there. */
  cannot?: string;
}

/** A change of an intake or a pairing that carries the field on. */
export type CarriedLine =
  /** A line of a step's plan. `takes`: what a conversion has to take in of its records for it. */
  | { kind: 'line'; step: string; line: Line; takes?: FormField }
  /** A question of a form of ours, with its line; `asks`: what the field is called, by which it is asked once for all. */
  | { kind: 'question'; step: string; field: string; id: string; asks: string }
  | { kind: 'pair'; line: PairLine };

/** One end of a line, as people know it. */
export interface LineEnd {
  system?: string;
  /** Of which entity it is a field; absent: of a form. */
  entity?: string;
  label: string;
}

/** A line that would carry the field on, or why there can be none. */
export interface FoundLine {
  key: string;
  at: 'intake' | 'pairing';
  id: string;
  /** What the intake or pairing is called. */
  name: string;
  /** A conversion of records, and not a form. */
  conversion: boolean;
  from?: LineEnd;
  to: LineEnd;
  taken: boolean;
  carried?: CarriedLine;
  /** What can be chosen of it, and what is. */
  rule?: string;
  rules?: readonly string[];
  /** Why nothing carries it there. */
  cannot?: string;
}
