import { plural } from '../../../parts/plural.ts';
import { applyMend, type Finding } from '@zusammen/core/checks';
import { stepName } from '@zusammen/core/plans';
import { useNavigate, useSearchParams } from 'react-router';
import { cx } from '../../../parts/cx.ts';
import { Key } from '../../../parts/key.tsx';
import { useDraft } from '../draft.tsx';

/** What the checks found: how many samples each concerns, where it is, and its mend. */
export function Checks() {
  const { findings, document, standing } = useDraft();
  if (document.plan.steps.length === 0) return null;
  if (findings.length === 0 || !standing.read) return <NothingFound />;
  const stops = findings.some(({ severity }) => severity === 'stops');
  return (
    <section
      aria-label="Checks"
      className={cx('rounded-[8px] px-3 py-2.5', stops ? 'bg-brick-wash' : 'bg-saffron-wash')}
    >
      <h2 className={cx('font-semibold', stops ? 'text-brick' : 'text-saffron')}>
        {findings.length === 1 ? 'One check to settle' : `${findings.length} checks to settle`}
      </h2>
      <ul
        tabIndex={0}
        aria-label="Findings"
        className="mt-1 max-h-[calc(100vh-420px)] space-y-2 overflow-auto text-small"
      >
        {findings.map((finding, at) => (
          <Row key={at} finding={finding} />
        ))}
      </ul>
      <p className="mt-2 text-small text-soft">
        <Key name="?" /> shows the keys
      </p>
    </section>
  );
}

/** No finding stands here. That all is well is said only of what was checked and rehearsed as it is now. */
function NothingFound() {
  const { standing, mayEdit, samples, rehearsal } = useDraft();
  const calm = 'rounded-[8px] bg-sand px-3 py-2.5 text-small text-soft';
  if (!standing.read || !standing.checked)
    return (
      <p role="status" className={calm}>
        {standing.read ? 'Checking …' : 'Reading the schema …'}
      </p>
    );
  if (!mayEdit) return <p className={calm}>● The checks find nothing</p>;
  if (rehearsal.error) return <p className={calm}>The checks find nothing; it could not be rehearsed.</p>;
  if (samples.length === 0) return <p className={calm}>The checks find nothing. There is no sample to rehearse.</p>;
  if (!standing.rehearsed)
    return (
      <p role="status" className={calm}>
        The checks find nothing; rehearsing …
      </p>
    );
  const failed = (rehearsal.data ?? []).filter(
    (each) => each?.trouble !== undefined || each?.course?.state === 'failed',
  );
  if (failed.length > 0)
    return (
      <p className="rounded-[8px] bg-saffron-wash px-3 py-2.5 text-small text-saffron">
        ◆ The checks find nothing, but {failed.length} of {plural(samples.length, 'sample')}{' '}
        {failed.length === 1 ? 'fails' : 'fail'} in rehearsal.
      </p>
    );
  return <p className="rounded-[8px] bg-moss-wash px-3 py-2.5 text-small text-moss">● All checks pass</p>;
}

function Row({ finding }: { finding: Finding }) {
  const { change, mayEdit, detail, samples, document, schemas } = useDraft();
  const { steps } = document.plan;
  const [, setParams] = useSearchParams();
  const navigate = useNavigate();
  const stops = finding.severity === 'stops';
  const { line, station, step } = finding.place;
  const about = steps.find(({ id }) => id === step);
  const at = { ...(step === undefined ? {} : { step }), ...(line === undefined ? {} : { line }) };
  const go = (): void => {
    if (line !== undefined || step !== undefined) setParams(at, { replace: true });
    else if (station !== undefined && station !== 'plan') void navigate(`/intakes/${detail.intake.id}/${station}`);
  };
  const leads = line !== undefined || step !== undefined || (station !== undefined && station !== 'plan');
  const words = (
    <>
      <span className={cx('font-semibold', stops ? 'text-brick' : 'text-saffron')}>{stops ? '✕ ' : '◆ '}</span>
      {steps.length > 1 && about && <span className="font-semibold">{stepName(about, steps, schemas)}: </span>}
      {finding.sentence}
    </>
  );
  const first = finding.samples?.which[0];
  return (
    <li>
      {leads ? (
        <button type="button" className="block min-h-6 text-left hover:underline" onClick={go}>
          {words}
        </button>
      ) : (
        <span className="block">{words}</span>
      )}
      {finding.samples && finding.samples.hit > 0 && first !== undefined && samples[first] && (
        <button
          type="button"
          className="mr-2 inline-block min-h-6 text-soft underline decoration-dotted hover:text-ink"
          onClick={() => setParams({ ...at, sample: samples[first]!.id }, { replace: true })}
        >
          {finding.samples.hit} of {plural(finding.samples.of, 'sample')}
        </button>
      )}
      {finding.mend && mayEdit && (
        <button
          type="button"
          className="inline-block min-h-6 font-semibold text-plum hover:underline"
          onClick={() => change((held) => applyMend(held, finding.mend!))}
        >
          {finding.mend.label}
        </button>
      )}
    </li>
  );
}
