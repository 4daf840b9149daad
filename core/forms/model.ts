import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';

/** The kinds of field a form has, as a visitor meets them. */
export const INPUT_TYPES = [
  'text',
  'long text',
  'email',
  'phone',
  'web address',
  'number',
  'date',
  'time',
  'date and time',
  'yes/no',
  'option',
  'options',
  'file',
] as const;
export type InputType = (typeof INPUT_TYPES)[number];

export class FormOption {
  @IsString() @MaxLength(1000) value!: string;
  @IsString() @MaxLength(1000) label!: string;
  /** The heading the option stands under, where options are grouped. */
  @IsOptional() @IsString() group?: string;
}

/** An entity of a system. */
export class RecordOf {
  @IsString() @MaxLength(64) system!: string;
  @IsString() @MaxLength(255) entity!: string;
}

/** One field of a form: what is sent (`name`) and what the visitor sees (`label`). */
export class FormField {
  @IsString() @MaxLength(500) name!: string;
  @IsString() @MaxLength(1000) label!: string;
  @IsIn(INPUT_TYPES) type!: InputType;
  @IsBoolean() required!: boolean;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(5000)
  @ValidateNested({ each: true })
  @Type(() => FormOption)
  options?: FormOption[];
  /** It holds the id of a record of this entity. */
  @IsOptional() @ValidateNested() @Type(() => RecordOf) record?: RecordOf;
  /** Its values come as a record holds them: nothing of them is read by how somebody writes. */
  @IsOptional() @IsBoolean() typed?: boolean;
  /** The visitor doesn't see it. */
  @IsOptional() @IsBoolean() hidden?: boolean;
  /** Several values may be sent under the one name. */
  @IsOptional() @IsBoolean() multiple?: boolean;
  /** A number that is written as visitors write it: nothing makes it one with a decimal point, as a number input does. */
  @IsOptional() @IsBoolean() freely?: boolean;
  /** It has no name on its page, so a browser sends nothing of it; the page's script does, and `attach.js`. */
  @IsOptional() @IsBoolean() byScript?: boolean;
  /** Where several inputs are sent under one name: which of their values it is, counted from 1. */
  @IsOptional() @IsInt() @Min(1) place?: number;
  /** The heading it stands under on its page. */
  @IsOptional() @IsString() @MaxLength(200) section?: string;
  /** The repeating group it belongs to: `items` for `items[0][qty]`. */
  @IsOptional() @IsString() group?: string;
  /** The HTML autofill token, e.g. `given-name`. */
  @IsOptional() @IsString() autocomplete?: string;
  @IsOptional() @IsInt() @Min(0) maxLength?: number;
  @IsOptional() @IsString() minimum?: string;
  @IsOptional() @IsString() maximum?: string;
  @IsOptional() @IsString() pattern?: string;
  @IsOptional() @IsString() placeholder?: string;
  /** What is sent when the visitor changes nothing. */
  @IsOptional() @IsString() initial?: string;
}

/** A form as read from a page. */
export interface ReadForm {
  name: string;
  action: string;
  method: 'get' | 'post';
  fields: FormField[];
  /** Controls that are never taken in, or that send nothing, with the reason. */
  left: { name: string; label: string; reason: string }[];
}

/** The form that an intake was made from, among those its page has now: the one of its name, or the only one. */
export function formOn(page: readonly ReadForm[], name: string | undefined): ReadForm | undefined {
  const named = page.find((form) => form.name !== '' && form.name === name);
  return named ?? (page.length === 1 ? page[0] : undefined);
}

/** The fields that only a script sends, and whether nothing of the form is sent without one. */
export function sentByScript(fields: readonly FormField[]): { only: FormField[]; all: boolean } {
  const seen = fields.filter(({ hidden }) => hidden !== true);
  const only = seen.filter(({ byScript }) => byScript === true);
  return { only, all: only.length > 0 && only.length === seen.length };
}
