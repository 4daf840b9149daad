import { useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useEffect, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../api/client.ts';
import type { User } from '@zusammen/core/api';
import { Outgoing } from '../parts/chip.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { SubmissionStateTag } from '../parts/state.tsx';

const ACTIONS: [name: string, to: string, role: User['role'][]][] = [
  ['Go to Today', '/', ['administrator', 'specialist', 'viewer']],
  ['Make a new intake', '/intakes/new', ['administrator', 'specialist']],
  ['Connect a system', '/systems?connect=1', ['administrator']],
  ['Decide what waits in Review', '/review', ['administrator', 'specialist']],
  ['Match two files', '/schema/two-files', ['administrator', 'specialist']],
  ['Search the ledger', '/ledger', ['administrator', 'specialist', 'viewer']],
  ['Give somebody access', '/people', ['administrator']],
];

/** Finds records, fields, intakes and submissions, and does what has a name. */
export function FindOrDo({ open, close, user }: { open: boolean; close: () => void; user: User }) {
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const settled = useSettled(text, 150);
  const found = useQuery({
    queryKey: ['find', settled],
    queryFn: () => call('get /find', { query: { text: settled } }),
    enabled: open && settled.length >= 2,
  });
  const go = (to: string): void => {
    close();
    setText('');
    void navigate(to);
  };
  const actions = ACTIONS.filter(
    ([name, , roles]) => roles.includes(user.role) && name.toLowerCase().includes(text.toLowerCase()),
  );
  const nothing =
    found.data &&
    text.length >= 2 &&
    actions.length + found.data.submissions.length + found.data.fields.length + found.data.intakes.length === 0;
  return (
    <Dialog open={open} close={close} title="Find or do" width={640}>
      <Command shouldFilter={false} label="Find or do">
        <Command.Input
          autoFocus
          value={text}
          onValueChange={setText}
          placeholder="A person, a record, a field, an intake, something to do"
          className="h-[38px] w-full rounded-[7px] border border-line bg-sheet px-3"
        />
        <Command.List className="mt-2 max-h-[46vh] overflow-auto">
          {nothing && <p className="px-3 py-3 text-soft">No matches.</p>}
          <Group heading="Do" items={actions.map(([name, to]) => ({ key: to, show: name, go: () => go(to) }))} />
          <Group
            heading="Intakes"
            items={(found.data?.intakes ?? []).map(({ id, name }) => ({
              key: id,
              show: name,
              go: () => go(`/intakes/${id}`),
            }))}
          />
          <Group
            heading="Submissions"
            items={(found.data?.submissions ?? []).map((each) => ({
              key: each.id,
              show: (
                <>
                  <span className="min-w-0 flex-1 truncate">{each.label || each.id}</span>
                  <SubmissionStateTag state={each.state} />
                </>
              ),
              go: () => go(`/ledger?submission=${each.id}`),
            }))}
          />
          <Group
            heading="Fields"
            items={(found.data?.fields ?? []).map((each) => ({
              key: `${each.system}.${each.entity}.${each.field}`,
              show: (
                <>
                  <Outgoing>{each.label}</Outgoing>
                  <span className="text-soft">
                    {each.entityLabel}, {each.systemName}
                  </span>
                </>
              ),
              go: () => go(`/schema?system=${each.system}&entity=${each.entity}&field=${each.field}`),
            }))}
          />
        </Command.List>
      </Command>
    </Dialog>
  );
}

function Group({ heading, items }: { heading: string; items: { key: string; show: ReactNode; go: () => void }[] }) {
  if (items.length === 0) return null;
  return (
    <Command.Group
      heading={heading}
      className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-small [&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:text-soft"
    >
      {items.map(({ key, show, go }) => (
        <Command.Item
          key={key}
          value={`${heading} ${key}`}
          onSelect={go}
          className="flex cursor-pointer items-center gap-3 rounded-[6px] px-3 py-2 data-[selected=true]:bg-plum-wash"
        >
          {show}
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
