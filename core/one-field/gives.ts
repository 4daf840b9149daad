import type { IntakeDocument } from '../intake/index.ts';
import { evaluateLine } from '../mapping/index.ts';
import { aroundOf, readiedLine, receivers, across, type Pairing } from '../pairing/index.ts';
import { entityOf, fieldOf, type Schema, type Value } from '../schema/index.ts';
import type { CarriedLine } from './model.ts';

/** What a line makes of a value; or why it can't be had there, in words. */
export type Given = { value: Value } | { problem: string };

/** What a carried line of an intake makes of a value that comes in. @returns undefined where nothing can be told */
export function givenByLine(
  carried: CarriedLine,
  came: Value,
  document: IntakeDocument,
  schemas: ReadonlyMap<string, Schema>,
): Given | undefined {
  if (carried.kind === 'pair') return undefined;
  // What somebody chooses of the field's own options is one of them.
  if (carried.kind === 'question') return { value: came };
  const step = document.plan.steps.find(({ id }) => id === carried.step);
  const entity = step && entityOf(schemas.get(step.system) ?? { entities: [] }, step.entity);
  const field = entity && fieldOf(entity, carried.line.field);
  if (!field) return undefined;
  const fields = carried.takes ? [...document.fields, carried.takes] : document.fields;
  const { sent, problem } = evaluateLine(carried.line, { [carried.line.from[0] ?? '']: came }, field, { fields });
  return problem === undefined ? { value: sent } : { problem };
}

/** What a carried line of a pairing makes of a value of the side that is read. */
export function givenByPair(
  carried: CarriedLine,
  came: Value,
  pairing: Pairing,
  schemas: ReadonlyMap<string, Schema>,
): Given | undefined {
  const [left, right] = [aroundOf(pairing, 'left', schemas), aroundOf(pairing, 'right', schemas)];
  if (carried.kind !== 'pair' || !left || !right) return undefined;
  const ready = readiedLine(carried.line, { left, right });
  if (typeof ready === 'string') return { problem: ready };
  const reading = ready.rule.carry[across(receivers(carried.line).at(-1)!)](came);
  return reading.ok ? { value: reading.value } : { problem: reading.reason };
}

/** A value that the wanted field could hold, where no record holds one yet: its default, or the first of its options. */
export function assumedValue(
  { type, default: usual, options }: { type: string; default?: string; options?: readonly { value: string }[] },
  at = 0,
): Value | undefined {
  const chosen =
    options === undefined ? usual : at === 0 && usual !== undefined ? usual : options[at % options.length]?.value;
  if (chosen === undefined) return undefined;
  return type === 'options' ? [chosen] : chosen;
}
