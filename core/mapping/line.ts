import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsNumber,
  IsOptional,
  IsString,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import type { Field, Value, Values } from '../schema/index.ts';
import { convert, isBlank, lengthInCharacters, sameValue, tooLong } from '../values/index.ts';
import { NOT_ASKED } from './treatments/lookup.ts';
import { TREATMENT_KINDS, Treatment, treat, type Question } from './treatments/index.ts';

/**
 * The whole idea of mapping: a line takes what came in under some names, treats it, converts it to what its
 * field takes, and says what happens when the record has a value already. It is a pure function; the table in
 * the interface, the rehearsal and the real run all call it.
 */
export const IF_BOTH = ['write', 'fill only', 'add to list', 'new records only', 'keep the longer'] as const;
export type IfBoth = (typeof IF_BOTH)[number];

/** `leave out`: the rest goes in without it; `ask`: somebody decides in Review. */
export const IF_UNREADABLE = ['refuse', 'leave out', 'ask'] as const;
export type IfUnreadable = (typeof IF_UNREADABLE)[number];

/** What an earlier step found or made: its record's id, or one of the record's fields. */
export class StepValue {
  @IsString() @MaxLength(64) step!: string;
  @IsOptional() @IsString() @MaxLength(255) field?: string;
  /** Of a step that is done once per row: that of the first row. */
  @IsOptional() @IsIn(['first']) row?: 'first';
}

export class Line {
  @IsString() @MaxLength(64) id!: string;
  /** Names of the form's fields whose values come in, in order. Empty when the line always writes the same. */
  @IsArray() @ArrayMaxSize(20) @IsString({ each: true }) from!: string[];
  /** The value comes from an earlier step instead of the form. */
  @IsOptional() @ValidateNested() @Type(() => StepValue) fromStep?: StepValue;
  /** What is written when `from` is empty. */
  @IsOptional() @IsString() @MaxLength(4000) constant?: string;
  @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => Treatment) treatments!: Treatment[];
  /** The record's field it goes to. */
  @IsString() @MaxLength(255) field!: string;
  @IsIn(IF_BOTH) ifBoth!: IfBoth;
  /** A blank erases what the record holds. Never so unless said here. */
  @IsBoolean() blankErases!: boolean;
  /** What becomes of a value that can't be read or doesn't go into the field; absent: the submission is refused. */
  @IsOptional() @IsIn(IF_UNREADABLE) unreadable?: IfUnreadable;
  /** Who made it: a suggestion not yet looked at, or a person. */
  @IsIn(['suggested', 'set']) origin!: 'suggested' | 'set';
  @IsOptional() @IsNumber() confidence?: number;
  @IsOptional() @IsArray() @IsString({ each: true }) reasons?: string[];
}

/** What a line makes of one submission's values, before any record is known. */
export interface LineValue {
  line: Line;
  /** What came in, one entry per name; null where nothing came. */
  came: Value[];
  /** After the treatments. */
  treated: Value;
  /** As the field takes it. */
  sent: Value;
  losses: string[];
  ambiguous?: string;
  /** Why the value can't go in, naming the value. */
  problem?: string;
  /** It can't go in, and the line says to go on without it: it counts as a blank that erases nothing. */
  leftOut?: true;
  /** The system has to be asked first; evaluated again with the answer, the line goes on. */
  asks?: Question;
}

/** What a line's value may depend on besides what comes in under its own names. */
export interface LineContext {
  /** The form's fields, for computed values. */
  fields: readonly { name: string; multiple?: boolean; type?: string }[];
  /** Where moments without a zone of their own were meant, by its IANA name. */
  zone?: string;
  /** What lookups found, by `questionKey`: the ids of at most two records. */
  answers?: ReadonlyMap<string, readonly string[]>;
  /** What earlier steps found or made; undefined where there is no record. */
  record?: (step: string, row?: 'first') => { id: string; values: Readonly<Record<string, Value>> } | undefined;
}

const NOTHING: LineContext = { fields: [] };

export const questionKey = ({ entity, by, text }: Question): string => JSON.stringify([entity, by, text.toLowerCase()]);

/**
 * Evaluates a line on submitted values. What can't be read is a `problem`, or, where the line leaves such values out, a
 * loss. @throws nothing
 */
export function evaluateLine(line: Line, values: Values, field: Field, context: LineContext = NOTHING): LineValue {
  const value = evaluated(line, values, field, context);
  if (value.problem === undefined || value.asks || line.unreadable !== 'leave out') return value;
  const { problem, ...rest } = value;
  return { ...rest, sent: null, losses: [...value.losses, `${problem}; it is left out`], leftOut: true };
}

function evaluated(line: Line, values: Values, field: Field, context: LineContext): LineValue {
  const came = line.from.map((name) => (Object.hasOwn(values, name) ? values[name]! : null));
  const result: LineValue = { line, came, treated: null, sent: null, losses: [] };
  const long = came.flat().flatMap((text) => (typeof text === 'string' ? (tooLong(text, 'text') ?? []) : []))[0];
  if (long !== undefined) return { ...result, problem: `${field.label}: ${long}` };
  let value: Value = sourceOf(line, came, context);
  let asks: Question | undefined;
  const surroundings = {
    values,
    fields: context.fields,
    answer: (question: Question) => {
      const known = context.answers?.get(questionKey(question));
      if (!known) asks ??= question;
      return known;
    },
  };
  for (const treatment of line.treatments) {
    const reading = treat(value, treatment, field, surroundings);
    if (!reading.ok && asks) return { ...result, treated: value, problem: `${field.label}: ${NOT_ASKED}`, asks };
    if (!reading.ok) return { ...result, treated: value, problem: `${field.label}: ${reading.reason}` };
    if (reading.ambiguous !== undefined) result.ambiguous = reading.ambiguous;
    if (reading.lost !== undefined) result.losses.push(`${field.label}: ${reading.lost}`);
    value = reading.value;
  }
  result.treated = value;
  const converted = convert(value, field, context.zone);
  if (!converted.ok) return { ...result, problem: `${field.label}: ${converted.reason}` };
  result.sent = converted.value.value;
  result.losses.push(...converted.value.losses);
  if (converted.value.ambiguous !== undefined) result.ambiguous = converted.value.ambiguous;
  return result;
}

function sourceOf({ fromStep, from, constant }: Line, came: LineValue['came'], context: LineContext): Value {
  if (fromStep) {
    const record = context.record?.(fromStep.step, fromStep.row);
    return record ? (fromStep.field === undefined ? record.id : (record.values[fromStep.field] ?? null)) : null;
  }
  if (from.length === 0) return constant ?? null;
  return came.length === 1 ? came[0]! : parts(came);
}

/** Several names feed one list of parts; `join` makes one text of it. */
function parts(came: LineValue['came']): string[] {
  return came.flat().flatMap((each) => (isBlank(each) ? [] : [String(each)]));
}

/** What is written to a record that holds `current`, and why when nothing is. */
export type Decision =
  | { write: true; value: Value }
  | { write: false; why: 'blank' | 'same' | 'kept' | 'new records only' };

/**
 * Decides whether a line's value is written.
 * @param current what the record holds; undefined for a record about to be created
 */
export function decide(value: LineValue, current: Value | undefined, isNew: boolean): Decision {
  const { line, sent } = value;
  if (isBlank(sent)) {
    if (isNew || !line.blankErases || value.leftOut || isBlank(current)) return { write: false, why: 'blank' };
    return line.ifBoth === 'write' ? { write: true, value: null } : { write: false, why: 'kept' };
  }
  if (isNew) return { write: true, value: sent };
  if (line.ifBoth === 'new records only') return { write: false, why: 'new records only' };
  if (isBlank(current)) return { write: true, value: sent };
  if (sameValue(sent, current)) return { write: false, why: 'same' };
  if (line.ifBoth === 'fill only') return { write: false, why: 'kept' };
  if (line.ifBoth === 'keep the longer') {
    const longer = lengthInCharacters(String(sent)) > lengthInCharacters(String(current));
    return longer ? { write: true, value: sent } : { write: false, why: 'kept' };
  }
  if (line.ifBoth === 'add to list') return addToList(sent, current!);
  return { write: true, value: sent };
}

function addToList(sent: Value, current: Value): Decision {
  if (Array.isArray(current) || Array.isArray(sent)) {
    const held = Array.isArray(current) ? current : [String(current)];
    const more = (Array.isArray(sent) ? sent : [String(sent)]).filter((each) => !held.includes(each));
    return more.length === 0 ? { write: false, why: 'same' } : { write: true, value: [...held, ...more] };
  }
  // A text that collects: one entry a line, nothing twice.
  const held = String(current).split('\n');
  return held.includes(String(sent))
    ? { write: false, why: 'same' }
    : { write: true, value: `${String(current)}\n${String(sent)}` };
}

export { TREATMENT_KINDS, Treatment };
