import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { Shown } from './condition.ts';
import { IsTexts, type Texts } from './texts.ts';

/** What a form's sender has to pay. All amounts are whole numbers of the currency's smallest unit (ISO 4217): cents, yen. */

/** The most that one price may be, in the smallest unit. */
export const MOST_PRICE = 1_000_000_000;

/** What choosing an option costs. */
export class OptionPrice {
  @IsString() @MaxLength(200) value!: string;
  @IsInt() @Min(0) @Max(MOST_PRICE) minor!: number;
}

export const CHARGED_BY = ['fixed', 'option', 'answer'] as const;

/** One part of what is to be paid: a price, and how often it counts. Questions are named as in their group's first row. */
export class Charge {
  @IsString() @MaxLength(64) id!: string;
  /** What it is for, as the visitor reads it. */
  @IsTexts(200) label!: Texts;
  /** Always the same; what the chosen option costs; what the visitor gives. */
  @IsIn(CHARGED_BY) by!: (typeof CHARGED_BY)[number];
  /** What it costs, where that is always the same. */
  @IsOptional() @IsInt() @Min(0) @Max(MOST_PRICE) minor?: number;
  /** The question whose option is priced, or the amount that is given. */
  @IsOptional() @IsString() @MaxLength(200) question?: string;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(1000)
  @ValidateNested({ each: true })
  @Type(() => OptionPrice)
  prices?: OptionPrice[];
  /** Of an amount that is given, the least. */
  @IsOptional() @IsInt() @Min(0) @Max(MOST_PRICE) least?: number;
  /** The question that says how many times: a number, or a choice among numbers. */
  @IsOptional() @IsString() @MaxLength(200) times?: string;
  @IsOptional() @ValidateNested() @Type(() => Shown) shown?: Shown;
}

/** That something is paid, to whom, and how it is reckoned. */
export class Fee {
  /** The payment service it goes through, by id. */
  @IsString() @MinLength(1) @MaxLength(36) service!: string;
  @Matches(/^[A-Z]{3}$/, { message: 'must be a currency such as EUR (ISO 4217)' }) currency!: string;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(20)
  @ValidateNested({ each: true })
  @Type(() => Charge)
  charges!: Charge[];
  /** The intake, by key, that is sent what came, with what was paid, when it is paid back. */
  @IsOptional() @Matches(/^[a-z0-9][a-z0-9-]{0,79}$/) refunded?: string;
}
