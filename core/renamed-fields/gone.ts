import { alwaysNew, recognitionOf, standingLines, type Plan, type Recognitions } from '../plans/index.ts';
import { entityOf, fieldOf, type Schema } from '../schema/index.ts';

/**
 * What a plan writes or recognises by that its systems no longer have, in words: somebody has to mend it before anything
 * can be carried out. @returns undefined where all is there
 */
export function goneFromUnder(
  { steps }: Plan,
  schemas: ReadonlyMap<string, Schema>,
  recognitions: Recognitions = new Map(),
): string | undefined {
  for (const step of steps) {
    const entity = entityOf(schemas.get(step.system) ?? { entities: [] }, step.entity);
    // Where nothing of the system is known, nothing is gone either.
    if (!entity) continue;
    const needed = [
      ...standingLines(step).map(({ field }) => field),
      ...(alwaysNew(step) ? [] : step.recognise.flatMap(({ fields }) => fields)),
      ...(step.evidence ? (recognitionOf(recognitions, step)?.parts ?? []).map(({ field }) => field) : []),
    ];
    const gone = needed.find((name) => !fieldOf(entity, name));
    if (gone !== undefined)
      return `${entity.label} has no “${gone}” any more: it waits until the plan has been mended.`;
  }
  return undefined;
}
