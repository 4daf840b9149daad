import { INTAKE_FORMAT } from '@zusammen/core/intake';
import { useCallback, useState, type ReactNode } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { call, ApiProblem } from '../../api/client.ts';
import { useDo, useIntakes } from '../../api/hooks.ts';
import { Button } from '../../parts/button.tsx';
import { TextField } from '../../parts/form.tsx';
import { Radios } from '../../parts/radios.tsx';
import { Heading, Sheet } from '../../parts/sheet.tsx';
import { Empty } from '../../parts/states.tsx';
import { freeKey, keyFrom, type Brought } from './brought.ts';
import { FieldsFound } from './fields-found.tsx';
import { FileSource } from './file-source.tsx';
import { OursSource } from './ours-source.tsx';
import { StartedForm } from './started-form.tsx';
import { PageSource } from './page-source.tsx';
import { RecordSource } from './record-source.tsx';
import { PayloadSource } from './payload-source.tsx';

const SOURCES = [
  { from: 'page', name: 'a form on a page', hint: 'Its fields appear here with the labels a visitor sees.' },
  { from: 'ours', name: 'a form of ours', hint: 'The form and its plan appear here before anything is made.' },
  { from: 'events', name: 'a feed of events', hint: 'Paste an event: its fields appear here with inferred kinds.' },
  { from: 'file', name: 'a file of old submissions', hint: 'Its columns appear here; every row becomes a submission.' },
  { from: 'record', name: 'records of a system', hint: 'Its fields appear here; a record becomes what the plan says.' },
  { from: 'program', name: 'a program, or a schema', hint: 'Paste what it sends, or the JSON Schema of it.' },
] as const;
type From = (typeof SOURCES)[number]['from'];

/** A new intake, from wherever its submissions come. */
export function NewIntake() {
  const navigate = useNavigate();
  const [params, setParams] = useSearchParams();
  const chosen = SOURCES.find(({ from }) => from === params.get('from')) ?? SOURCES[0];
  const [brought, setBrought] = useState<Brought>();
  const bring = useCallback((found: Brought | undefined) => setBrought(found), []);
  const sources: Record<From, ReactNode> = {
    page: <PageSource bring={bring} />,
    ours: <OursSource bring={bring} />,
    events: <PayloadSource key="events" kind="events" bring={bring} />,
    file: <FileSource bring={bring} />,
    record: <RecordSource bring={bring} />,
    program: <PayloadSource key="program" kind="program" bring={bring} />,
  };
  return (
    <>
      <Heading
        crumbs={
          <>
            <Link to="/intakes">Intakes</Link> /
          </>
        }
        title="New intake"
      />
      <div className="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)] items-start gap-3.5 max-[900px]:grid-cols-1">
        <Sheet>
          <div className="flex flex-wrap items-center gap-1 border-b border-hair px-4 py-2.5">
            <span className="mr-1 text-soft">Submissions come from</span>
            <Radios
              label="Submissions come from"
              chosen={chosen.from}
              choose={(from) => {
                setBrought(undefined);
                setParams(from === 'page' ? {} : { from }, { replace: true });
              }}
              options={SOURCES.map(({ from, name }) => ({ value: from, label: name }))}
            />
          </div>
          <div className="space-y-4 p-4">
            {sources[chosen.from]}
            {brought && (
              <Make
                key={brought.name + brought.fields.length}
                brought={brought}
                made={(id) => void navigate(`/intakes/${id}/${brought.ours ? 'arrive' : 'plan'}`)}
              />
            )}
          </div>
        </Sheet>
        <Sheet
          title={
            brought?.ours
              ? `${brought.name}, as it would be here`
              : brought
                ? `${brought.fields.length} ${brought.fields.length === 1 ? 'field' : 'fields'} found`
                : 'Fields'
          }
          aside={brought?.note}
        >
          {brought?.ours ? (
            <StartedForm brought={brought} />
          ) : brought ? (
            <FieldsFound brought={brought} />
          ) : (
            <Empty title="Nothing brought in yet">{chosen.hint}</Empty>
          )}
        </Sheet>
      </div>
    </>
  );
}

/** Name and key, then the intake with its samples; a file that was uploaded waits for the intake to be open. */
function Make({ brought, made }: { brought: Brought; made: (id: string) => void }) {
  const intakes = useIntakes();
  const taken = new Set((intakes.data ?? []).map(({ key }) => key));
  const [name, setName] = useState(brought.name);
  const [ownKey, setOwnKey] = useState<string>();
  const key = ownKey ?? freeKey(keyFrom(name), taken);
  const make = useDo(async () => {
    const { fields, source, settings, samples, ours } = brought;
    const { intake } = await call('post /intakes', {
      body: {
        key,
        document: {
          format: INTAKE_FORMAT,
          name,
          source,
          fields,
          plan: ours?.plan ?? { steps: [] },
          ...(ours ? { form: { ...ours.form, title: { ...ours.form.title, [ours.form.languages[0]!]: name } } } : {}),
          settings: { perMinute: 60, ...settings },
        },
      },
    });
    for (const values of samples)
      await call('post /intakes/:id/samples', { params: { id: intake.id }, body: { values } });
    return intake.id;
  }, ['intakes']);
  const problem = (field: string): string | undefined =>
    make.error?.errors.find((each) => each.field === field)?.reason;
  return (
    <form
      className="space-y-4 border-t border-hair pt-4"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate(undefined, { onSuccess: made });
      }}
    >
      <TextField
        label="Name"
        value={name}
        required
        maxLength={120}
        error={problem('document.name')}
        onChange={({ target }) => setName(target.value)}
      />
      <TextField
        label="Key in its address"
        value={key}
        required
        error={problem('key')}
        onChange={({ target }) => setOwnKey(target.value)}
        help={
          <>
            {brought.ours
              ? 'Visitors find it at '
              : brought.source.kind === 'record'
                ? 'Programs start it at '
                : 'Submissions go to '}
            <code className="font-mono">
              /{brought.ours ? 'f' : brought.source.kind === 'record' ? 'api/conversions' : 'in'}/{key || '…'}
            </code>
          </>
        }
      />
      {make.error && make.error.errors.length === 0 && (
        <p role="alert" className="text-brick">
          {make.error instanceof ApiProblem ? make.error.message : ''}
        </p>
      )}
      <Button type="submit" look="strong" busy={make.isPending} disabled={brought.fields.length === 0 && !brought.ours}>
        Make this intake
      </Button>
    </form>
  );
}
