import { entityOf, fieldOf, type Schema } from '../../schema/index.ts';
import { backLinkStep, linkLine } from '../links.ts';
import type { LinkProposal } from '../suggest-steps.ts';
import type { Plan, Step } from '../model.ts';

/**
 * Editing plans. Every edit is a pure function of what there is; what is given is left as it was.
 *
 * Invariants: the ids of steps are unique in a plan, and those of lines in a step; no line and no step refers to a step
 * that isn't there.
 */

/** A step that isn't known yet, at a place or at the end; one whose id is there already changes nothing. */
export function addStep<P extends Plan>(plan: P, step: Step, at = plan.steps.length): P {
  return plan.steps.some(({ id }) => id === step.id) ? plan : { ...plan, steps: plan.steps.toSpliced(at, 0, step) };
}

/** A plan without a step: what came from it goes too, since nothing would arrive there any more. */
export function removeStep<P extends Plan>(plan: P, id: string): P {
  if (!plan.steps.some((step) => step.id === id)) return plan;
  const gone = new Set([id, ...plan.steps.flatMap((step) => (step.record?.step === id ? step.id : []))]);
  const steps = plan.steps
    .filter((step) => !gone.has(step.id))
    .map((step) => ({ ...step, lines: step.lines.filter(({ fromStep }) => !fromStep || !gone.has(fromStep.step)) }));
  return { ...plan, steps };
}

/** How many steps and lines take something from a step. */
export const referencesTo = ({ steps }: Pick<Plan, 'steps'>, id: string): number =>
  steps.reduce(
    (sum, step) =>
      sum + (step.record?.step === id ? 1 : step.lines.filter(({ fromStep }) => fromStep?.step === id).length),
    0,
  );

/** @param from a step's place; @param to the place it takes; places that aren't there change nothing */
export function moveStep<P extends Plan>(plan: P, from: number, to: number): P {
  const step = plan.steps[from];
  if (!step || to < 0 || to >= plan.steps.length || from === to) return plan;
  return { ...plan, steps: plan.steps.toSpliced(from, 1).toSpliced(to, 0, step) };
}

/** A plan with one step changed; its id stays. */
export function changeStep<P extends Plan>(plan: P, id: string, work: (step: Step) => Step): P {
  const at = plan.steps.findIndex((step) => step.id === id);
  const held = plan.steps[at];
  const next = held && work(held);
  return !next || next === held ? plan : { ...plan, steps: plan.steps.with(at, { ...next, id }) };
}

/** Takes up a link that the schema offers (`linkProposals`), under a new id. */
export function takeLink<P extends Plan>(
  plan: P,
  proposal: LinkProposal,
  id: string,
  schemas: ReadonlyMap<string, Schema>,
): P {
  const owner = plan.steps.find((step) => step.id === (proposal.kind === 'line' ? proposal.step : proposal.earlier));
  const entity = owner && entityOf(schemas.get(owner.system) ?? { entities: [] }, owner.entity);
  const field = entity && fieldOf(entity, proposal.field);
  if (!owner || !field) return plan;
  if (proposal.kind === 'line')
    return changeStep(plan, owner.id, (step) => ({
      ...step,
      lines: [...step.lines, linkLine(id, field, proposal.earlier)],
    }));
  const to = plan.steps.findIndex((step) => step.id === proposal.step);
  const last = plan.steps[to];
  return last ? addStep(plan, backLinkStep(id, { field, earlier: owner }, last), to + 1) : plan;
}
