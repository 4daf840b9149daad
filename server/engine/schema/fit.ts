import type { IntakeDocument } from '@zusammen/core/intake';
import { sameTreatments } from '@zusammen/core/lost';
import type { ChangeDirection, ChangeStep } from '@zusammen/core/schema-changes';
import { editIntake, hastenWaiting } from '../../store/index.ts';
import type { SchemaWork } from './work.ts';

type Fit = ChangeStep & { kind: 'fit' };

/**
 * Has lines of an intake treat what they bring as was planned, in its draft and in what is live, or as they did before.
 * A line that somebody has changed meanwhile stays as it is; done before, it is done.
 */
export async function fitLines(
  work: SchemaWork,
  { id, lines }: Fit,
  by: string,
  direction: ChangeDirection,
): Promise<void> {
  const edit = (document: IntakeDocument): IntakeDocument => ({
    ...document,
    plan: {
      ...document.plan,
      steps: document.plan.steps.map((step) => ({
        ...step,
        lines: step.lines.map((line) => {
          const fit = lines.find(
            (each) =>
              each.step === step.id &&
              each.line === line.id &&
              sameTreatments(line.treatments, direction === 'forth' ? each.was : each.is),
          );
          return fit ? { ...line, treatments: direction === 'forth' ? fit.is : fit.was } : line;
        }),
      })),
    },
  });
  work.live.forget();
  await editIntake(work.db, id, edit, { id: null, name: by }, 'a field takes other values');
  work.live.forget();
  await hastenWaiting(work.db, id);
  work.look();
}
