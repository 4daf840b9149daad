import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  Equals,
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

/** The newest format of a definition document. */
export const DEFINITION_FORMAT = 1;

/** Kinds that a field can be made as; the id of a record is the system's own. */
export const DEFINED_TYPES = FIELD_TYPES.filter((type) => type !== 'id');
export type DefinedType = Exclude<FieldType, 'id'>;

const NAME = /^[A-Za-z][A-Za-z0-9_]{0,59}$/;
const named = (what: string) => ({ message: `${what} has letters, digits and _, the first a letter, at most 60` });

/** One of the values that a field is chosen from. */
export class DefinedOption {
  @IsString() @MinLength(1) @MaxLength(200) value!: string;
  @IsString() @MinLength(1) @MaxLength(200) label!: string;
}

/** A field that is to be made. */
export class DefinedField {
  @Matches(NAME, named('A name')) name!: string;
  @IsString() @MinLength(1) @MaxLength(120) label!: string;
  @IsIn(DEFINED_TYPES) type!: DefinedType;
  @IsOptional() @IsBoolean() required?: boolean;
  /** No two records have the same. */
  @IsOptional() @IsBoolean() unique?: boolean;
  /** Records are looked for by it. */
  @IsOptional() @IsBoolean() searchable?: boolean;
  /** The longest text, in characters. */
  @IsOptional() @IsInt() @Min(1) @Max(100_000) maxLength?: number;
  /** Decimals of a number. */
  @IsOptional() @IsInt() @Min(0) @Max(6) scale?: number;
  @IsOptional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(10_000)
  @ValidateNested({ each: true })
  @Type(() => DefinedOption)
  options?: DefinedOption[];
  /** Of a reference: the entity its records are of, by name or label; one of this document, or one that is there. */
  @IsOptional() @IsString() @MinLength(1) @MaxLength(255) relation?: string;
  /** What is filled in where nothing is said. */
  @IsOptional() @IsString() @MaxLength(200) default?: string;
  /** What it is for, in words. */
  @IsOptional() @IsString() @MaxLength(400) help?: string;
}

/** An entity that is to be made. */
export class DefinedEntity {
  @Matches(NAME, named('A name')) name!: string;
  /** What one record is called, and what several are. */
  @IsString() @MinLength(1) @MaxLength(80) label!: string;
  @IsString() @MinLength(1) @MaxLength(80) plural!: string;
  /** The field by which people call a record; absent: it goes by the number that the system gives it. */
  @IsOptional() @IsString() @MaxLength(60) namedBy?: string;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => DefinedField)
  fields!: DefinedField[];
  /** Who reads its records and who changes them, by the roles that the system knows; absent: as the system does it. */
  @IsOptional() @IsArray() @ArrayMaxSize(50) @IsString({ each: true }) @MaxLength(80, { each: true }) reads?: string[];
  @IsOptional() @IsArray() @ArrayMaxSize(50) @IsString({ each: true }) @MaxLength(80, { each: true }) writes?: string[];
}

/** What entities are to be, as one document: apart from any system. */
export class DefinitionDocument {
  @Equals(DEFINITION_FORMAT) format!: typeof DEFINITION_FORMAT;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(20)
  @ValidateNested({ each: true })
  @Type(() => DefinedEntity)
  entities!: DefinedEntity[];
}

/** Kinds whose values can be told apart, so that a field of them may be unique. */
export const CAN_BE_UNIQUE: readonly DefinedType[] = ['text', 'email', 'phone', 'web address', 'integer', 'date'];

export const isChosen = (type: FieldType): boolean => type === 'option' || type === 'options';
