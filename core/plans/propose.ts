import type { FormField } from '../forms/index.ts';
import { isWritable, mustBeGiven, type Entity } from '../schema/index.ts';
import { readNames } from './reach.ts';
import type { Step } from './model.ts';
import { firstRows } from './rows.ts';
import { blankStep, withStep, type SuggestInput } from './suggest-steps.ts';

/** What proposing a plan goes by: a form, and what the connected systems keep. */
export type ProposeInput = Omit<SuggestInput, 'steps'>;

export interface RankedEntity {
  system: string;
  entity: Entity;
  /** Fields of the form that find a place in it. */
  fits: number;
  /** Records can be made or changed; others can be looked in only. */
  writable: boolean;
}

/** A step more has to be worth reading. */
const MOST_STEPS = 6;
/** So many fields that had no place yet make an entity worth a step of its own. */
const WORTH_A_STEP = 2;

/** The entities a form may be about, those with places for most of its fields first; what is only looked in, last. */
export function rankEntities(input: ProposeInput): RankedEntity[] {
  const ranked = [...input.schemas].flatMap(([system, { entities }]) =>
    entities
      .filter(({ rights }) => rights.read || rights.create)
      .map((entity): RankedEntity & { weight: number } => {
        const writable = entity.rights.create || entity.rights.update;
        const placed = writable ? placedAlone(input, system, entity) : { fits: 0, weight: 0 };
        return { system, entity, writable, ...placed };
      }),
  );
  return ranked
    .sort((a, b) => Number(b.writable) - Number(a.writable) || b.weight - a.weight)
    .map(({ system, entity, fits, writable }) => ({ system, entity, fits, writable }));
}

/** How well the form fits an entity by itself; what must be given counts more: without it no record is made. */
function placedAlone(input: ProposeInput, system: string, entity: Entity): { fits: number; weight: number } {
  const fresh = blankStep('alone', system, entity.name);
  const [step] = withStep({ ...input, steps: [] }, fresh);
  const set = (step?.lines ?? []).filter(({ origin }) => origin === 'set');
  const needed = new Set(entity.fields.filter((field) => mustBeGiven(field)).map(({ name }) => name));
  const missing = [...needed].filter((name) => !set.some(({ field }) => field === name)).length;
  const weight = set.reduce((sum, { field, confidence = 1 }) => sum + confidence + (needed.has(field) ? 1 : 0), 0);
  return { fits: new Set(set.flatMap(({ from }) => from)).size, weight: weight - missing };
}

/**
 * The plan that a form speaks of by itself: the entity most of its fields fit, then those of the same system that what is
 * left over fits, with their links, keys and rows. Greedy: each step is the one that places most of what has no place.
 * @returns steps, none where no entity has a place for at least two of the form's fields
 */
export function proposeSteps(input: ProposeInput, ranked = rankEntities(input)): Step[] {
  const best = ranked.find(
    ({ fits, writable }) => writable && fits >= Math.max(1, Math.min(WORTH_A_STEP, input.fields.length)),
  );
  if (!best) return [];
  const candidates = ranked.filter(({ system, fits, writable }) => writable && fits > 0 && system === best.system);
  let steps = withStep({ ...input, steps: [] }, blankStep(input.newId(), best.system, best.entity.name));
  const tried = new Set([best.entity.name]);
  while (steps.length < MOST_STEPS) {
    const more = candidates
      .filter(({ entity }) => !tried.has(entity.name))
      .map(({ entity }) => ({ entity, steps: oneMore(input, steps, best.system, entity) }))
      .map((each) => ({ ...each, placed: each.steps ? placedBy(each.steps, input.fields).size : 0 }))
      .sort((a, b) => b.placed - a.placed)[0];
    if (!more?.steps) return steps;
    tried.add(more.entity.name);
    steps = more.steps;
  }
  return steps;
}

/** The steps with one on a further entity, where that is worth it: more finds a place than has to be added by hand. */
function oneMore(input: ProposeInput, steps: readonly Step[], system: string, entity: Entity): Step[] | undefined {
  const fresh = blankStep(input.newId(), system, entity.name);
  const next = withStep({ ...input, steps }, fresh);
  const step = next.find(({ id }) => id === fresh.id)!;
  const settled = step.lines.filter(({ origin }) => origin === 'set');
  const missing = entity.fields.filter(
    (field) => mustBeGiven(field) && isWritable(field) && !settled.some((line) => line.field === field.name),
  ).length;
  // What is only taken from steps that had a place for it is no gain.
  const gained = placedBy(next, input.fields).size - placedBy(steps, input.fields).size;
  return gained >= WORTH_A_STEP && gained > missing ? next : undefined;
}

/** The fields that settled lines of these steps read. */
export function placedBy(steps: readonly Step[], fields: readonly FormField[]): Set<string> {
  const settled = steps.map((step) => ({ ...step, lines: step.lines.filter(({ origin }) => origin === 'set') }));
  const read = readNames({ fields: [...fields], plan: { steps: settled } });
  return new Set(firstRows(fields).flatMap(({ name }) => (read.has(name) ? [name] : [])));
}

/** A proposal taken in part: steps on these entities only, in their order, suggested anew for one another. */
export function stepsFor(input: ProposeInput, about: readonly Pick<Step, 'system' | 'entity'>[]): Step[] {
  return about.reduce<Step[]>(
    (steps, { system, entity }) => withStep({ ...input, steps }, blankStep(input.newId(), system, entity)),
    [],
  );
}
