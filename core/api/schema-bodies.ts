import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsDefined,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  MaxLength,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { DefinitionDocument } from '../definitions/index.ts';
import { SheetColumn, SheetEntity } from '../new-entities/index.ts';
import { OptionChange } from '../option-sets/index.ts';
import { OneField } from '../one-field/index.ts';

/** A definition document: entities that are to be made. */
export class NewEntitiesBody extends DefinitionDocument {}

/** A definition document, or a JSON Schema of an object. */
export class ReadDefinitionBody {
  @IsDefined() @IsObject() document!: Record<string, unknown>;
  /** What the entity of a JSON Schema without a title is called. */
  @IsOptional() @IsString() @MaxLength(80) called?: string;
}

/** An uploaded file, of whose sheet an entity may be made. */
export class LookAtSheetBody {
  @IsUUID() file!: string;
}

/** How a column of a sheet would lead to records. */
export class MeasureReferenceBody {
  @IsUUID() file!: string;
  @IsDefined() @ValidateNested() @Type(() => SheetColumn) column!: SheetColumn;
}

/** A new entity out of a sheet, with its rows. */
export class NewSheetBody {
  @IsUUID() file!: string;
  @IsDefined() @ValidateNested() @Type(() => SheetEntity) sheet!: SheetEntity;
}

/** One field, wherever it is needed. */
export class OneFieldBody extends OneField {}

/** Changes of options, made in one go. */
export class ChangeOptionsBody {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(2_000)
  @ValidateNested({ each: true })
  @Type(() => OptionChange)
  changes!: OptionChange[];
}

/** A field that goes by another name in its system by now. */
export class RenamedField {
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
  @IsString() @MinLength(1) @MaxLength(255) was!: string;
  @IsString() @MinLength(1) @MaxLength(255) is!: string;
}

/** An option that its system no longer has, and the one that is named in its place. */
export class ReplacedOption {
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
  @IsString() @MinLength(1) @MaxLength(255) field!: string;
  @IsString() @MaxLength(1000) from!: string;
  @IsString() @MaxLength(1000) into!: string;
}

/** A field that must be given by now, and the value that whatever gives it nothing gives it. */
export class FilledField {
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
  @IsString() @MinLength(1) @MaxLength(255) field!: string;
  @IsString() @MinLength(1) @MaxLength(4000) value!: string;
}

/** A field that takes other values than it did: whatever brings it something treats it accordingly. */
export class FittedField {
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
  @IsString() @MinLength(1) @MaxLength(255) field!: string;
}

/**
 * What is mended after a system has changed: fields whose new names everything is to go by, options that are gone with
 * those that take their place, fields that must be given with what they are given, fields that take other values.
 */
export class MendDriftBody {
  @IsArray()
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => RenamedField)
  renames!: RenamedField[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => ReplacedOption)
  options?: ReplacedOption[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => FilledField)
  filled?: FilledField[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => FittedField)
  fitted?: FittedField[];
}
