import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useEffect, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../api/client.ts';
import type { FoundByText, User } from '@zusammen/core/api';
import { useRecognitions } from '../api/recognition.ts';
import { useOffered } from '../parts/actions.ts';
import { Outgoing } from '../parts/chip.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { Key } from '../parts/key.tsx';
import { SubmissionStateTag } from '../parts/state.tsx';

const EVERYBODY: User['role'][] = ['administrator', 'specialist', 'viewer'];
const SPECIALISTS: User['role'][] = ['administrator', 'specialist'];

/** What has a place of its own, and who may go there; `words` are other names for it. */
const PLACES: { name: string; words?: string; to: string; roles: User['role'][] }[] = [
  { name: 'Go to Today', to: '/', roles: EVERYBODY },
  { name: 'Go to Intakes', to: '/intakes', roles: EVERYBODY },
  { name: 'Go to Pairings', to: '/pairings', roles: EVERYBODY },
  { name: 'Make a new intake', words: 'form page file', to: '/intakes/new', roles: SPECIALISTS },
  {
    name: 'Make a new conversion',
    words: 'records convert become',
    to: '/intakes/new?from=record',
    roles: SPECIALISTS,
  },
  { name: 'Make a new pairing', words: 'sync step', to: '/pairings/new', roles: SPECIALISTS },
  { name: 'Decide what waits in Review', words: 'questions refused failed', to: '/review', roles: SPECIALISTS },
  { name: 'Search the ledger', words: 'submissions history', to: '/ledger', roles: EVERYBODY },
  { name: 'Search all changes', words: 'ledger export', to: '/ledger?by=change', roles: EVERYBODY },
  { name: 'Look at schemas', words: 'entities fields options reach', to: '/schema', roles: EVERYBODY },
  { name: 'Make a new entity', words: 'sheet spreadsheet definition schema', to: '/schema/new', roles: SPECIALISTS },
  {
    name: 'Make a field wherever it is needed',
    words: 'new field options schema',
    to: '/schema/field',
    roles: SPECIALISTS,
  },
  { name: 'Compare options', words: 'spelling missing rename join schema', to: '/schema/options', roles: EVERYBODY },
  { name: 'Look at what was changed of schemas', words: 'entities fields', to: '/schema/changes', roles: EVERYBODY },
  { name: 'Look at systems', words: 'connections health', to: '/systems', roles: EVERYBODY },
  { name: 'Connect a system', to: '/systems?connect=1', roles: ['administrator'] },
  { name: 'Match two files', words: 'records look up', to: '/schema/two-files', roles: SPECIALISTS },
  { name: 'Give somebody access', words: 'people users roles', to: '/people', roles: ['administrator'] },
];

/** Finds records, people, fields, choices, intakes, submissions and places, and does what the page can do. */
export function FindOrDo({ open, close, user }: { open: boolean; close: () => void; user: User }) {
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const offered = useOffered();
  const recognitions = useRecognitions();
  const settled = useSettled(text.trim(), 150);
  const found = useQuery({
    queryKey: ['find', settled],
    queryFn: () => call('get /find', { query: { text: settled } }),
    enabled: open && settled.length >= 2,
    placeholderData: keepPreviousData,
  });
  const leave = (act: () => void): void => {
    close();
    setText('');
    act();
  };
  const go = (to: string): void => leave(() => void navigate(to));
  const low = text.trim().toLowerCase();
  const places = [
    ...PLACES.filter(({ roles }) => roles.includes(user.role)),
    ...(recognitions.data ?? []).flatMap(({ system, systemName, entity }) => [
      {
        name: `How ${entity} of ${systemName} are recognised`,
        words: 'recognition evidence weights thresholds',
        to: `/schema/recognition?system=${system}&entity=${entity}`,
      },
      {
        name: `Doubles among ${entity} of ${systemName}`,
        words: 'merge',
        to: `/schema/doubles?system=${system}&entity=${entity}`,
      },
    ]),
  ];
  const why = (name: string, words = ''): string | undefined =>
    name.toLowerCase().includes(low) ? '' : words.includes(low) ? `also: ${words}` : undefined;
  const here = offered.filter(({ name }) => why(name) !== undefined);
  const there = places.filter(({ name, words }) => why(name, words) !== undefined);
  const data: FoundByText | undefined = settled.length >= 2 ? found.data : undefined;
  const searching = low.length >= 2 && (settled !== text.trim() || found.isFetching);
  const many = data ? Object.values(data).reduce((sum, each) => sum + (each as unknown[]).length, 0) : 0;
  return (
    <Dialog open={open} close={close} title="Find or do" width={680}>
      <Command shouldFilter={false} label="Find or do">
        <Command.Input
          autoFocus
          value={text}
          onValueChange={setText}
          placeholder="A person, a record, a field, an intake, something to do"
          className="h-[38px] w-full rounded-[7px] border border-line bg-sheet px-3"
        />
        <Command.List className="mt-2 max-h-[50vh] overflow-auto">
          {searching && (
            <p role="status" className="late px-3 py-2 text-soft">
              Looking …
            </p>
          )}
          {found.error && low.length >= 2 && (
            <p role="alert" className="px-3 py-2 text-brick">
              {found.error.message}
            </p>
          )}
          {!searching && low.length >= 2 && here.length + there.length + many === 0 && (
            <p className="px-3 py-3 text-soft">No matches</p>
          )}
          <Group
            heading="On this page"
            items={here.map(({ name, hotkey, act }) => ({
              key: name,
              show: name,
              why: hotkey ? <Key name={hotkey} /> : '',
              go: () => leave(act),
            }))}
          />
          <Group
            heading="Records"
            items={(data?.records ?? []).map((each) => ({
              key: `${each.system} ${each.entity} ${each.id}`,
              show: (
                <>
                  <Outgoing>{each.id}</Outgoing> {each.entityLabel}, {each.systemName}
                </>
              ),
              why: each.why,
              go: () =>
                each.page === undefined
                  ? go(`/ledger?by=change&text=${encodeURIComponent(each.id)}`)
                  : leave(() => window.open(each.page, '_blank', 'noreferrer')),
            }))}
          />
          <Group
            heading="Intakes"
            items={(data?.intakes ?? []).map((each) => ({
              key: each.id,
              show: each.name,
              why: each.why,
              go: () => go(`/intakes/${each.id}`),
            }))}
          />
          <Group
            heading="Pairings"
            items={(data?.pairings ?? []).map((each) => ({
              key: each.id,
              show: each.name,
              why: each.why,
              go: () => go(`/pairings/${each.id}`),
            }))}
          />
          <Group
            heading="Submissions"
            items={(data?.submissions ?? []).map((each) => ({
              key: each.id,
              show: (
                <>
                  <span className="min-w-0 truncate">{each.label || each.id}</span>
                  <SubmissionStateTag state={each.state} />
                </>
              ),
              why: each.why,
              go: () => go(`/ledger?submission=${each.id}`),
            }))}
          />
          <Group
            heading="Entities"
            items={(data?.entities ?? []).map((each) => ({
              key: `${each.system}.${each.entity}`,
              show: `${each.entityLabel}, ${each.systemName}`,
              why: each.why,
              go: () => go(`/schema?system=${each.system}&entity=${each.entity}`),
            }))}
          />
          <Group
            heading="Fields"
            items={(data?.fields ?? []).map((each) => ({
              key: `${each.system}.${each.entity}.${each.field}`,
              show: <FieldAt place={each} />,
              why: each.why,
              go: () => go(`/schema?system=${each.system}&entity=${each.entity}&field=${each.field}`),
            }))}
          />
          <Group
            heading="Choices"
            items={(data?.options ?? []).map((each) => ({
              key: `${each.system}.${each.entity}.${each.field}.${each.option}`,
              show: (
                <>
                  <span className="font-mono text-[13px]">{each.option}</span> <FieldAt place={each} />
                </>
              ),
              why: each.why,
              go: () => go(`/schema?system=${each.system}&entity=${each.entity}&field=${each.field}`),
            }))}
          />
          <Group
            heading="People with access"
            items={(data?.people ?? []).map((each) => ({
              key: each.id,
              show: `${each.name}, ${each.email}`,
              why: each.why,
              go: () => go('/people'),
            }))}
          />
          <Group
            heading="Places"
            items={there.map(({ name, words, to }) => ({
              key: `${name} ${to}`,
              show: name,
              why: why(name, words),
              go: () => go(to),
            }))}
          />
        </Command.List>
      </Command>
    </Dialog>
  );
}

function FieldAt({ place }: { place: { label: string; entityLabel: string; systemName: string } }) {
  return (
    <>
      <Outgoing>{place.label}</Outgoing>
      <span className="truncate text-soft">
        {place.entityLabel}, {place.systemName}
      </span>
    </>
  );
}

function Group({
  heading,
  items,
}: {
  heading: string;
  items: { key: string; show: ReactNode; why?: ReactNode; go: () => void }[];
}) {
  if (items.length === 0) return null;
  return (
    <Command.Group
      heading={heading}
      className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-small [&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:text-soft"
    >
      {items.map(({ key, show, why, go }) => (
        <Command.Item
          key={key}
          value={`${heading} ${key}`}
          onSelect={go}
          className="flex cursor-pointer items-center gap-3 rounded-[6px] px-3 py-2 data-[selected=true]:bg-plum-wash"
        >
          <span className="flex min-w-0 flex-1 items-center gap-3">{show}</span>
          {why && <span className="shrink-0 text-small text-soft">{why}</span>}
        </Command.Item>
      ))}
    </Command.Group>
  );
}

/** A value once it has rested for a while, so that not every letter asks the server. */
function useSettled(value: string, ms: number): string {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}
