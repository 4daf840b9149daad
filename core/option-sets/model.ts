import 'reflect-metadata';
import { Type } from 'class-transformer';
import { IsDefined, IsIn, IsOptional, IsString, MaxLength, MinLength, ValidateNested } from 'class-validator';
import { DefinedOption } from '../definitions/index.ts';
import type { Option } from '../schema/index.ts';

/** A field whose options are compared with others'. */
export class ComparedOptions {
  @IsString() @MinLength(1) @MaxLength(64) system!: string;
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
  @IsString() @MinLength(1) @MaxLength(255) field!: string;
}

/** So many fields are compared at most. */
export const MOST_FIELDS_COMPARED = 12;

export const OPTION_CHANGES = ['add', 'join'] as const;

/** One change of one field's options. */
export class OptionChange {
  @IsIn(OPTION_CHANGES) kind!: (typeof OPTION_CHANGES)[number];
  @IsDefined() @ValidateNested() @Type(() => ComparedOptions) of!: ComparedOptions;
  /** The option that is added; or that records get which hold `from`: it is made where it isn't there. */
  @IsDefined() @ValidateNested() @Type(() => DefinedOption) option!: DefinedOption;
  /** Of a join: the value that goes. */
  @IsOptional() @IsString() @MaxLength(1000) from?: string;
}

/** How an option stands in one of the compared fields. */
export interface OptionCell {
  option: Option;
  /** Spelt as in the first field that has it, or otherwise; and why it counts as the same, where that isn't plain. */
  how: 'same' | 'otherwise';
  why?: string;
}

/** An option over all the fields: absent where a field doesn't have it. */
export interface OptionRow {
  /** As it is spelt in the list, or else in the first field that has it. */
  option: Option;
  listed: boolean;
  cells: (OptionCell | null)[];
}

/** Options that are linked by hand, such as by the line of a pairing. */
export interface LinkedOptions {
  /** Places among the compared fields. */
  fields: [number, number];
  pairs: readonly [string, string][];
  why: string;
}
