import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { KIND_NAMES, Recognition, SURVIVOR_RULES, type KindName, type SurvivorRule } from '../recognition/index.ts';

/** What requests about recognition and doubles may say. */
export class EffectBody {
  @ValidateNested() @Type(() => Recognition) document!: Recognition;
}

export class SaveRecognitionBody extends EffectBody {
  /** The version it was made from; 0: there was none. */
  @IsInt() @Min(0) revision!: number;
}

export class TryRecognitionBody {
  /** By field of the entity. */
  @IsObject() values!: Record<string, unknown>;
}

export class DecidePairBody {
  @IsString() @MaxLength(255) a!: string;
  @IsString() @MaxLength(255) b!: string;
  @IsBoolean() same!: boolean;
}

export class MatchFilesBody {
  @IsUUID() records!: string;
  @IsUUID() queries!: string;
  @IsOptional() @IsIn(KIND_NAMES) kind?: KindName;
}

export class NewSearchBody {
  /** Another entity of the same kind, as `system/entity`; absent: doubles within this one. */
  @IsOptional() @IsString() @MaxLength(300) among?: string;
}

export class SearchStateBody {
  @IsIn(['running', 'paused', 'cancelled']) state!: 'running' | 'paused' | 'cancelled';
}

export class MergeBody {
  @IsString() @MaxLength(255) survivor!: string;
  @IsOptional() @IsIn(SURVIVOR_RULES) rule?: SurvivorRule;
  /** By field, the id of the record whose value is kept. */
  @IsOptional() @IsObject() choice?: Record<string, string>;
  @IsOptional() @IsString() @MaxLength(255) trusted?: string;
}
