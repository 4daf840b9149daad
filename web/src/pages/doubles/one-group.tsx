import { SURVIVOR_RULES, type SurvivorRule } from '@zusammen/core/recognition';
import type { Entity, Value } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useMe } from '../../api/hooks.ts';
import type { GroupDetail, MergeBody } from '@zusammen/core/api';
import { useGroup, useRecognition } from '../../api/recognition.ts';
import { Button } from '../../parts/button.tsx';
import { AcrossPair } from './across-pair.tsx';
import { Outgoing, Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Differing } from '../../parts/difference.tsx';
import { aboutLabel, Bits, VerdictTag } from '../../parts/evidence.tsx';
import { useKeys } from '../../parts/keys.ts';
import { Sheet, TD, TH } from '../../parts/sheet.tsx';
import { Empty, Fetched } from '../../parts/states.tsx';
import { ValueText } from '../../parts/values.tsx';

/** A group of doubles: its records in columns, what is kept of each, and what to do with them. */
export function OneGroup({
  system,
  entity,
  id,
  rule,
  setRule,
}: {
  system: string;
  entity: Entity;
  id: number;
  rule: SurvivorRule;
  setRule: (rule: SurvivorRule) => void;
}) {
  const [survivor, setSurvivor] = useState<string>();
  const me = useMe();
  // Looking at records asks their system, which a viewer doesn't.
  const may = me.data !== undefined && me.data.role !== 'viewer';
  const group = useGroup(id, survivor, rule, may);
  if (!may)
    return (
      <Sheet>
        <Empty title="The records are shown to specialists">
          They are read from their system when a group is looked at; ask a specialist or an administrator.
        </Empty>
      </Sheet>
    );
  return (
    <Sheet>
      <Fetched query={group} rows={10}>
        {(told) =>
          told.across ? (
            <AcrossPair told={told} across={told.across} entity={entity} />
          ) : (
            <Compared {...{ system, entity, told, rule, setRule }} survivor={told.survivor} setSurvivor={setSurvivor} />
          )
        }
      </Fetched>
    </Sheet>
  );
}

function Compared({
  system,
  entity,
  told,
  rule,
  setRule,
  survivor,
  setSurvivor,
}: {
  system: string;
  entity: Entity;
  told: GroupDetail;
  rule: SurvivorRule;
  setRule: (rule: SurvivorRule) => void;
  survivor: string | undefined;
  setSurvivor: (id: string) => void;
}) {
  const me = useMe();
  const recognition = useRecognition(system, entity.name).data?.recognition?.document;
  const [choice, setChoice] = useState<Record<string, string>>({});
  const { group, records, pairs, kept } = told;
  const stale = ['doubles', 'recognition', 'ledger'];
  const act = useDo(
    ({ what, body }: { what: 'merge' | 'go-on' | 'apart' | 'take-back'; body?: MergeBody }) =>
      call(`post /doubles/groups/:id/${what}`, { params: { id: String(group.id) }, ...(body ? { body } : {}) }),
    stale,
  );
  const may = me.data !== undefined && me.data.role !== 'viewer' && !act.isPending;
  const open = group.state === 'open';
  const mergeable = open && records.length > 1 && survivor !== undefined;
  const merge = (): void => {
    if (may && mergeable) act.mutate({ what: 'merge', body: { survivor, rule, choice } });
  };
  const apart = (): void => {
    if (may && open) act.mutate({ what: 'apart' });
  };
  useKeys({
    m: merge,
    n: apart,
    ...Object.fromEntries(
      records.slice(0, 9).map((record, at) => [String(at + 1), () => open && setSurvivor(record.id)]),
    ),
  });
  const labelOf = (name: string): string => entity.fields.find((field) => field.name === name)?.label ?? name;
  const shown = entity.fields.filter(
    ({ name, rights, type }) =>
      rights !== 'none' && type !== 'id' && records.some(({ values }) => !isBlank(values[name])),
  );
  const survivorRecord = records.find((each) => each.id === survivor);
  const keptFrom = (name: string): string | undefined => choice[name] ?? kept.find(({ field }) => field === name)?.from;
  const choosable = (name: string): boolean => open && told.fields.includes(name);
  if (records.length === 0)
    return <Empty title="None of these records is there any more">They were removed in the system itself.</Empty>;
  return (
    <>
      <header className="flex flex-wrap items-center gap-2 border-b border-hair px-4 py-2.5">
        <h2 className="font-semibold">
          {group.state === 'merged'
            ? 'Merged'
            : group.state === 'apart'
              ? 'Kept apart'
              : group.state === 'taken back'
                ? 'Taken back'
                : `Is this one ${entity.label.toLowerCase()}?`}
        </h2>
        {pairs[0] && records.length === 2 && <VerdictTag verdict={pairs[0].verdict} weight={pairs[0].weight} />}
        {group.words && <span className="text-small text-soft">{group.words}</span>}
        {group.decidedBy && <span className="ml-auto text-small text-soft">{group.decidedBy}</span>}
      </header>
      <div tabIndex={0} aria-label="Records of the group" className="max-h-[calc(100vh-330px)] overflow-auto">
        <table className="w-full table-fixed">
          <thead>
            <tr>
              <th className={cx(TH, 'w-[17%] pl-4')}>Field</th>
              {records.map((record, at) => (
                <th key={record.id} className={TH}>
                  <label className="flex items-center gap-2">
                    {open && (
                      <input
                        type="radio"
                        name="survivor"
                        aria-label={`Keep ${record.id}`}
                        checked={record.id === survivor}
                        onChange={() => setSurvivor(record.id)}
                      />
                    )}
                    <Outgoing>{record.id}</Outgoing>
                    {record.id === survivor && open && <Tag tone="moss">stays</Tag>}
                    {open && <span className="font-mono text-[11px] font-normal">{at + 1}</span>}
                  </label>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map(({ name, label }) => (
              <tr key={name}>
                <td className={cx(TD, 'truncate pl-4')}>{label}</td>
                {records.map((record) => (
                  <Cell
                    key={record.id}
                    value={record.values[name]}
                    other={survivorRecord && record.id !== survivorRecord.id ? survivorRecord.values[name] : undefined}
                    keeps={open && keptFrom(name) === record.id && !isBlank(record.values[name])}
                    choose={
                      choosable(name) && !isBlank(record.values[name])
                        ? () => setChoice((held) => ({ ...held, [name]: record.id }))
                        : undefined
                    }
                    name={`${label} of ${record.id}`}
                  />
                ))}
              </tr>
            ))}
            {recognition && records.length === 2 && pairs[0] && (
              <tr>
                <td className={cx(TD, 'pl-4 align-top text-small text-soft')}>What speaks for and against</td>
                <td className={cx(TD, 'text-small')} colSpan={2}>
                  {pairs[0].evidence.map(({ about, level, bits }) => (
                    <span key={about} className="mr-4 inline-block whitespace-nowrap">
                      {aboutLabel(about, recognition, labelOf)} {level} <Bits bits={bits} />
                    </span>
                  ))}
                  {pairs[0].why && <span className="text-saffron">◆ {pairs[0].why}</span>}
                </td>
              </tr>
            )}
          </tbody>
        </table>
      </div>
      <footer className="flex flex-wrap items-center gap-2 border-t border-hair px-4 py-3">
        {open && (
          <>
            <Button look="moss" hotkey="M" disabled={!may || !mergeable} busy={act.isPending} onClick={merge}>
              Merge into {survivor}
            </Button>
            <Button hotkey="N" disabled={!may} onClick={apart}>
              Not the same
            </Button>
            <label className="ml-auto flex items-center gap-2 text-small text-soft">
              Where both have a value, keep
              <select
                aria-label="Whose values are kept"
                value={rule}
                disabled={!may}
                onChange={({ target }) => {
                  setChoice({});
                  setRule(target.value as SurvivorRule);
                }}
                className="h-[28px] rounded-[6px] border border-line bg-sheet px-2 text-ink"
              >
                {SURVIVOR_RULES.filter((each) => each !== 'from a trusted record').map((each) => (
                  <option key={each} value={each}>
                    {each === 'newest' ? 'the one changed last' : each === 'longest' ? 'the longest' : each}
                  </option>
                ))}
              </select>
              ; click a value to keep it
            </label>
          </>
        )}
        {group.state === 'merging' && (
          <>
            <Button look="strong" disabled={!may} busy={act.isPending} onClick={() => act.mutate({ what: 'go-on' })}>
              Go on with the merge
            </Button>
            <Button disabled={!may} onClick={() => act.mutate({ what: 'take-back' })}>
              Take back what was done
            </Button>
          </>
        )}
        {(group.state === 'merged' || group.state === 'apart') && (
          <Button disabled={!may} busy={act.isPending} onClick={() => act.mutate({ what: 'take-back' })}>
            {group.state === 'merged' ? 'Take the merge back' : 'Decide again'}
          </Button>
        )}
        {group.merge && (
          <Link
            to={`/ledger?by=change&text=${encodeURIComponent(group.merge.survivor)}`}
            className="ml-auto font-semibold text-plum hover:underline"
          >
            its changes on the ledger
          </Link>
        )}
        {open && (
          <p className="w-full text-small text-soft">
            What leads to the others will lead to the one that stays; they are deleted. All of it stands on the ledger
            and can be taken back.
          </p>
        )}
        {act.data && !act.data.done && <p className="w-full text-saffron">◆ {act.data.words}</p>}
        {act.error && (
          <p role="alert" className="w-full text-brick">
            {act.error.message}
          </p>
        )}
      </footer>
    </>
  );
}

function Cell({
  value,
  other,
  keeps,
  choose,
  name,
}: {
  value: Value | undefined;
  other: Value | undefined;
  keeps: boolean;
  choose: (() => void) | undefined;
  name: string;
}) {
  const shown = other === undefined ? <ValueText value={value} /> : <Differing value={value} other={other} />;
  return (
    <td className={cx(TD, 'truncate', keeps && 'bg-moss-wash/70 shadow-[inset_3px_0_0_var(--color-moss)]')}>
      {choose ? (
        <button
          type="button"
          aria-pressed={keeps}
          aria-label={`Keep ${name}`}
          onClick={choose}
          className="block w-full truncate text-left"
        >
          {shown}
        </button>
      ) : (
        shown
      )}
    </td>
  );
}
