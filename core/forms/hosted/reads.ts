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
import type { Answers } from './shown.ts';

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

export const LETTERS = 3;
export const FIRST_LISTED = 50;
export const FIRST_FOUND = 10;

/** How many records a question offers at once. @param isLookedUp whether one is found by typing */
export const mostOffered = ({ first }: Reads, isLookedUp: boolean): number =>
  first ?? (isLookedUp ? FIRST_FOUND : FIRST_LISTED);

/** The questions whose answers decide which records are offered. */
export const goesBy = ({ where = [] }: Reads): string[] => [
  ...new Set(where.flatMap(({ answer }) => (answer === undefined ? [] : [answer]))),
];

/** A comparison with the value it comes to. */
export type Comparison = Pick<ReadPart, 'field' | 'test'> & { value: string };

/**
 * What records have to meet, for what has been answered so far.
 * @param at the answer to a question by its name
 * @returns undefined while an answer that it goes by is missing: nothing is offered then
 */
export function comparisonsOf(
  { where = [] }: Reads,
  at: (name: string) => Answers[string] | undefined,
): Comparison[] | undefined {
  const comparisons: Comparison[] = [];
  for (const { field, test, value = '', answer } of where) {
    const said = answer === undefined ? value : ([at(answer) ?? ''].flat()[0] ?? '');
    if (answer !== undefined && said.trim() === '') return undefined;
    comparisons.push({ field, test, value: said.slice(0, 1000) });
  }
  return comparisons;
}

/** All fields of a chosen record that a question has a use for: none but these are read. */
export const fieldsRead = ({ shows, by, where = [], order = [], fills = [] }: Reads): string[] => [
  ...new Set([
    ...shows,
    ...(by === undefined ? [] : [by]),
    ...where.map(({ field }) => field),
    ...order.map(({ field }) => field),
    ...fills.flatMap(({ field, of }) => (of || field === undefined ? [] : [field])),
  ]),
];

/** A question of a group's first row, as it is called in the row that another question stands in. */
export function besides(name: string, other: string): string {
  const [row, first] = [name.lastIndexOf('['), other.lastIndexOf('[')];
  return row < 0 || first < 0 ? other : name.slice(0, row) + other.slice(first);
}
