import 'reflect-metadata';
import { Type } from 'class-transformer';
import { IsBoolean, IsIn, IsInt, IsOptional, IsString, Max, MaxLength, Min, ValidateNested } from 'class-validator';
import { PairedEntity, Pairing } from '../pairing/index.ts';

/** What requests about pairings may say. */
export class ProposePairingBody {
  @ValidateNested() @Type(() => PairedEntity) left!: PairedEntity;
  @ValidateNested() @Type(() => PairedEntity) right!: PairedEntity;
}

export class NewPairingBody {
  @ValidateNested() @Type(() => Pairing) document!: Pairing;
}

export class ChangePairingBody extends NewPairingBody {
  /** The revision it was made from. */
  @IsInt() @Min(0) revision!: number;
}

export class StartPairingBody {
  /** The draft's revision; absent: a paused pairing goes on as it is. */
  @IsOptional() @IsInt() @Min(0) revision?: number;
  /** What still wants a look is accepted. */
  @IsOptional() @IsBoolean() accept?: boolean;
}

export class RehearsePairingBody {
  /** How many pairs. */
  @IsOptional() @IsInt() @Min(1) @Max(1_000) pairs?: number;
}

export class LookAtPairingBody {
  @ValidateNested() @Type(() => Pairing) document!: Pairing;
}

export class SendAgainBody {
  /** Only what waits for this cause; absent: everything that is refused. */
  @IsOptional() @IsString() @MaxLength(16) cause?: string;
  /** The options that are missing there are added first. */
  @IsOptional() @IsBoolean() add?: boolean;
}

export const PAIR_ANSWERS = ['field', 'with', 'none', 'delete', 'keep'] as const;

export class AnswerPairBody {
  @IsIn(PAIR_ANSWERS) kind!: (typeof PAIR_ANSWERS)[number];
  /** Of a field: the line, and whose value counts. */
  @IsOptional() @IsString() @MaxLength(64) line?: string;
  @IsOptional() @IsIn(['left', 'right']) side?: 'left' | 'right';
  /** The record that goes with it. */
  @IsOptional() @IsString() @MaxLength(255) record?: string;
}
