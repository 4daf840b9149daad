import type { Check, Finding } from './finding.ts';
import { onSteps } from './finding.ts';

/** K09: the step's entity can't be seen, created or changed over this connection. */
export const entityRights: Check = (input) =>
  input.document.plan.steps.flatMap((step): Finding[] => {
    const schema = input.schemas.get(step.system);
    const place = { step: step.id };
    if (!schema) return [{ id: 'K09', severity: 'stops', place, sentence: `The system of this step isn't connected.` }];
    const entity = schema.entities.find((each) => each.name === step.entity);
    if (!entity)
      return [{ id: 'K09', severity: 'stops', place, sentence: `This connection can't see ${step.entity}.` }];
    const creates = step.whenNone === 'create' || step.recognise.length === 0;
    if (creates && !entity.rights.create)
      return [{ id: 'K09', severity: 'stops', place, sentence: `This connection may not create a ${entity.label}.` }];
    const updates = step.recognise.length > 0 && step.whenOne === 'update';
    if (updates && !entity.rights.update)
      return [{ id: 'K09', severity: 'stops', place, sentence: `This connection may not change a ${entity.label}.` }];
    return [];
  });

/** K13, first part: a step recognises by a field that no line fills, so it never finds anything. */
export const keyWithoutLine = onSteps(({ step, entity }) =>
  step.recognise.flatMap((key) =>
    key.fields.flatMap((name): Finding[] => {
      if (step.lines.some((line) => line.field === name)) return [];
      const label = entity.fields.find((field) => field.name === name)?.label ?? name;
      return [
        {
          id: 'K13',
          severity: 'stops',
          place: { step: step.id, field: name },
          sentence: `${entity.label} is recognised by ${label}, but no line fills it.`,
        },
      ];
    }),
  ),
);
