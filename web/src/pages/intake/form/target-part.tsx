import { canBeAsked, fillWith, linesOf } from '@zusammen/core/asking';
import type { Standing } from '@zusammen/core/forms/hosted';
import { stepName } from '@zusammen/core/plans';
import { isWritable, mustBeGiven } from '@zusammen/core/schema';
import { Link } from 'react-router';
import { Outgoing } from '../../../parts/chip.tsx';
import { Combobox } from '../../../parts/combobox.tsx';
import { useDraft } from '../draft.tsx';
import type { Editing } from './editing.tsx';
import { Part } from './part.tsx';

/** Into which fields of which records an answer goes; each leads to its line in the plan. */
export function TargetPart({ standing, edited, editing }: { standing: Standing; edited: boolean; editing: Editing }) {
  const { document, detail, schemas } = useDraft();
  const { name } = standing;
  const uses = linesOf(document, name);
  const chosenFor = document.plan.steps.filter(({ record }) => record?.by === 'field' && record.field === name);
  const chip = (step: (typeof uses)[number]['step'], field: string) => {
    const entity = schemas.get(step.system)?.entities.find((each) => each.name === step.entity);
    const label = entity?.fields.find((each) => each.name === field)?.label ?? field;
    return (
      <Link
        key={`${step.id} ${field}`}
        to={`/intakes/${detail.intake.id}/plan?step=${step.id}`}
        className="hover:underline"
      >
        <Outgoing>
          {entity?.label ?? step.entity} · {label}
        </Outgoing>
      </Link>
    );
  };
  return (
    <>
      {uses.length > 0 && <>Fills {uses.flatMap(({ step, fields }) => fields.map((field) => chip(step, field)))}</>}
      {chosenFor.map((step) => (
        <span key={step.id}>
          {uses.length > 0 ? ' and says' : 'Says'} which{' '}
          <Outgoing>{stepName(step, document.plan.steps, schemas)}</Outgoing> is changed
        </span>
      ))}
      {uses.length === 0 && chosenFor.length === 0 && 'Goes into no record'}
      {edited && uses.length === 0 && chosenFor.length === 0 && <Into name={name} editing={editing} />}
    </>
  );
}

function Into({ name, editing }: { name: string; editing: Editing }) {
  const { document, change, schemas } = useDraft();
  const items = document.plan.steps.flatMap((step) => {
    const entity = schemas.get(step.system)?.entities.find((each) => each.name === step.entity);
    const filled = new Set(step.lines.map(({ field }) => field));
    return (entity?.fields ?? [])
      .filter((field) => isWritable(field) && canBeAsked(field) && !filled.has(field.name))
      .map((field) => ({
        value: `${step.id} ${field.name}`,
        label: field.label,
        words: `${field.label} ${field.name}`,
        note: mustBeGiven(field) ? 'needed' : field.type,
        group: stepName(step, document.plan.steps, schemas),
      }));
  });
  return (
    <>
      ;{' '}
      <Part label="Put it into a field" shown="put it into a field" edited wide>
        {(close) => (
          <Combobox
            items={items}
            placeholder="Which field does it fill?"
            choose={(value) => {
              const [step = '', ...field] = value.split(' ');
              change((held) => fillWith(held, name, step, field.join(' '), editing.asking));
              close();
            }}
          />
        )}
      </Part>
    </>
  );
}
