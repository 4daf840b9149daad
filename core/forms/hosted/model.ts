import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { RecordOf } from '../model.ts';
import { Shown } from './condition.ts';
import { Fee } from './fee.ts';
import { FILE_SORT_NAMES, MOST_MEBIBYTES, type FileSort } from './files.ts';
import { ITEM_KINDS, type ItemKind } from './kinds.ts';
import { Reads } from './reads.ts';
import { IsTexts, type Texts } from './texts.ts';

/** Forms of ours as documents. What visitors see stands in `Texts`: the same in each of the form's languages. */

/** Where a question's name may be used: in HTML, in an address and in CEL. */
export const NAME = /^[A-Za-z][A-Za-z0-9_]{0,59}$/;
const LANGUAGE = /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/;
const DAY = /^\d{4}-\d{2}-\d{2}$/;
export const COLOUR = /^#[0-9a-f]{6}$/i;

export class HostedOption {
  @IsString() @MaxLength(200) value!: string;
  @IsTexts(400) label!: Texts;
}

/** A day that a date may not be before, or after: so many days from today, from another answer, or from a day given. */
export class DayLimit {
  @IsIn(['today', 'answer', 'day']) from!: 'today' | 'answer' | 'day';
  @IsOptional() @IsString() @MaxLength(200) answer?: string;
  @IsOptional() @Matches(DAY, { message: 'must be a day such as 2027-04-20' }) day?: string;
  @IsOptional() @IsInt() @Min(-36_525) @Max(36_525) days?: number;
}

/** A field of a record of one entity, among those that a form may be opened with. */
export class FieldOfRecord {
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
  @IsString() @MinLength(1) @MaxLength(255) field!: string;
}

/** What is told of whoever acts: how their system names them, what they are called, and their e-mail address. */
export const OF_PERSON = ['id', 'name', 'email'] as const;

/**
 * What a question begins with: a constant, a parameter of the page's address, a field of the record that the form was
 * opened with, or something of whoever acts. A hidden question is filled in by it wherever it is kept, never by the page.
 */
export class Begins {
  @IsIn(['constant', 'parameter', 'record', 'person']) with!: 'constant' | 'parameter' | 'record' | 'person';
  /** The constant, the parameter's name, the field's (blank: of the other entities only), or what of the person. */
  @IsString() @MaxLength(1000) value!: string;
  /** Which field it is of records of the link's other entities. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(10)
  @ValidateNested({ each: true })
  @Type(() => FieldOfRecord)
  others?: FieldOfRecord[];
  /** It isn't shown, and takes the place of an answer that is left blank. */
  @IsOptional() @IsBoolean() ifBlank?: boolean;
}

/** A question, words, or a group of questions that is answered once a row. What a kind has no use for is left out. */
export class Item {
  @IsString() @MaxLength(64) id!: string;
  @IsIn(ITEM_KINDS) kind!: ItemKind;
  /** What the answer is sent as. Words and headings have none. */
  @IsOptional()
  @Matches(NAME, { message: 'must begin with a letter and have letters, digits or _ after it, at most 60' })
  name?: string;
  /** The question; of words and headings, what they say; of a consent, its wording. */
  @IsTexts(2000) label!: Texts;
  @IsOptional() @IsTexts(2000) help?: Texts;
  @IsOptional() @IsBoolean() required?: boolean;
  @IsOptional() @ValidateNested() @Type(() => Shown) shown?: Shown;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(1000)
  @ValidateNested({ each: true })
  @Type(() => HostedOption)
  options?: HostedOption[];
  /** Values that the field it asks for offered when it was asked for: what that has got since, a check tells. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(1000)
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  known?: string[];
  /** The records that are offered: of a record looked up, and of choices whose options are records. */
  @IsOptional() @ValidateNested() @Type(() => Reads) reads?: Reads;
  @IsOptional() @IsInt() @Min(1) @Max(100_000) maxLength?: number;
  /** Of numbers and amounts. */
  @IsOptional() @IsNumber() least?: number;
  @IsOptional() @IsNumber() most?: number;
  /** Digits behind the decimal mark; of an amount those of its currency. */
  @IsOptional() @IsInt() @Min(0) @Max(6) decimals?: number;
  /** Of an amount, ISO 4217. */
  @IsOptional() @Matches(/^[A-Z]{3}$/) currency?: string;
  @IsOptional() @ValidateNested() @Type(() => DayLimit) earliest?: DayLimit;
  @IsOptional() @ValidateNested() @Type(() => DayLimit) latest?: DayLimit;
  @IsOptional() @ValidateNested() @Type(() => Begins) begins?: Begins;
  /** Of a hidden question: it holds the id of a record of this entity. */
  @IsOptional() @ValidateNested() @Type(() => RecordOf) holds?: RecordOf;
  /** The HTML autofill token (HTML, 4.10.18.7). */
  @IsOptional() @Matches(/^[a-z][a-z0-9 -]{0,60}$/) autocomplete?: string;
  /** Of a file: which sorts are taken, and how large it may be. */
  @IsOptional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(10)
  @IsIn(FILE_SORT_NAMES, { each: true })
  accepts?: FileSort[];
  @IsOptional() @IsInt() @Min(1) @Max(MOST_MEBIBYTES) mostMebibytes?: number;
  /** Never kept in the visitor's browser while it isn't sent. */
  @IsOptional() @IsBoolean() sensitive?: boolean;
  /** Of a group: its questions, and how many rows there are at least and at most. */
  @IsOptional() @IsArray() @ArrayMaxSize(60) @ValidateNested({ each: true }) @Type(() => Item) items?: Item[];
  @IsOptional() @IsInt() @Min(0) @Max(50) leastRows?: number;
  @IsOptional() @IsInt() @Min(1) @Max(50) mostRows?: number;
}

export class HostedPage {
  @IsString() @MaxLength(64) id!: string;
  @IsOptional() @IsTexts(200) title?: Texts;
  @IsOptional() @ValidateNested() @Type(() => Shown) shown?: Shown;
  @IsArray() @ArrayMaxSize(300) @ValidateNested({ each: true }) @Type(() => Item) items!: Item[];
}

/** An entity of whose records one may open a form. */
export class LinkedEntity {
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
  /** The hidden question that holds its id: taken from what opened the form, never from the page. */
  @IsString() @MaxLength(200) into!: string;
}

/** The record that a form is opened with: by a signed link, or by the page of the record. */
export class LinkedRecord extends LinkedEntity {
  @IsString() @MinLength(1) @MaxLength(64) system!: string;
  /** Without one the form isn't shown. */
  @IsBoolean() required!: boolean;
  /** It may be one of these as well. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(10)
  @ValidateNested({ each: true })
  @Type(() => LinkedEntity)
  others?: LinkedEntity[];
}

export const WHEN_GONE = ['ask', 'connection'] as const;

/** The form stands on pages of its link's records, and is filled in by whoever is signed in there. */
export class Panel {
  /** What becomes of what can be carried out only when its person's token has run out. */
  @IsIn(WHEN_GONE) whenGone!: (typeof WHEN_GONE)[number];
}

/** What stands for the owner's colours where there are none, as the form's style sheet has it (web/public/form.css). */
export const PLAIN_LOOK = { first: '#6a2c5b', second: '#2f6146' } as const;

/** Characters of the owner's mark: some 60 kB of a picture. */
export const MOST_MARK = 82_000;

/** The owner's two colours and mark. */
export class Look {
  @IsOptional() @Matches(COLOUR, { message: 'must be a colour such as #6a2c5b' }) first?: string;
  @IsOptional() @Matches(COLOUR, { message: 'must be a colour such as #6a2c5b' }) second?: string;
  /** A picture that stands above the title, within the document: a data URL (RFC 2397). Nothing that runs. */
  @IsOptional()
  @IsString()
  @MaxLength(MOST_MARK)
  @Matches(/^data:image\/(?:png|jpeg|webp);base64,[A-Za-z0-9+/]+={0,2}$/, { message: 'must be a PNG, JPEG or WebP' })
  mark?: string;
}

export const WORK_WHEN = ['never', 'when busy', 'always'] as const;

/** What keeps programs from filling it in. */
export class Guard {
  /** A question that only programs see; whoever answers it is thanked and not heard. */
  @IsBoolean() trap!: boolean;
  /** Seconds that anybody needs at least to fill it in. */
  @IsInt() @Min(0) @Max(60) leastSeconds!: number;
  /** When a browser has to do a small sum before it is taken; absent: when more are sent than usual. */
  @IsOptional() @IsIn(WORK_WHEN) work?: (typeof WORK_WHEN)[number];
}

export const TOLD_OF_REFUSALS = ['words', 'sentence'] as const;

export class HostedForm {
  /** Languages by BCP 47; the first is shown to those whose browser knows none of them. */
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(12)
  @Matches(LANGUAGE, { each: true, message: 'must be languages such as en or de-AT' })
  languages!: string[];
  @IsTexts(200) title!: Texts;
  @IsOptional() @IsTexts(5000) intro?: Texts;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(20)
  @ValidateNested({ each: true })
  @Type(() => HostedPage)
  pages!: HostedPage[];
  /** It may be opened with a record. */
  @IsOptional() @ValidateNested() @Type(() => LinkedRecord) link?: LinkedRecord;
  /** Pages of those records show it, for whoever is signed in there. */
  @IsOptional() @ValidateNested() @Type(() => Panel) panel?: Panel;
  /** What has to be paid, before anything is done with what was sent. */
  @IsOptional() @ValidateNested() @Type(() => Fee) fee?: Fee;
  /** Whoever sent it is told when a system refuses it, or it has to be looked at: in the system's words, or in a polite sentence. */
  @IsOptional() @IsIn(TOLD_OF_REFUSALS) refusals?: (typeof TOLD_OF_REFUSALS)[number];
  /** What is said once it is sent. */
  @IsOptional() @IsTexts(5000) thanks?: Texts;
  @IsOptional() @ValidateNested() @Type(() => Look) look?: Look;
  @IsObject() @ValidateNested() @Type(() => Guard) guard!: Guard;
}
