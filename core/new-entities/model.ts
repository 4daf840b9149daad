import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsOptional,
  IsString,
  MaxLength,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { DEFINITION_FORMAT, DefinedField, type DefinedEntity, type DefinitionDocument } from '../definitions/index.ts';

/** A spelling in the rows, and the option that it goes in as. */
export class Spelling {
  @IsString() @MaxLength(1000) from!: string;
  @IsString() @MaxLength(200) to!: string;
}

/** How a column's values lead to records of another entity. */
export class ColumnReference {
  /** By the value of one field, exactly; or by what a whole name says, weighed as evidence. */
  @IsIn(['field', 'name']) by!: 'field' | 'name';
  @IsOptional() @IsString() @MaxLength(255) field?: string;
  /** The entity as its system calls it. */
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
}

/** How the values of a column lead to records: what was counted, of how many rows. */
export interface ReferenceSeen {
  column: string;
  reference: ColumnReference;
  found: number;
  unsure: number;
  nobody: number;
  of: number;
  /** Some of those that are unsure, and that are nobody. */
  unsureOnes: string[];
  nobodies: string[];
}

/** One column of a sheet, and what becomes of it. */
export class SheetColumn {
  /** Its heading. */
  @IsString() @MaxLength(500) column!: string;
  /** The field that it becomes; absent: it is left out. */
  @IsOptional() @ValidateNested() @Type(() => DefinedField) field?: DefinedField;
  /** In which order its dates are written, and with which mark its numbers. */
  @IsOptional() @IsIn(['day first', 'month first', 'year first']) order?: 'day first' | 'month first' | 'year first';
  @IsOptional() @IsIn(['comma', 'point']) mark?: 'comma' | 'point';
  /** Amounts with a currency. */
  @IsOptional() @IsIn([true]) money?: true;
  /** What parts several options in one cell. */
  @IsOptional() @IsString() @MinLength(1) @MaxLength(5) by?: string;
  /** Texts that stand for nothing. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @MaxLength(40, { each: true })
  fillers?: string[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(5000)
  @ValidateNested({ each: true })
  @Type(() => Spelling)
  spellings?: Spelling[];
  @IsOptional() @ValidateNested() @Type(() => ColumnReference) reference?: ColumnReference;
}

/** A new entity out of a sheet: what it is, and how its rows come in. */
export class SheetEntity {
  @IsString() @MinLength(1) @MaxLength(60) name!: string;
  @IsString() @MinLength(1) @MaxLength(80) label!: string;
  @IsString() @MinLength(1) @MaxLength(80) plural!: string;
  @IsOptional() @IsString() @MaxLength(60) namedBy?: string;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => SheetColumn)
  columns!: SheetColumn[];
  @IsOptional() @IsArray() @ArrayMaxSize(50) @IsString({ each: true }) @MaxLength(80, { each: true }) reads?: string[];
  @IsOptional() @IsArray() @ArrayMaxSize(50) @IsString({ each: true }) @MaxLength(80, { each: true }) writes?: string[];
}

/** The columns that become fields. */
export const takenColumns = ({ columns }: Pick<SheetEntity, 'columns'>): (SheetColumn & { field: DefinedField })[] =>
  columns.filter((column): column is SheetColumn & { field: DefinedField } => column.field !== undefined);

/** The definition document of a sheet's entity. */
export function definitionOfSheet(sheet: SheetEntity): DefinitionDocument {
  const { name, label, plural, namedBy, reads, writes } = sheet;
  const fields = takenColumns(sheet).map(({ field }) => field);
  const entity: DefinedEntity = {
    ...{ name, label, plural, fields },
    ...(namedBy === undefined ? {} : { namedBy }),
    ...(reads ? { reads } : {}),
    ...(writes ? { writes } : {}),
  };
  return { format: DEFINITION_FORMAT, entities: [entity] };
}
