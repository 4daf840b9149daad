import 'reflect-metadata';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsOptional, IsString, MaxLength, ValidateNested } from 'class-validator';
import { EvaluationTrouble, readExpression, type ExpressionField, type Submitted } from './expression.ts';

export const TESTS = [
  'is',
  'is not',
  'has',
  'has not',
  'is blank',
  'is not blank',
  'is more than',
  'is less than',
] as const;
export type Test = (typeof TESTS)[number];

/** One comparison, as it is picked. */
export class ConditionPart {
  @IsString() @MaxLength(500) field!: string;
  @IsIn(TESTS) test!: Test;
  @IsOptional() @IsString() @MaxLength(1000) value?: string;
}

/** When something is done: comparisons that were picked, or an expression in CEL. Absent or empty: always. */
export class Condition {
  @IsIn(['all', 'any']) match!: 'all' | 'any';
  @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => ConditionPart) parts!: ConditionPart[];
  @IsOptional() @IsString() @MaxLength(2000) expression?: string;
}

const literal = (text: string): string => JSON.stringify(text);
const fieldAt = (name: string): string => (/^[A-Za-z_]\w*$/.test(name) ? `form.${name}` : `form[${literal(name)}]`);

/** A condition as CEL, the one form in which it is carried out; undefined: always. */
export function expressionOf(condition: Condition | undefined, fields: readonly ExpressionField[]): string | undefined {
  if (!condition) return undefined;
  if (condition.expression !== undefined) return condition.expression;
  if (condition.parts.length === 0) return undefined;
  const several = new Set(
    fields.filter(({ multiple, type }) => multiple === true || type === 'options').map(({ name }) => name),
  );
  return condition.parts
    .map(({ field, test, value = '' }) => {
      const at = fieldAt(field);
      const number = `number(${literal(value)}, ${literal(value.includes(',') ? 'comma' : 'point')})`;
      switch (test) {
        case 'is blank':
          return `blank(${at})`;
        case 'is not blank':
          return `!blank(${at})`;
        case 'is':
          return several.has(field) ? `${literal(value)} in ${at}` : `${at} == ${literal(value)}`;
        case 'is not':
          return several.has(field) ? `!(${literal(value)} in ${at})` : `${at} != ${literal(value)}`;
        case 'has':
          return several.has(field) ? `${literal(value)} in ${at}` : `${at}.contains(${literal(value)})`;
        case 'has not':
          return several.has(field) ? `!(${literal(value)} in ${at})` : `!${at}.contains(${literal(value)})`;
        case 'is more than':
          return `!blank(${at}) && number(${at}) > ${number}`;
        case 'is less than':
          return `!blank(${at}) && number(${at}) < ${number}`;
      }
    })
    .map((each) => (condition.parts.length > 1 ? `(${each})` : each))
    .join(condition.match === 'all' ? ' && ' : ' || ');
}

/** A condition in words, e.g. "Hectares is more than 5 and Crops has Apple". */
export function describeCondition(
  condition: Condition | undefined,
  labelOf: (field: string) => string,
  optionOf: (field: string, value: string) => string = (_, value) => value,
): string {
  if (!condition) return '';
  if (condition.expression !== undefined) return condition.expression;
  return condition.parts
    .map(({ field, test, value = '' }) =>
      test === 'is blank' || test === 'is not blank'
        ? `${labelOf(field)} ${test}`
        : `${labelOf(field)} ${test} ${optionOf(field, value) || 'nothing'}`,
    )
    .join(condition.match === 'all' ? ' and ' : ' or ');
}

export type Holds = { ok: true; holds: boolean } | { ok: false; reason: string };

/** Whether a condition holds for submitted values. */
export function holds(condition: Condition | undefined, values: Submitted, fields: readonly ExpressionField[]): Holds {
  const text = expressionOf(condition, fields);
  if (text === undefined) return { ok: true, holds: true };
  const expression = readExpression(text, fields);
  if (!expression.ok) return { ok: false, reason: expression.reason };
  try {
    const result = expression.evaluate(values);
    if (typeof result === 'boolean') return { ok: true, holds: result };
    return { ok: false, reason: 'the condition comes to neither yes nor no' };
  } catch (error) {
    if (error instanceof EvaluationTrouble) return { ok: false, reason: error.message };
    throw error;
  }
}

const MOST_CASES = 4096;

/**
 * Whether a condition can come out either way, tried on every combination of its fields' options (K25).
 * @returns undefined when a field it reads isn't a choice, or the combinations are too many to try
 */
export function outcomesOf(
  condition: Condition,
  fields: readonly (ExpressionField & { options?: readonly { value: string }[]; required?: boolean })[],
): { ever: boolean; always: boolean } | undefined {
  const text = expressionOf(condition, fields);
  const expression = text === undefined ? undefined : readExpression(text, fields);
  if (!expression?.ok) return undefined;
  let cases: Record<string, string | string[]>[] = [{}];
  for (const name of expression.reads) {
    const field = fields.find((each) => each.name === name)!;
    const choices = choicesOf(field);
    if (!choices || cases.length * choices.length > MOST_CASES) return undefined;
    cases = cases.flatMap((held) => choices.map((choice) => ({ ...held, [name]: choice })));
  }
  let ever = false;
  let always = true;
  for (const values of cases) {
    const result = holds(condition, values, fields);
    const yes = result.ok && result.holds;
    ever ||= yes;
    always &&= yes;
  }
  return { ever, always };
}

function choicesOf(
  field: ExpressionField & { options?: readonly { value: string }[]; required?: boolean },
): (string | string[])[] | undefined {
  if (!field.options) return undefined;
  const values = field.options.map(({ value }) => value);
  if (field.multiple !== true && field.type !== 'options') return field.required === true ? values : [...values, ''];
  // All subsets of a few choices; of many, each alone, none and all: what picking by `has` can tell apart.
  if (values.length <= 8) {
    return Array.from({ length: 2 ** values.length }, (_, bits) => values.filter((_value, at) => bits & (1 << at)));
  }
  return [[], values, ...values.map((value) => [value])];
}
