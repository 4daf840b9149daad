import type { StepReport } from '@zusammen/core/plans';
import { api } from '../../api/client.ts';
import { useDo, useMe, useSystem } from '../../api/hooks.ts';
import type { SubmissionPath } from '../../api/types.ts';
import { Button } from '../../parts/button.tsx';
import { Incoming, Outgoing, Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Key } from '../../parts/key.tsx';
import { useKeys } from '../../parts/keys.ts';
import { TD, TH } from '../../parts/sheet.tsx';
import { Empty } from '../../parts/states.tsx';
import { Moment } from '../../parts/time.tsx';
import { ValueText } from '../../parts/values.tsx';
import { valuesFor } from '../submission-path.tsx';

/** Which of several records is meant: the submission beside each, and one key that decides. */
export function WhichOne({ told }: { told: SubmissionPath }) {
  const { submission, steps } = told;
  const me = useMe();
  const step = steps.find(({ outcome }) => outcome === 'asked');
  const system = useSystem(step?.system);
  const entity = system.data?.schema.entities.find(({ name }) => name === step?.entity);
  const answer = useDo(
    (body: { step: string; row?: number; record?: string; anew?: true }) =>
      api('POST', `/submissions/${submission.id}/answers`, body),
    ['submissions', 'submission', 'today', 'intakes'],
  );
  const candidates = step?.candidates ?? [];
  const came = step ? valuesFor(told, step) : {};
  const may = me.data !== undefined && me.data.role !== 'viewer' && step !== undefined && !answer.isPending;
  const choose = (record: string): void => {
    if (may && step) answer.mutate({ ...at(step), record });
  };
  const anew = (): void => {
    if (may && step) answer.mutate({ ...at(step), anew: true });
  };
  useKeys({
    n: anew,
    ...Object.fromEntries(candidates.slice(0, 9).map((candidate, at) => [String(at + 1), () => choose(candidate.id)])),
  });
  if (!step) return <Empty title="This has just been decided" />;
  const shown = (entity?.fields ?? []).filter(
    ({ name, rights, type }) =>
      rights !== 'none' &&
      type !== 'id' &&
      type !== 'reference' &&
      (step.changes.some(({ field }) => field === name) ||
        candidates.some(
          (each) =>
            (each.values[name] ?? null) !== null &&
            !(Array.isArray(each.values[name]) && each.values[name].length === 0),
        )),
  );
  const comes = (name: string): string | undefined => {
    const from = linesOf(told, step.step, name);
    const values = from
      .map((each) => came[each])
      .flat()
      .filter(Boolean);
    return values.length === 0 ? undefined : values.join(' ');
  };
  return (
    <>
      <header className="flex items-center justify-between gap-4 border-b border-hair px-4 py-2.5">
        <h2 className="flex items-center gap-2 font-semibold">
          Which {entity?.label ?? step.entity} is meant? <Tag tone="saffron">◆ {step.why}</Tag>
        </h2>
        <p className="text-small text-soft">
          Nothing is written until you decide. Later submissions about the same record wait behind it.
        </p>
      </header>
      <div tabIndex={0} className="max-h-[calc(100vh-270px)] overflow-auto">
        <table className="w-full">
          <thead>
            <tr>
              <th className={cx(TH, 'pl-4')}>Field</th>
              <th className={TH}>
                <Incoming>Submission</Incoming>
                <span className="block font-normal">
                  {told.intake?.name}, <Moment at={submission.receivedAt} />
                </span>
              </th>
              {candidates.map((candidate, at) => (
                <th key={candidate.id} className={TH}>
                  <span className="flex items-center gap-1.5">
                    <Key name={String(at + 1)} /> <Outgoing>{candidate.id}</Outgoing>
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((field) => {
              const came = comes(field.name);
              return (
                <tr key={field.name}>
                  <td className={cx(TD, 'pl-4')}>{field.label}</td>
                  <td className={TD}>
                    <ValueText value={came} />
                  </td>
                  {candidates.map((candidate) => {
                    const held = candidate.values[field.name];
                    const differs =
                      came !== undefined &&
                      held !== null &&
                      held !== undefined &&
                      String(held).toLowerCase() !== came.toLowerCase();
                    return (
                      <td key={candidate.id} className={TD}>
                        <span className={cx(differs && 'rounded bg-saffron-wash px-1')}>
                          <ValueText value={held} tone={differs ? 'text-saffron' : undefined} />
                        </span>
                      </td>
                    );
                  })}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <footer className="flex flex-wrap items-center gap-2 border-t border-hair px-4 py-3">
        {candidates.map((candidate, at) => (
          <Button
            key={candidate.id}
            look={at === 0 ? 'moss' : 'plain'}
            hotkey={String(at + 1)}
            disabled={!may}
            onClick={() => choose(candidate.id)}
          >
            It is {candidate.id}
          </Button>
        ))}
        <Button hotkey="N" disabled={!may} onClick={anew}>
          Somebody new
        </Button>
        {answer.error && (
          <p role="alert" className="text-brick">
            {answer.error.message}
          </p>
        )}
      </footer>
    </>
  );
}

const at = ({ step, row }: StepReport): { step: string; row?: number } =>
  row === undefined ? { step } : { step, row };

/** Names of the form's fields that a step's lines send to a field. */
export function linesOf(told: SubmissionPath, step: string, field: string): string[] {
  return told.treatments.find((each) => each.step === step && each.field === field)?.from ?? [];
}
