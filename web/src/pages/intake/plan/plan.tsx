import type { Step } from '@zusammen/core/plans';
import { useState } from 'react';
import { cx } from '../../../parts/cx.ts';
import { Sheet } from '../../../parts/sheet.tsx';
import { Empty } from '../../../parts/states.tsx';
import { Key } from '../../../parts/key.tsx';
import { useDraft } from '../draft.tsx';
import { ChooseEntity } from './choose-entity.tsx';
import { Lines } from './lines.tsx';
import { Outcomes, StepSentence } from './sentence.tsx';

/** What a submission does: the steps on the left, one of them whole on the right. */
export function PlanStation() {
  const { document, change, mayEdit, systems, schemas, samples, rehearsal } = useDraft();
  const [sample, setSample] = useState(0);
  const step = document.plan.steps[0];
  const entity = step && schemas.get(step.system)?.entities.find(({ name }) => name === step.entity);
  const system = step && systems.find(({ id }) => id === step.system);
  const edit = (work: (step: Step) => Step): void =>
    change((held) => ({
      ...held,
      plan: { ...held.plan, steps: held.plan.steps.map((each) => (each.id === step?.id ? work(each) : each)) },
    }));
  return (
    <div className="grid grid-cols-[240px_minmax(0,1fr)] items-start gap-3.5">
      <div className="space-y-3.5">
        <p className="px-1 text-small font-semibold text-soft">What a submission does</p>
        {step && (
          <div className="sheet border-plum px-3 py-2.5 shadow-[inset_4px_0_0_var(--color-plum)]">
            <p className="font-semibold">{entity?.label ?? step.entity}</p>
            <p className="text-small text-soft">
              {step.recognise.length === 0 ? 'always a new one' : `recognise, else ${step.whenNone}`}
            </p>
          </div>
        )}
        <Checks />
      </div>
      {!step ? (
        <Sheet title="Which record does a submission make or change?">
          {mayEdit ? <ChooseEntity /> : <Empty title="This plan has no step yet" />}
        </Sheet>
      ) : (
        <Sheet>
          <StepSentence step={step} entity={entity} system={system} edit={edit} />
          <Outcomes step={step} edit={edit} />
          {entity ? (
            <Lines
              step={step}
              entity={entity}
              edit={edit}
              sample={Math.min(sample, Math.max(0, samples.length - 1))}
              setSample={setSample}
              rehearsed={rehearsal.data}
            />
          ) : schemas.size > 0 ? (
            <Empty title={`${step.entity} can’t be seen in the system`}>
              Read the system’s schema again, or choose another entity in the sentence above.
            </Empty>
          ) : null}
        </Sheet>
      )}
    </div>
  );
}

/** What the checks found, each with how many samples it concerns; a click goes to the line. */
function Checks() {
  const { findings, document } = useDraft();
  if (document.plan.steps.length === 0) return null;
  if (findings.length === 0)
    return <p className="rounded-[8px] bg-moss-wash px-3 py-2.5 text-small text-moss">● All checks pass</p>;
  const stops = findings.some(({ severity }) => severity === 'stops');
  return (
    <section
      aria-label="Checks"
      className={cx('rounded-[8px] px-3 py-2.5', stops ? 'bg-brick-wash' : 'bg-saffron-wash')}
    >
      <h2 className={cx('font-semibold', stops ? 'text-brick' : 'text-saffron')}>
        {findings.length === 1 ? 'One check to settle' : `${findings.length} checks to settle`}
      </h2>
      <ul className="mt-1 space-y-1.5 text-small">
        {findings.map((finding, at) => (
          <li key={at}>
            <button
              type="button"
              className="text-left hover:underline"
              onClick={() => {
                const line = finding.place.line;
                if (line) window.dispatchEvent(new CustomEvent('zusammen:line', { detail: line }));
              }}
            >
              <span
                className={finding.severity === 'stops' ? 'font-semibold text-brick' : 'font-semibold text-saffron'}
              >
                {finding.severity === 'stops' ? '✕ ' : '◆ '}
              </span>
              {finding.sentence}
              {finding.samples && finding.samples.hit > 0 && (
                <span className="text-soft">
                  {' '}
                  {finding.samples.hit} of {finding.samples.of} samples.
                </span>
              )}
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-small text-soft">
        <Key name="?" /> shows the keys
      </p>
    </section>
  );
}
