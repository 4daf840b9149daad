import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
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

/** What of a system's records a form shows to whoever fills it in. Nothing else of them ever leaves. */

/** How a field of a record is compared, where records are chosen among. */
export const READ_TESTS = ['is', 'is not', 'is blank', 'is not blank', 'is more than', 'is less than'] as const;

/** One comparison that a record has to meet to be offered: with a value, or with what was answered to another question. */
export class ReadPart {
  @IsString() @MaxLength(255) field!: string;
  @IsIn(READ_TESTS) test!: (typeof READ_TESTS)[number];
  @IsOptional() @IsString() @MaxLength(1000) value?: string;
  /** The name of the question whose answer it is compared with; while that has none, nothing is offered. */
  @IsOptional() @IsString() @MaxLength(200) answer?: string;
}

export class ReadOrder {
  @IsString() @MaxLength(255) field!: string;
  @IsOptional() @IsBoolean() down?: boolean;
}

/** Records that lead to the chosen one; of those the newest counts. */
export class NewestOf {
  @IsString() @MaxLength(255) entity!: string;
  /** Their field that leads to the chosen record. */
  @IsString() @MaxLength(255) by!: string;
  /** The one with most in this field is the newest. */
  @IsString() @MaxLength(255) newest!: string;
}

/** What another question is filled with when a record is chosen. */
export class Fill {
  /** The name of the question. */
  @IsString() @MaxLength(200) into!: string;
  /** Of the chosen record, or of the newest that leads to it; absent: that one's id. */
  @IsOptional() @IsString() @MaxLength(255) field?: string;
  @IsOptional() @ValidateNested() @Type(() => NewestOf) of?: NewestOf;
}

/** Which records a question offers to choose among, and what becomes of the choice. */
export class Reads {
  @IsString() @MinLength(1) @MaxLength(64) system!: string;
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
  /** The fields that are shown of each. */
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(6)
  @IsString({ each: true })
  @MaxLength(255, { each: true })
  shows!: string[];
  /** Looked up: the field that is compared with what is typed; absent: the first that is shown. */
  @IsOptional() @IsString() @MaxLength(255) by?: string;
  /** Looked up: from how many letters on. */
  @IsOptional() @IsInt() @Min(1) @Max(10) letters?: number;
  /** All of these have to hold. */
  @IsOptional() @IsArray() @ArrayMaxSize(10) @ValidateNested({ each: true }) @Type(() => ReadPart) where?: ReadPart[];
  @IsOptional() @IsArray() @ArrayMaxSize(3) @ValidateNested({ each: true }) @Type(() => ReadOrder) order?: ReadOrder[];
  /** How many are offered at most. */
  @IsOptional() @IsInt() @Min(1) @Max(200) first?: number;
  @IsOptional() @IsArray() @ArrayMaxSize(40) @ValidateNested({ each: true }) @Type(() => Fill) fills?: Fill[];
}
