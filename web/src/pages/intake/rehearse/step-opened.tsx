import { stepName, type FieldChange, type StepReport } from '@zusammen/core/plans';
import { Outgoing, Tag } from '../../../parts/chip.tsx';
import { cx } from '../../../parts/cx.ts';
import { plural } from '../../../parts/plural.ts';
import { TD, TH } from '../../../parts/sheet.tsx';
import { OutcomeTag } from '../../../parts/state.tsx';
import { ValueText } from '../../../parts/values.tsx';
import { useDraft } from '../draft.tsx';

export function StepName({ id }: { id: string }) {
  const { schemas, document } = useDraft();
  const { steps } = document.plan;
  const step = steps.find((each) => each.id === id);
  return <>{step ? stepName(step, steps, schemas) : 'a step that is gone'}</>;
}

/** What a step would do: which record it knows, and each field before and after. */
export function StepOpened({ step }: { step: StepReport }) {
  const changes = step.changes.filter(({ kept }) => kept === undefined);
  const kept = step.changes.filter(
    ({ kept: why, losses }) => why !== undefined && why !== 'same' && (why !== 'blank' || losses.length > 0),
  );
  const rest = step.changes.length - changes.length - kept.length;
  return (
    <section>
      <h3 className="flex flex-wrap items-center gap-2 border-b border-hair bg-wash px-4 py-2 font-semibold">
        <StepName id={step.step} />
        {step.row !== undefined && <span className="font-normal text-soft">row {step.row + 1}</span>}
        <OutcomeTag outcome={step.outcome} />
        {step.verdict === 'one' && step.record && (
          <Tag tone="moss">
            known: {step.record.id}
            {step.recognisedBy &&
              `, by ${step.recognisedBy.map((name) => step.changes.find(({ field }) => field === name)?.label ?? name).join(' and ')}`}
          </Tag>
        )}
        {step.candidates && step.candidates.length > 1 && (
          <Tag tone="saffron">{step.candidates.map(({ id }) => id).join(', ')}</Tag>
        )}
        <span className="ml-auto text-small font-normal text-soft">
          {changes.length} of {plural(step.changes.length, 'field')} {step.verdict === 'one' ? 'change' : 'filled'}
        </span>
      </h3>
      {step.why && (
        <p
          className={cx(
            'px-4 py-2',
            step.outcome === 'failed' || step.outcome === 'refused' ? 'text-brick' : 'text-saffron',
          )}
        >
          {step.why}
        </p>
      )}
      {changes.length + kept.length > 0 && (
        <table className="w-full table-fixed">
          <thead>
            <tr>
              <th className={cx(TH, 'w-[30%] pl-4')}>Field</th>
              <th className={cx(TH, 'w-[32%]')}>In the system now</th>
              <th className={TH}>Would be</th>
            </tr>
          </thead>
          <tbody>
            {[...changes, ...kept].map((change) => (
              <ChangeRow key={change.field} change={change} />
            ))}
          </tbody>
        </table>
      )}
      {rest > 0 && <p className="border-t border-hair px-4 py-2 text-small text-soft">{rest} unchanged or blank</p>}
    </section>
  );
}

const KEPT = {
  kept: 'kept, the line only fills',
  'new records only': 'kept, for new records only',
  blank: '',
  same: '',
};

function ChangeRow({ change }: { change: FieldChange }) {
  const replaced = change.kept === undefined && change.before !== null;
  return (
    <tr>
      <td className={cx(TD, 'pl-4')}>
        <Outgoing>{change.label}</Outgoing>
      </td>
      <td className={cx(TD, 'truncate', replaced && 'line-through decoration-soft')}>
        <ValueText value={change.before} />
      </td>
      <td className={cx(TD, 'truncate')}>
        {change.kept === undefined ? (
          <ValueText value={change.after} tone="font-bold text-moss" />
        ) : (
          <span className="text-small text-soft">{KEPT[change.kept]}</span>
        )}
        {change.losses.map((loss) => (
          <span key={loss} className="block truncate text-small text-saffron" title={loss}>
            {loss}
          </span>
        ))}
        {change.ambiguous && <span className="block truncate text-small text-saffron">{change.ambiguous}</span>}
      </td>
    </tr>
  );
}
