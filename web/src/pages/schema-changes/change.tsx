import type { SchemaChangeDetail } from '@zusammen/core/api';
import { stepInWords, type ChangeStep, type StepOutcome } from '@zusammen/core/schema-changes';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useImports, useMe, useSystems } from '../../api/hooks.ts';
import { useSchemaChange } from '../../api/schema.ts';
import { Button } from '../../parts/button.tsx';
import { cx } from '../../parts/cx.ts';
import { Dialog } from '../../parts/dialog.tsx';
import { plural } from '../../parts/plural.ts';
import { Progress } from '../../parts/progress.tsx';
import { Heading, Sheet, TD } from '../../parts/sheet.tsx';
import { Fetched } from '../../parts/states.tsx';
import { count, Moment } from '../../parts/time.tsx';
import { ImportReport } from '../intake/open/import-report.tsx';
import { ChangeTag, StepTag } from './state.tsx';

/** One change of schemas, step by step: what became of it, going on with it, and taking it back. */
export function SchemaChange() {
  const { id = '' } = useParams();
  const change = useSchemaChange(id);
  return <Fetched query={change}>{(known) => <Shown change={known} />}</Fetched>;
}

function Shown({ change }: { change: SchemaChangeDetail }) {
  const me = useMe();
  const systems = useSystems();
  const [asking, setAsking] = useState(false);
  const move = useDo(
    (to: 'go-on' | 'take-back' | 'pause') =>
      to === 'pause'
        ? call('post /schema-changes/:id/pause', { params: { id: change.id } })
        : to === 'go-on'
          ? call('post /schema-changes/:id/go-on', { params: { id: change.id } })
          : call('post /schema-changes/:id/take-back', { params: { id: change.id } }),
    ['schema changes', 'systems', 'intakes'],
  );
  const may = me.data !== undefined && me.data.role !== 'viewer';
  const { state, direction, outcomes, steps, rows } = change;
  const rests = state !== 'running';
  const systemName = (id: string): string | undefined => systems.data?.find((each) => each.id === id)?.name;
  const stands = outcomes.some((each) => each.state === 'done');
  const left = outcomes.some((each) => each.state === 'waiting' || each.state === 'refused');
  return (
    <>
      <Heading
        crumbs={
          <>
            <Link to="/schema">Schema /</Link> <Link to="/schema/changes">What was changed /</Link>
          </>
        }
        title={change.title}
        actions={
          may && !rests ? (
            <Button busy={move.isPending} onClick={() => move.mutate('pause')}>
              Stop
            </Button>
          ) : (
            may && (
              <>
                {stands && (
                  <Button look="danger" onClick={() => setAsking(true)}>
                    Take all back
                  </Button>
                )}
                {(left || direction === 'back') && (
                  <Button look="strong" busy={move.isPending} onClick={() => move.mutate('go-on')}>
                    {stands || left ? 'Go on with it' : 'Do it again'}
                  </Button>
                )}
              </>
            )
          )
        }
      >
        <ChangeTag change={change} />
        <span className="text-soft">
          <Moment at={change.at} />, {change.by}
        </span>
      </Heading>
      {change.words !== null && (
        <p role="alert" className="mb-3 rounded-[8px] bg-brick-wash px-4 py-3">
          {change.words}
        </p>
      )}
      {move.error && (
        <p role="alert" className="mb-3 text-brick">
          {move.error.message}
        </p>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)_330px] items-start gap-3.5 max-[1100px]:grid-cols-1">
        <div className="space-y-3.5">
          <Sheet title="Steps">
            <table className="w-full">
              <tbody>
                {steps.map((step, at) => (
                  <tr key={at}>
                    <td className={cx(TD, 'w-[40px] pl-4 font-mono text-soft')}>{at + 1}</td>
                    <td className={TD}>
                      {stepInWords(step)}
                      {'system' in step && systemName(step.system) !== undefined && (
                        <span className="text-small text-soft"> {systemName(step.system)}</span>
                      )}
                      {outcomes[at]?.records !== undefined && (
                        <span className="block text-small text-soft">
                          {plural(outcomes[at]!.records!, 'record')} changed
                        </span>
                      )}
                      {outcomes[at]?.words !== undefined && outcomes[at]!.words !== change.words && (
                        <span
                          className={cx(
                            'block text-small',
                            outcomes[at]!.state === 'done' || outcomes[at]!.state === 'stays'
                              ? 'text-saffron'
                              : 'text-brick',
                          )}
                        >
                          {outcomes[at]!.words}
                        </span>
                      )}
                    </td>
                    <td className={cx(TD, 'w-[130px]')}>
                      <StepTag state={outcomes[at]?.state ?? 'waiting'} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Sheet>
          {rows && <Rows rows={rows} back={direction === 'back'} />}
        </div>
        {direction === 'forth' && <OneStepAway steps={steps} outcomes={outcomes} rows={rows} />}
      </div>
      {asking && (
        <Dialog
          open
          close={() => setAsking(false)}
          title="Take all of it back"
          description="First its lines go, every record that its rows made is deleted, and every value that was changed is put back, as far as nobody has changed it since; then what was made of the schema is taken away. It can be done again."
        >
          <div className="flex justify-end gap-2">
            <Button onClick={() => setAsking(false)}>Not now</Button>
            <Button
              look="danger"
              autoFocus
              onClick={() => {
                setAsking(false);
                move.mutate('take-back');
              }}
            >
              Take all back
            </Button>
          </div>
        </Dialog>
      )}
    </>
  );
}

/** What has become of the rows: how far, in which states, each with its reason. */
function Rows({ rows, back }: { rows: NonNullable<SchemaChangeDetail['rows']>; back: boolean }) {
  const imports = useImports(rows.intake);
  const line = imports.data?.find(({ id }) => id === rows.import);
  const { total, done, totals, problems } = rows;
  const waiting = totals.received ?? 0;
  const settled = Math.max(0, done - waiting);
  const inReview = totals['in review'] ?? 0;
  return (
    <Sheet
      title="Rows"
      aside={
        inReview > 0 &&
        !back && (
          <Link className="font-semibold text-saffron hover:underline" to={`/review?intake=${rows.intake}`}>
            {count(inReview)} to decide in Review
          </Link>
        )
      }
    >
      <div className="space-y-2 px-4 py-3">
        {(rows.state === 'running' || waiting > 0) && <Progress label="Rows carried out" done={settled} of={total} />}
        <p role="status">
          {count(settled)} of {count(total)} carried out
          {(totals.applied ?? 0) > 0 && `, ${count(totals.applied!)} records written`}
          {(totals.refused ?? 0) + (totals.failed ?? 0) > 0 &&
            `, ${count((totals.refused ?? 0) + (totals.failed ?? 0))} not taken`}
          {(totals['taken back'] ?? 0) > 0 && `, ${count(totals['taken back']!)} taken back`}
          {problems.length > 0 && `, ${count(problems.length)} can’t be read`}
        </p>
        {line && <ImportReport line={line} />}
      </div>
    </Sheet>
  );
}

/** What is usually done next with what was made. */
function OneStepAway({
  steps,
  outcomes,
  rows,
}: {
  steps: readonly ChangeStep[];
  outcomes: readonly StepOutcome[];
  rows: SchemaChangeDetail['rows'];
}) {
  const made = steps.flatMap((step, at) =>
    step.kind === 'entities' && outcomes[at]?.state === 'done'
      ? (outcomes[at]!.made ?? []).map((name, place) => ({
          system: step.system,
          name,
          label: step.entities[place]!.label,
        }))
      : [],
  );
  const fields = steps.flatMap((step, at) =>
    step.kind === 'field' && outcomes[at]?.state === 'done'
      ? [{ ...step, name: outcomes[at]!.made?.[0] ?? step.field.name }]
      : [],
  );
  const carried = steps.flatMap((step, at) => (step.kind === 'carry' && outcomes[at]?.state === 'done' ? [step] : []));
  if (made.length + fields.length + carried.length === 0) return null;
  return (
    <Sheet title="One step away">
      <ul className="py-1.5">
        {made.map(({ system, name, label }) => (
          <Next key={name} to={`/schema?system=${system}&entity=${name}`}>
            Look at {label}, its fields and rights
          </Next>
        ))}
        {fields.map(({ system, entity, name, field, called }) => (
          <Next key={`${system} ${entity}`} to={`/schema?system=${system}&entity=${entity}&field=${name}`}>
            Look at {field.label} of {called ?? entity}
          </Next>
        ))}
        {carried.map(({ at, id, name }) => (
          <Next key={id} to={at === 'pairing' ? `/pairings/${id}` : `/intakes/${id}/plan`}>
            Look at its lines in {name}
          </Next>
        ))}
        {rows && <Next to={`/intakes/${rows.intake}/plan`}>The plan by which its rows came in</Next>}
        {made.length > 0 && (
          <>
            <Next to="/intakes/new?from=ours">Make a form that asks for it</Next>
            <Next to="/intakes/new">Make an intake that writes it</Next>
            <Next to="/pairings/new">Keep it in step with another entity</Next>
          </>
        )}
      </ul>
    </Sheet>
  );
}

const Next = ({ to, children }: { to: string; children: React.ReactNode }) => (
  <li>
    <Link to={to} className="block px-4 py-1.5 text-plum hover:bg-wash hover:underline">
      {children}
    </Link>
  </li>
);
