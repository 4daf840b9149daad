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
import { Condition } from '../expressions/index.ts';
import { Treatment } from '../mapping/index.ts';
import { DECIDER_NAMES, type Decider } from './deciders.ts';
import { WAYS, type Side, type Way } from './settle.ts';

/** Which format a pairing's document has. */
export const PAIRING_FORMAT = 1;

/** Relations gone through at most on the way to a field. */
export const MOST_HOPS = 3;

/** The entity whose records stand on one side. */
export class PairedEntity {
  @IsString() @MinLength(1) @MaxLength(64) system!: string;
  @IsString() @MinLength(1) @MaxLength(255) entity!: string;
}

/** Where a value of a record is found: one of its fields, a field of the record that a relation leads to, or worked out. */
export class Place {
  /** Fields that lead from record to record, and last the one that holds the value. Empty where it is worked out. */
  @IsArray()
  @ArrayMaxSize(MOST_HOPS + 1)
  @IsString({ each: true })
  @MaxLength(255, { each: true })
  path!: string[];
  /** CEL over the record's own fields. */
  @IsOptional() @IsString() @MinLength(1) @MaxLength(2000) compute?: string;
}

/** A value of one side that must be equal to one of the other for two records to go together. */
export class KeyPart {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_HOPS + 1)
  @IsString({ each: true })
  @MaxLength(255, { each: true })
  left!: string[];
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_HOPS + 1)
  @IsString({ each: true })
  @MaxLength(255, { each: true })
  right!: string[];
}

/** One way in which it is seen that two records go together: all parts are equal, and none is blank. */
export class Match {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(5) @ValidateNested({ each: true }) @Type(() => KeyPart) parts!: KeyPart[];
}

export const WHEN_ALONE = ['make', 'leave'] as const;
export const WHEN_GONE = ['undo', 'delete', 'ask'] as const;

/** What becomes of a record that has none on the other side. */
export class Alone {
  @IsIn(WHEN_ALONE) what!: (typeof WHEN_ALONE)[number];
  /** Made only where this holds for the record that is there. */
  @IsOptional() @ValidateNested() @Type(() => Condition) condition?: Condition;
}

/** An option of one side and its counterpart. */
export class PairedOption {
  @IsString() @MaxLength(1000) left!: string;
  @IsString() @MaxLength(1000) right!: string;
}

/** One field of the pair: where its value is on both sides, in which way it travels, and who decides. */
export class PairLine {
  @IsString() @MinLength(1) @MaxLength(64) id!: string;
  @ValidateNested() @Type(() => Place) left!: Place;
  @ValidateNested() @Type(() => Place) right!: Place;
  @IsIn(WAYS) way!: Way;
  @IsIn(DECIDER_NAMES) decides!: Decider;
  @IsOptional() @IsBoolean() onlyEmpty?: boolean;
  @IsOptional() @IsBoolean() collects?: boolean;
  @IsOptional() @IsBoolean() blankErases?: boolean;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(5000)
  @ValidateNested({ each: true })
  @Type(() => PairedOption)
  options?: PairedOption[];
  /** Done to a value on its way to the right, and on its way to the left, before it is brought to the field's type. */
  @IsArray() @ArrayMaxSize(10) @ValidateNested({ each: true }) @Type(() => Treatment) there!: Treatment[];
  @IsArray() @ArrayMaxSize(10) @ValidateNested({ each: true }) @Type(() => Treatment) back!: Treatment[];
  /** Why it was suggested, where nobody has said yes yet: until then it counts for nothing. */
  @IsOptional() @IsArray() @ArrayMaxSize(20) @IsString({ each: true }) suggested?: string[];
}

/** For each side. */
export class AloneSides {
  @ValidateNested() @Type(() => Alone) left!: Alone;
  @ValidateNested() @Type(() => Alone) right!: Alone;
}

export class GoneSides {
  @IsIn(WHEN_GONE) left!: (typeof WHEN_GONE)[number];
  @IsIn(WHEN_GONE) right!: (typeof WHEN_GONE)[number];
}

/** Where a system keeps when each field of a record was changed: an entity with a record per change. */
export class FieldHistory {
  @IsString() @MaxLength(255) entity!: string;
  /** Its fields that hold the changed record's id, the field's name, and the moment. */
  @IsString() @MaxLength(255) record!: string;
  @IsString() @MaxLength(255) field!: string;
  @IsString() @MaxLength(255) at!: string;
}

/** A pairing as a document: which record goes with which, for each field who decides, and how a value looks there. */
export class Pairing {
  @IsInt() @Min(1) @Max(PAIRING_FORMAT) format!: number;
  @IsString() @MinLength(1) @MaxLength(120) name!: string;
  @ValidateNested() @Type(() => PairedEntity) left!: PairedEntity;
  @ValidateNested() @Type(() => PairedEntity) right!: PairedEntity;
  /** Tried in order; the first by which a record has any on the other side decides. */
  @IsArray() @ArrayMaxSize(5) @ValidateNested({ each: true }) @Type(() => Match) matches!: Match[];
  /** Where no way finds one, records are weighed against the known ones of this side, as their recognition says. */
  @IsOptional() @IsIn(['left', 'right']) weighed?: Side;
  @ValidateNested() @Type(() => AloneSides) alone!: AloneSides;
  /** What becomes of the record on this side when the other one's is gone. */
  @ValidateNested() @Type(() => GoneSides) gone!: GoneSides;
  @IsArray() @ArrayMaxSize(300) @ValidateNested({ each: true }) @Type(() => PairLine) lines!: PairLine[];
  /** Fields that stay on their side by decision: nothing is missing there. */
  @IsArray() @ArrayMaxSize(1000) @IsString({ each: true }) @MaxLength(255, { each: true }) onlyLeft!: string[];
  @IsArray() @ArrayMaxSize(1000) @IsString({ each: true }) @MaxLength(255, { each: true }) onlyRight!: string[];
  /** Seconds between looks for changes in either system. */
  @IsInt() @Min(1) @Max(86_400) lookEvery!: number;
  @IsOptional() @ValidateNested() @Type(() => FieldHistory) leftHistory?: FieldHistory;
  @IsOptional() @ValidateNested() @Type(() => FieldHistory) rightHistory?: FieldHistory;
}

/** A pairing's lines that count: a suggestion waits for somebody's yes and does nothing until then. */
export const standing = ({ lines }: Pick<Pairing, 'lines'>): PairLine[] =>
  lines.filter(({ suggested }) => suggested === undefined);

/** Names a line by its places, for what is kept of it with every pair: it outlives every other change of the line. */
export const lineKey = ({ left, right }: Pick<PairLine, 'left' | 'right'>): string =>
  JSON.stringify([placeKey(left), placeKey(right)]);
/** Whether a line of this key has its value of a side in a field of the record itself. */
export function keyIsOn(key: string, side: Side, field: string): boolean {
  const [left, right] = JSON.parse(key) as [string, string];
  return (side === 'left' ? left : right) === field;
}
const placeKey = ({ path, compute }: Place): string => (compute === undefined ? path.join('.') : `=${compute}`);

/** A line as it begins: both ways, and whoever changed last decides. */
export const freshLine = (id: string, left: string[], right: string[]): PairLine => ({
  id,
  left: { path: left },
  right: { path: right },
  way: 'both',
  decides: 'newest',
  there: [],
  back: [],
});

/** A pairing as it begins. */
export const freshPairing = (name: string, left: PairedEntity, right: PairedEntity): Pairing => ({
  format: PAIRING_FORMAT,
  name,
  left,
  right,
  matches: [],
  alone: { left: { what: 'leave' }, right: { what: 'leave' } },
  gone: { left: 'undo', right: 'undo' },
  lines: [],
  onlyLeft: [],
  onlyRight: [],
  lookEvery: 1,
});

/** What one side of a pairing says. */
export const historyOf = (pairing: Pairing, side: Side): FieldHistory | undefined =>
  side === 'left' ? pairing.leftHistory : pairing.rightHistory;
