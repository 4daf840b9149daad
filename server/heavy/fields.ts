import { madeField, schemaFrom, withField, type AdapterDocument } from '@zusammen/core/adapters';
import {
  fieldMade,
  planField,
  stepsOfPlan,
  type FieldPlan,
  type Make,
  type OneField,
  type Standing,
} from '@zusammen/core/one-field';
import { stepsOfOptions, type Naming, type OptionChange, type OptionMove } from '@zusammen/core/option-sets';
import {
  fillSteps,
  fitSteps,
  lostParts,
  mendSteps,
  requiredParts,
  unfitParts,
  type Around,
  type Filling,
  type LostPart,
  type RequiredPart,
  type UnfitPart,
} from '@zusammen/core/lost';
import type { FieldMove } from '@zusammen/core/renamed-fields';
import type { ChangeStep } from '@zusammen/core/schema-changes';
import {
  drift,
  entityOf,
  fieldOf,
  openDriftOf,
  type Difference,
  type Lost,
  type NewlyRequired,
  type OpenDrift,
  type Schema,
  type TakesOtherwise,
} from '@zusammen/core/schema';
import { v7 as uuid } from 'uuid';

/** What a system makes of fields: none from here, all as they are wanted, or what its adapter says. */
export type Makes = 'none' | 'all' | AdapterDocument;

/** Planning one field: all that is there. */
export interface FieldTask {
  wanted: OneField;
  systems: { id: string; schema: Schema; makes: Makes }[];
  standing: Standing;
  naming: Naming;
}

/** One field wherever it is needed, and what making it comes to. */
export function planned({ wanted, systems, standing, naming }: FieldTask): FieldPlan & { steps: ChangeStep[] } {
  const around = new Map(systems.map(({ id, schema, makes }) => [id, { schema, make: makerOf(makes) }]));
  const plan = planField(wanted, { systems: around, standing, newId: uuid });
  return { ...plan, steps: stepsOfPlan(plan, naming) };
}

/** What a system would make of a field; undefined: it makes none. */
function makerOf(makes: Makes): Make | undefined {
  if (makes === 'none') return undefined;
  if (makes === 'all') return (_, wanted) => fieldMade(wanted);
  const operation = makes.schemaChanges?.addField;
  if (!operation) return undefined;
  return (entity, wanted) => {
    const of = makes.entities.find(({ name }) => name === entity.name);
    const made = of ? madeField(operation, of, wanted) : 'It can’t be seen there.';
    if (typeof made === 'string') return made;
    const then = entityOf(schemaFrom(withField(makes, entity.name, made.field)), entity.name);
    return (then && fieldOf(then, made.field.name)) ?? 'It can’t be seen there.';
  };
}

/** What changes of options come to. */
export const optionSteps = ({
  changes,
  schemas,
  naming,
}: {
  changes: OptionChange[];
  schemas: ReadonlyMap<string, Schema>;
  naming: Naming;
}): ChangeStep[] => stepsOfOptions(changes, schemas, naming);

/** What is done where a system is no longer as it was when things of ours were made. */
export interface MendTask extends Around {
  system: string;
  moves: FieldMove[];
  options: OptionMove[];
  filled: Filling[];
  fitted: TakesOtherwise[];
}

/** How a schema differs from what it was. */
export const schemasCompared = ({ before, after }: { before: Schema; after: Schema }): Difference[] =>
  drift(before, after);

/** What has become otherwise over readings of a schema, each a JSON text, the newest first. */
export const driftRead = ({ readings }: { readings: string[] }): OpenDrift =>
  openDriftOf(readings.map((text) => JSON.parse(text) as Schema));

/** What a mend comes to, step by step. */
export const mended = ({ system, moves, options, filled, fitted, ...around }: MendTask): ChangeStep[] => [
  ...mendSteps(moves, options, around),
  ...fillSteps(system, filled, around, uuid),
  ...fitSteps(system, fitted, around),
];

/** What has gone from a system and is still named, what must be given by now and isn't, and what is brought as it was taken once. */
export const drifted = ({
  system,
  lost,
  needed,
  changed,
  ...around
}: Around & { system: string; lost: Lost[]; needed: NewlyRequired[]; changed: TakesOtherwise[] }): {
  lost: LostPart[];
  required: RequiredPart[];
  unfit: UnfitPart[];
} => ({
  lost: lostParts(system, lost, around),
  required: requiredParts(system, needed, around),
  unfit: unfitParts(system, changed, around),
});
