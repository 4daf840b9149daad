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
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { FIELD_TYPES, type FieldType } from '../schema/index.ts';
import { IsWebAddress } from '../values/index.ts';

/**
 * How a system with a plain JSON API is spoken to, as one versioned document: where its records are listed, read and
 * written, how pages follow one another, what names a record, how values are written, and what a no looks like.
 *
 * Places in requests and answers are JSON Pointers (RFC 6901). One token is ours: `{name=email}` stands for the element
 * of a list whose `name` is `email`. Paths are relative to the address; `{id}`, or `{field}`, stands for a part of the id.
 */
export const ADAPTER_FORMAT = 1;

const POINTER = /^(?:\/[^/]{0,200}){0,12}$/;
const POINTER_SAID = { message: 'must be a JSON Pointer, such as /data/items, or empty for the whole' };
const PATH = /^(?:\/[^\s?#]{0,200}){1,12}$/;
const PATH_SAID = { message: 'must be a path that starts with /, without a question mark' };
const HEADER = /^[A-Za-z0-9!#$%&'*+.^_`|~-]{1,80}$/;
const HEADER_SAID = { message: 'must be the name of a header (RFC 9110)' };

export const SIGN_INS = [
  'none',
  'bearer',
  'header',
  'query',
  'basic',
  'client credentials',
  'authorization code',
] as const;
export type SignInKind = (typeof SIGN_INS)[number];

/** How a request says who asks. The secrets themselves are never part of the document. */
export class AdapterSignIn {
  @IsIn(SIGN_INS) kind!: SignInKind;
  /** The header, or the query parameter, that carries the key. */
  @IsOptional() @IsString() @Matches(HEADER, HEADER_SAID) name?: string;
  /** Stands in front of the key in its header, with a space. */
  @IsOptional() @IsString() @Matches(/^[\x21-\x7e]{1,40}$/) prefix?: string;
  @IsOptional() @IsWebAddress() @MaxLength(500) tokenAddress?: string;
  @IsOptional() @IsWebAddress() @MaxLength(500) authorizeAddress?: string;
  @IsOptional() @IsString() @MaxLength(500) scope?: string;
  /** How the client names itself to the token endpoint (RFC 6749, 2.3.1). */
  @IsOptional() @IsIn(['header', 'body']) clientBy?: 'header' | 'body';
}

/** A header or a query parameter with its fixed value. */
export class NamedValue {
  @IsString() @MinLength(1) @MaxLength(120) name!: string;
  @IsString() @MaxLength(500) value!: string;
}

/** A fixed value at a place of a body; `{id}` is the record's id. */
export class PlacedValue {
  @IsString() @Matches(POINTER, POINTER_SAID) at!: string;
  @IsString() @MaxLength(500) value!: string;
}

/** What a no looks like. */
export class AdapterRefusal {
  /** The list, or the object by field, of single complaints; `words` and `field` then stand within each. */
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) each?: string;
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) words?: string;
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) field?: string;
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) code?: string;
  /** Where words stand when something is wrong although the status is one of success. */
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) inside?: string;
  /** Statuses that mean “not now”, besides 429 and 5xx. */
  @IsArray()
  @ArrayMaxSize(10)
  @IsInt({ each: true })
  @Min(400, { each: true })
  @Max(499, { each: true })
  waits!: number[];
}

export const PAGINGS = ['none', 'link header', 'next link', 'cursor', 'last record', 'page', 'offset'] as const;
export type PagingKind = (typeof PAGINGS)[number];

/** How one page leads to the next. */
export class AdapterPaging {
  @IsIn(PAGINGS) kind!: PagingKind;
  /** Where the next link, or the next cursor, stands in the answer. */
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) at?: string;
  /** The parameter that asks for a later page: of a cursor, the last record's id, a page's number, an offset. */
  @IsOptional() @IsString() @MinLength(1) @MaxLength(120) parameter?: string;
  @IsOptional() @IsString() @MinLength(1) @MaxLength(120) sizeParameter?: string;
  @IsOptional() @IsInt() @Min(1) @Max(10_000) size?: number;
  /** The number of the first page. */
  @IsOptional() @IsInt() @Min(0) @Max(1) first?: number;
}

export class ListOperation {
  @IsString() @Matches(PATH, PATH_SAID) path!: string;
  @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => NamedValue) query!: NamedValue[];
  @IsString() @Matches(POINTER, POINTER_SAID) records!: string;
  /** The records stand in an object, each under its id. */
  @IsOptional() @IsBoolean() byId?: boolean;
  /** It shows less of a record than reading it alone. */
  @IsOptional() @IsBoolean() partial?: boolean;
  @ValidateNested() @Type(() => AdapterPaging) paging!: AdapterPaging;
}

/** How records are found by the value of a field. */
export class Finder {
  @IsString() @MinLength(1) @MaxLength(255) field!: string;
  @IsString() @MinLength(1) @MaxLength(120) parameter!: string;
  /** What the parameter says, with `{value}` in it; the value alone where nothing is said. */
  @IsOptional()
  @IsString()
  @MaxLength(300)
  @Matches(/\{value\}/, { message: 'must have {value} in it' })
  template?: string;
  /** It compares without regard to case; absent: not known. */
  @IsOptional() @IsBoolean() folds?: boolean;
}

export class ReadOperation {
  @IsString() @Matches(PATH, PATH_SAID) path!: string;
  /** Where the record stands in the answer. */
  @IsString() @Matches(POINTER, POINTER_SAID) record!: string;
}

export const WRITE_METHODS = ['POST', 'PUT', 'PATCH'] as const;

export class WriteOperation {
  @IsIn(WRITE_METHODS) method!: (typeof WRITE_METHODS)[number];
  @IsString() @Matches(PATH, PATH_SAID) path!: string;
  /** Where the record stands in the body. */
  @IsString() @Matches(POINTER, POINTER_SAID) body!: string;
  @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => PlacedValue) fixed!: PlacedValue[];
  /** Where the record stands in the answer; absent: the answer shows none. */
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) record?: string;
  /** Where the new id stands in the answer, where it shows no record; `Location` is looked at besides. */
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) id?: string;
  /** The whole record is sent, not only what changed. */
  @IsOptional() @IsBoolean() whole?: boolean;
  /** What may be written, where that isn't every field that can. */
  @IsOptional() @IsArray() @ArrayMaxSize(1000) @IsString({ each: true }) fields?: string[];
}

export class RemoveOperation {
  @IsString() @Matches(PATH, PATH_SAID) path!: string;
}

export class ChangesOperation {
  @IsString() @MinLength(1) @MaxLength(120) parameter!: string;
  /** The field that holds when a record was last changed. */
  @IsString() @MinLength(1) @MaxLength(255) field!: string;
  @IsOptional()
  @IsString()
  @MaxLength(300)
  @Matches(/\{value\}/, { message: 'must have {value} in it' })
  template?: string;
}

/** How a change by somebody else is noticed. */
export class AdapterVersion {
  /** An `ETag` header, or a field that changes with every change. */
  @IsIn(['ETag', 'field']) by!: 'ETag' | 'field';
  @IsOptional() @IsString() @MaxLength(255) field?: string;
  /** How it is said which version a change is meant for. */
  @IsIn(['If-Match', 'body', 'query']) sent!: 'If-Match' | 'body' | 'query';
  /** The name of the query parameter. */
  @IsOptional() @IsString() @MaxLength(120) parameter?: string;
}

/** What makes sending a create again safe. */
export class AdapterRepeat {
  @IsIn(['key', 'marker', 'looking', 'none']) by!: 'key' | 'marker' | 'looking' | 'none';
  /** The header of the idempotency key. */
  @IsOptional() @IsString() @Matches(HEADER, HEADER_SAID) header?: string;
  /** A field to spare, in which a mark of ours is left. */
  @IsOptional() @IsString() @MaxLength(255) field?: string;
}

/** How a value is written, where JSON or the API has a way of its own. */
export const FORMS = [
  'seconds',
  'milliseconds',
  'day.month.year',
  'day/month/year',
  'month/day/year',
  'number',
  'text',
  '1/0',
  'commas',
] as const;
export type ValueForm = (typeof FORMS)[number];

export class AdapterOption {
  @IsString() @MaxLength(255) value!: string;
  @IsString() @MaxLength(255) label!: string;
}

export class FieldAdapter {
  @IsString() @MinLength(1) @MaxLength(255) name!: string;
  @IsString() @MinLength(1) @MaxLength(255) label!: string;
  @IsIn(FIELD_TYPES) type!: FieldType;
  /** Where it stands in the record. */
  @IsString() @Matches(POINTER, POINTER_SAID) at!: string;
  @IsOptional() @IsIn(FORMS) form?: ValueForm;
  @IsOptional() @IsBoolean() required?: boolean;
  @IsOptional() @IsBoolean() unique?: boolean;
  @IsOptional() @IsBoolean() readOnly?: boolean;
  /** May be given on creation only. */
  @IsOptional() @IsBoolean() onCreate?: boolean;
  @IsOptional() @IsBoolean() defaulted?: boolean;
  @IsOptional() @IsInt() @Min(1) @Max(100_000_000) maxLength?: number;
  @IsOptional() @IsInt() @Min(1) @Max(100_000_000) maxBytes?: number;
  @IsOptional() @IsInt() @Min(0) @Max(20) scale?: number;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => AdapterOption)
  options?: AdapterOption[];
  /** The entity whose record's id it holds. */
  @IsOptional() @IsString() @MaxLength(120) relation?: string;
}

export class EntityAdapter {
  @IsString()
  @Matches(/^[\p{L}\p{N}_.-]{1,120}$/u, { message: 'must be a name of letters, digits, _, . or -' })
  name!: string;
  @IsString() @MinLength(1) @MaxLength(120) label!: string;
  /** The fields that name a record, mostly one. */
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(5) @IsString({ each: true }) @MaxLength(255, { each: true }) key!: string[];
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(1000)
  @ValidateNested({ each: true })
  @Type(() => FieldAdapter)
  fields!: FieldAdapter[];
  @IsOptional() @ValidateNested() @Type(() => ListOperation) list?: ListOperation;
  @IsArray() @ArrayMaxSize(200) @ValidateNested({ each: true }) @Type(() => Finder) find!: Finder[];
  @IsOptional() @ValidateNested() @Type(() => ReadOperation) read?: ReadOperation;
  @IsOptional() @ValidateNested() @Type(() => WriteOperation) create?: WriteOperation;
  @IsOptional() @ValidateNested() @Type(() => WriteOperation) update?: WriteOperation;
  @IsOptional() @ValidateNested() @Type(() => RemoveOperation) remove?: RemoveOperation;
  @IsOptional() @ValidateNested() @Type(() => ChangesOperation) changes?: ChangesOperation;
  @IsOptional() @ValidateNested() @Type(() => AdapterVersion) version?: AdapterVersion;
  @ValidateNested() @Type(() => AdapterRepeat) repeat!: AdapterRepeat;
}

/** How an option is added to a field of choices. In the path `{entity}` and `{field}` stand for their names. */
export class AddOptionOperation {
  @IsIn(WRITE_METHODS) method!: (typeof WRITE_METHODS)[number];
  @IsString() @Matches(PATH, PATH_SAID) path!: string;
  /** Where the option's value stands in the body, and its label where it has one. */
  @IsString() @Matches(POINTER, POINTER_SAID) value!: string;
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) label?: string;
}

/** What the API calls a kind of field. */
export class NamedKind {
  @IsIn(FIELD_TYPES) type!: FieldType;
  @IsString() @MinLength(1) @MaxLength(80) value!: string;
}

/** How a field is added to an entity; the places are in the body. */
export class AddFieldOperation {
  @IsIn(WRITE_METHODS) method!: (typeof WRITE_METHODS)[number];
  @IsString() @Matches(PATH, PATH_SAID) path!: string;
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) entity?: string;
  @IsString() @Matches(POINTER, POINTER_SAID) name!: string;
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) label?: string;
  @IsString() @Matches(POINTER, POINTER_SAID) kind!: string;
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) options?: string;
  /** The limit of a text, and the largest that may be asked for; both in characters, or in bytes. */
  @IsOptional() @IsString() @Matches(POINTER, POINTER_SAID) limit?: string;
  @IsOptional() @IsInt() @Min(1) @Max(100_000_000) mostLimit?: number;
  @IsOptional() @IsBoolean() inBytes?: boolean;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(100)
  @ValidateNested({ each: true })
  @Type(() => NamedKind)
  kinds!: NamedKind[];
}

/** What of the system's schema can be changed from outside. */
export class AdapterSchemaChanges {
  @IsOptional() @ValidateNested() @Type(() => AddOptionOperation) addOption?: AddOptionOperation;
  @IsOptional() @ValidateNested() @Type(() => AddFieldOperation) addField?: AddFieldOperation;
}

export class AdapterDocument {
  @IsIn([ADAPTER_FORMAT]) format!: typeof ADAPTER_FORMAT;
  @IsString() @MinLength(1) @MaxLength(120) name!: string;
  @IsWebAddress() @MaxLength(500) address!: string;
  /** Where the API describes itself (OpenAPI), or lists records; read again to see whether it has changed. */
  @IsOptional() @IsWebAddress() @MaxLength(500) describedAt?: string;
  @ValidateNested() @Type(() => AdapterSignIn) signIn!: AdapterSignIn;
  @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => NamedValue) headers!: NamedValue[];
  @ValidateNested() @Type(() => AdapterRefusal) refusal!: AdapterRefusal;
  /** Requests that may be with it at once. */
  @IsInt() @Min(1) @Max(64) parallel!: number;
  @IsOptional() @ValidateNested() @Type(() => AdapterSchemaChanges) schemaChanges?: AdapterSchemaChanges;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(300)
  @ValidateNested({ each: true })
  @Type(() => EntityAdapter)
  entities!: EntityAdapter[];
}
