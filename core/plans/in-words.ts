import { describeCondition } from '../expressions/index.ts';
import { describeTreatment, type Line } from '../mapping/index.ts';
import { entityOf, type Schema } from '../schema/index.ts';
import { fieldLabel, stepName } from './links.ts';
import { alwaysNew, standingLines, type Planned, type Step } from './model.ts';

const NONE = { create: 'create it', skip: 'skip this step', ask: 'ask in Review', stop: 'stop' };
const ONE = {
  update: 'update it',
  leave: 'leave it as it is',
  delete: 'delete it',
  skip: 'skip this step',
  ask: 'ask in Review',
  stop: 'stop',
};
const SEVERAL = { ask: 'ask in Review', skip: 'skip this step', stop: 'stop' };

/**
 * A plan as a text that a colleague reads without the product: one paragraph a step, one line a field.
 * @param systems names of systems by id
 */
export function planInWords(
  { fields, plan }: Planned,
  schemas: ReadonlyMap<string, Schema>,
  systems: ReadonlyMap<string, string>,
): string {
  const { steps, onRefusal } = plan;
  const labelOf = (name: string): string => fields.find((field) => field.name === name)?.label ?? name;
  const nameOf = (id: string): string => {
    const step = steps.find((each) => each.id === id);
    return step ? stepName(step, steps, schemas) : 'a step that is gone';
  };
  const paragraphs = steps.map((step, at) => {
    const heading = `${at + 1}. ${stepName(step, steps, schemas)} in ${systems.get(step.system) ?? 'a system that is gone'}`;
    const condition = describeCondition(step.condition, labelOf);
    const when = [
      condition === '' ? '' : `Only if ${condition}.`,
      step.repeat === undefined ? '' : `Once for every row of ${step.repeat}.`,
    ];
    return [heading, ...[...when, which(step), ...lines(step)].filter(Boolean).map((line) => `   ${line}`)].join('\n');
  });
  const end =
    onRefusal === 'take back'
      ? 'If a step is refused, all of it is taken back.'
      : 'If a step is refused, what was done is kept and the rest waits.';
  return [...paragraphs, ...(steps.length > 1 ? [end] : [])].join('\n\n');

  function which(step: Step): string {
    if (step.record?.by === 'step')
      return `The record is that of ${nameOf(step.record.step ?? '')}; ${ONE[step.whenOne]}.`;
    const outcomes = `None found: ${NONE[step.whenNone]}; one: ${ONE[step.whenOne]}; several: ${SEVERAL[step.whenSeveral]}.`;
    if (step.record?.by === 'field') return `The record is named by ${labelOf(step.record.field ?? '')}. ${outcomes}`;
    if (alwaysNew(step)) return 'Always a new record.';
    const keys = step.recognise.map((key) => key.fields.map((name) => fieldLabel(step, name, schemas)).join(' with '));
    const ways = [...keys, ...(step.evidence ? ['all evidence together'] : [])];
    return `Recognised by ${ways.join(', or ')}. ${step.evidence ? outcomes.replace('several:', 'unsure:') : outcomes}`;
  }

  function lines(step: Step): string[] {
    return standingLines(step).map((line) => {
      const treated = line.treatments.map(describeTreatment).join(', ');
      const from = line.fromStep
        ? line.fromStep.field === undefined
          ? theRecord(line.fromStep)
          : `${otherField(line.fromStep.step, line.fromStep.field)} of ${theRecord(line.fromStep)}`
        : line.from.length > 0
          ? line.from.map(labelOf).join(' and ')
          : `“${line.constant ?? ''}”`;
      return `${fieldLabel(step, line.field, schemas)} ← ${from}${treated === '' ? '' : ` (${treated})`}, ${line.ifBoth}`;
    });
  }

  function theRecord({ step, row }: NonNullable<Line['fromStep']>): string {
    return `the ${row ? 'first ' : ''}${nameOf(step)}`;
  }

  function otherField(id: string, field: string): string {
    const step = steps.find((each) => each.id === id);
    const entity = step && entityOf(schemas.get(step.system) ?? { entities: [] }, step.entity);
    return entity?.fields.find(({ name }) => name === field)?.label ?? field;
  }
}
