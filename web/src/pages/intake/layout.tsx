import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, NavLink, Outlet, useLocation, useMatch, useNavigate, useParams } from 'react-router';
import { call, ApiProblem } from '../../api/client.ts';
import { useIntake, useSecrets } from '../../api/hooks.ts';
import { useActions } from '../../parts/actions.ts';
import { Button } from '../../parts/button.tsx';
import { Tag } from '../../parts/chip.tsx';
import { standingsOf } from '@zusammen/core/forms/hosted';
import { conversionOf } from '@zusammen/core/intake';
import { unusedFields } from '@zusammen/core/plans';
import { cx } from '../../parts/cx.ts';
import { Dialog } from '../../parts/dialog.tsx';
import { plural } from '../../parts/plural.ts';
import { useKeys } from '../../parts/keys.ts';
import { Heading } from '../../parts/sheet.tsx';
import { Fetched } from '../../parts/states.tsx';
import { count } from '../../parts/time.tsx';
import { DraftProvider, useDraft } from './draft.tsx';
import { WhatWouldChange } from './what-would-change.tsx';

/** One intake: its heading, the five stations along a line, and the station that is open. */
export function IntakeLayout() {
  const { id = '' } = useParams();
  const intake = useIntake(id);
  return (
    <Fetched query={intake}>
      {(detail) => (
        <DraftProvider key={id} detail={detail}>
          <Head />
          <Stations />
          <Outlet />
        </DraftProvider>
      )}
    </Fetched>
  );
}

function Head() {
  const { detail, document, changed, mayEdit, saving, findings, standing } = useDraft();
  const navigate = useNavigate();
  const [publishing, setPublishing] = useState(false);
  const { intake, versions } = detail;
  const next = (versions[0]?.number ?? 0) + 1;
  const stops = findings.filter(({ severity }) => severity === 'stops').length;
  const rehearse = (): void => void navigate(`/intakes/${intake.id}/rehearse`);
  // On the page it leads to, R rehearses once more (rehearse.tsx).
  const there = useMatch('/intakes/:id/rehearse') !== null;
  const mayPublish = mayEdit && changed && document.plan.steps.length > 0 && stops === 0 && standing.checked;
  useKeys({ ...(there ? {} : { r: rehearse }), p: () => mayPublish && setPublishing(true) });
  useActions([
    { name: 'Rehearse', hotkey: 'R', act: rehearse },
    ...(mayPublish ? [{ name: `Publish version ${next}`, hotkey: 'P', act: () => setPublishing(true) }] : []),
    ...STATIONS.map(([path, name]) => ({
      name: `Go to ${name} of ${document.name}`,
      act: () => void navigate(`/intakes/${intake.id}/${path}`),
    })),
  ]);
  return (
    <Heading
      crumbs={
        <>
          <Link to="/intakes">Intakes</Link> /
        </>
      }
      title={document.name}
      actions={
        <>
          <SavingNote saving={saving} />
          {document.form && <FillIn />}
          <Button hotkey="R" onClick={rehearse}>
            Rehearse
          </Button>
          {mayEdit && (
            <Button
              look="strong"
              hotkey="P"
              disabled={!mayPublish}
              title={
                stops > 0
                  ? 'Checks stop it'
                  : !changed
                    ? 'Nothing has changed since'
                    : standing.checked
                      ? undefined
                      : 'The checks are still running'
              }
              onClick={() => setPublishing(true)}
            >
              Publish version {next}
            </Button>
          )}
        </>
      }
    >
      {intake.liveVersion !== null && intake.state === 'open' && (
        <Tag tone="moss">Live, version {intake.liveVersion}</Tag>
      )}
      {intake.state === 'closed' && <Tag tone="saffron">Closed</Tag>}
      {intake.state === 'draft' && <Tag>Not published</Tag>}
      {intake.liveVersion !== null && changed && <Tag tone="saffron">Draft differs from live</Tag>}
      {publishing && <Publish version={next} close={() => setPublishing(false)} />}
    </Heading>
  );
}

/** Opens the form as a visitor has it: the live one, or the draft where that differs. */
function FillIn() {
  const { detail, changed, flush, mayEdit } = useDraft();
  const { id, key, state } = detail.intake;
  const isLive = state === 'open' && !changed;
  const open = async (): Promise<void> => {
    // At once: a page that is opened later, without a click, is taken for an advertisement.
    const page = window.open('about:blank', '_blank');
    if (!page) return;
    page.opener = null;
    if (isLive) return void page.location.assign(`/f/${key}`);
    try {
      await flush();
      const { address } = await call('post /intakes/:id/preview', { params: { id } });
      page.location.assign(address);
    } catch {
      // Why it isn't saved stands beside the button.
      page.close();
    }
  };
  if (!isLive && !mayEdit) return null;
  return <Button onClick={() => void open()}>Fill it in as a visitor</Button>;
}

const STATIONS = [
  ['arrive', 'Arrive'],
  ['plan', 'Plan'],
  ['rehearse', 'Rehearse'],
  ['open', 'Open'],
  ['history', 'History'],
] as const;

function SavingNote({ saving }: { saving: ReturnType<typeof useDraft>['saving'] }) {
  if (saving === 'saved') return null;
  if (saving === 'saving') return <span className="late text-small text-soft">Saving…</span>;
  if (saving === 'overtaken') {
    return (
      <span role="alert" className="text-small text-brick">
        Somebody else changed this draft.{' '}
        <button type="button" className="font-semibold underline" onClick={() => window.location.reload()}>
          Load theirs
        </button>
      </span>
    );
  }
  return (
    <span role="alert" className="max-w-[300px] truncate text-small text-brick" title={saving.failed}>
      Not saved: {saving.failed}
    </span>
  );
}

function Publish({ version, close }: { version: number; close: () => void }) {
  const { detail, document, findings, flush } = useDraft();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<ApiProblem>();
  const nowhere = unusedFields(document);
  const looks = findings.filter(({ severity }) => severity === 'look');
  const publish = async (): Promise<void> => {
    setBusy(true);
    setProblem(undefined);
    try {
      const revision = await flush();
      await call('post /intakes/:id/publish', { params: { id: detail.intake.id }, body: { revision, accept: true } });
      await client.invalidateQueries({ queryKey: ['intakes'] });
      close();
      await navigate(`/intakes/${detail.intake.id}/open`);
    } catch (error) {
      setProblem(error instanceof ApiProblem ? error : new ApiProblem(0, 'Not published', String(error)));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Dialog
      open
      close={close}
      title={`Publish version ${version}`}
      description="From then on every submission is carried out as this draft says. Submissions that are on their way keep the version they came in under."
    >
      {looks.length > 0 && (
        <div className="mb-4 rounded-[8px] bg-saffron-wash px-4 py-3">
          <p className="font-semibold text-saffron">
            {looks.length === 1 ? 'One check wants a look' : `${looks.length} checks want a look`}
          </p>
          <ul className="mt-1 list-disc pl-5">
            {looks.map((finding, at) => (
              <li key={at}>{finding.sentence}</li>
            ))}
          </ul>
          <p className="mt-1 text-soft">Publishing accepts them; they stay on record with the version.</p>
        </div>
      )}
      {nowhere.length > 0 && (
        <p className="mb-4 text-soft">
          {nowhere.length === 1 ? 'One field of the form goes' : `${nowhere.length} fields of the form go`} nowhere:{' '}
          {nowhere
            .slice(0, 6)
            .map(({ label }) => label)
            .join(', ')}
          {nowhere.length > 6 && ` and ${nowhere.length - 6} more`}.
        </p>
      )}
      <WhatWouldChange />
      {problem && (
        <p role="alert" className="mb-4 rounded-[8px] bg-brick-wash px-4 py-3 text-brick">
          {problem.message}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={close}>Not now</Button>
        <Button look="strong" autoFocus busy={busy} onClick={() => void publish()}>
          Publish version {version}
        </Button>
      </div>
    </Dialog>
  );
}

function Stations() {
  const { detail, document, findings, rehearsal, samples, standing, facts } = useDraft();
  const { pathname } = useLocation();
  const base = `/intakes/${detail.intake.id}`;
  const { figures, intake } = detail;
  const keys = useSecrets(intake.id);
  const refusesAll = intake.signed && keys.data?.length === 0;
  const groups = new Set(document.fields.flatMap(({ group }) => group ?? []));
  const well = (rehearsal.data ?? []).filter((result) => result?.course?.state === 'applied').length;
  const steps = document.plan.steps.length;
  // What goes on with an answer, such as a consent's wording, is no question.
  const asked = document.form
    ? standingsOf(document.form).filter(({ item, name }) => name !== '' && item.kind !== 'group').length
    : document.fields.length;
  const stations: [path: string, name: string, note: string, done: boolean][] = [
    [
      'arrive',
      'Arrive',
      `${document.form ? 'our form, ' : ''}${plural(asked, document.form ? 'question' : 'field')}${groups.size > 0 ? `, ${groups.size} repeating` : ''}`,
      document.fields.length > 0,
    ],
    [
      'plan',
      'Plan',
      steps === 0
        ? 'no step yet'
        : `${steps} ${steps === 1 ? 'step' : 'steps'}${
            !standing.checked
              ? ', checking …'
              : findings.length > 0
                ? `, ${findings.length} ${findings.length === 1 ? 'check' : 'checks'} to settle`
                : ''
          }`,
      steps > 0 && standing.checked && findings.length === 0,
    ],
    [
      'rehearse',
      'Rehearse',
      samples.length === 0
        ? 'no samples yet'
        : samples[0]!.madeUp
          ? `made-up sample${rehearsal.data ? (well > 0 ? ': comes out well' : ': doesn’t come out') : ''}`
          : rehearsal.data
            ? `${well} of ${samples.length} ${samples.length === 1 ? 'sample comes' : 'samples come'} out well`
            : `${samples.length} ${samples.length === 1 ? 'sample' : 'samples'}`,
      standing.rehearsed && well === samples.length && well > 0,
    ],
    [
      'open',
      'Open',
      intake.state === 'open'
        ? refusesAll
          ? 'refuses everything: no key is good'
          : conversionOf(document)
            ? 'converts records'
            : 'takes submissions'
        : intake.state === 'closed'
          ? 'closed'
          : 'not published',
      intake.state === 'open' && !refusesAll,
    ],
    [
      'history',
      'History',
      figures
        ? `${count(figures.today)} today, ${count(figures.inReview)} in review, ${count(figures.refused)} refused`
        : facts?.everArrived
          ? 'nothing arrived lately'
          : facts
            ? 'nothing arrived yet'
            : '…',
      false,
    ],
  ];
  return (
    <nav aria-label="Stations" className="sheet mb-3.5 grid grid-cols-5 gap-y-2 px-4 py-2.5 max-[900px]:grid-cols-2">
      {stations.map(([path, name, note, done], at) => {
        const active = pathname.startsWith(`${base}/${path}`);
        return (
          <NavLink key={path} to={`${base}/${path}`} className="group grid grid-cols-[16px_1fr] items-start gap-x-3">
            <span
              aria-hidden="true"
              className={cx(
                'mt-[3px] size-[14px] rounded-[5px] border',
                active
                  ? 'border-plum bg-plum ring-2 ring-plum-wash'
                  : done
                    ? 'border-moss bg-moss'
                    : 'border-line bg-sheet',
              )}
            />
            <span className="min-w-0">
              <span className="flex items-center gap-2">
                <span className={cx('font-semibold group-hover:underline', active && 'text-plum')}>{name}</span>
                {at < stations.length - 1 && <span aria-hidden="true" className="mr-3 h-px flex-1 bg-hair" />}
              </span>
              <span className="block truncate pr-3 text-small text-soft">{note}</span>
            </span>
          </NavLink>
        );
      })}
    </nav>
  );
}
