import { SURVIVOR_RULES, type SurvivorRule } from '@zusammen/core/recognition';
import type { Entity } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../api/client.ts';
import { useDo, useMe } from '../../api/hooks.ts';
import type { GroupDetail, MergeBody } from '@zusammen/core/api';
import { useGroup, useRecognition } from '../../api/recognition.ts';
import { Button } from '../../parts/button.tsx';
import { Dialog } from '../../parts/dialog.tsx';
import { Choices, Editable } from '../../parts/editable.tsx';
import { aboutLabel, Bits, VerdictTag } from '../../parts/evidence.tsx';
import { useKeys } from '../../parts/keys.ts';
import { plural } from '../../parts/plural.ts';
import { Sheet } from '../../parts/sheet.tsx';
import { Empty, Fetched } from '../../parts/states.tsx';
import { AcrossPair } from './across-pair.tsx';
import { Becomes } from './becomes.tsx';

/** A group of doubles: the one record it would become, with what each of its records says, and what to do with them. */
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
  const [asking, setAsking] = useState(false);
  const merge = (): void => {
    setAsking(false);
    if (may && mergeable) act.mutate({ what: 'merge', body: { survivor, rule, choice } });
  };
  const apart = (): void => {
    if (may && open) act.mutate({ what: 'apart' });
  };
  useKeys({
    m: () => may && mergeable && setAsking(true),
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
      {open && survivor !== undefined && records.length > 1 && (
        <p className="border-b border-hair px-4 py-2.5 text-[15px] leading-7">
          <Editable label="Which record stays" disabled={!may} shown={survivor} className="font-mono">
            {(close) => (
              <Choices
                options={records.map((record, at) => ({
                  value: record.id,
                  label: `${at + 1}  ${record.id}`,
                  help: `${plural(shown.filter(({ name }) => !isBlank(record.values[name])).length, 'field holds', 'fields hold')} something`,
                }))}
                chosen={survivor}
                choose={(id) => {
                  setSurvivor(id);
                  close();
                }}
              />
            )}
          </Editable>{' '}
          stays and will read as below;{' '}
          {records
            .filter(({ id }) => id !== survivor)
            .map(({ id }, index) => (
              <span key={id}>
                {index > 0 && ', '}
                <span className="font-mono">{id}</span>
              </span>
            ))}{' '}
          {records.length === 2 ? 'goes' : 'go'} into it.
        </p>
      )}
      <div tabIndex={0} aria-label="The record it becomes" className="max-h-[calc(100vh-370px)] overflow-auto">
        <Becomes
          fields={shown}
          records={records}
          keptFrom={(name) => (open ? keptFrom(name) : undefined) ?? survivor}
          keep={(name) => (choosable(name) ? (id) => setChoice((held) => ({ ...held, [name]: id })) : undefined)}
        />
        {recognition && records.length === 2 && pairs[0] && (
          <p className="border-t border-hair px-4 py-2 text-small">
            <span className="mr-4 text-soft">What speaks for and against</span>
            {pairs[0].evidence.map(({ about, level, bits }) => (
              <span key={about} className="mr-4 inline-block whitespace-nowrap">
                {aboutLabel(about, recognition, labelOf)} {level} <Bits bits={bits} />
              </span>
            ))}
            {pairs[0].why && <span className="text-saffron">◆ {pairs[0].why}</span>}
          </p>
        )}
      </div>
      <footer className="flex flex-wrap items-center gap-2 border-t border-hair px-4 py-3">
        {open && (
          <>
            <Button
              look="moss"
              hotkey="M"
              disabled={!may || !mergeable}
              busy={act.isPending}
              onClick={() => setAsking(true)}
            >
              Make it one…
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
                    {RULES[each] ?? each}
                  </option>
                ))}
              </select>
              ; a value on the right is kept by choosing it
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
            References to the others will point to the one that stays; then the others are deleted. All of it stands on
            the ledger and can be taken back.
          </p>
        )}
        {asking && (
          <Dialog
            open
            close={() => setAsking(false)}
            title={`Make them one, ${survivor}`}
            description={`${records.length - 1} ${records.length === 2 ? 'record is' : 'records are'} deleted in the system; references to ${records.length === 2 ? 'it' : 'them'} will point to ${survivor}. All of it stands on the ledger and can be taken back.`}
          >
            <div className="flex justify-end gap-2">
              <Button onClick={() => setAsking(false)}>Not now</Button>
              <Button look="moss" autoFocus onClick={merge}>
                Merge into {survivor}
              </Button>
            </div>
          </Dialog>
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

/** The rules in words that stand after “keep”. */
const RULES: Partial<Record<SurvivorRule, string>> = {
  newest: 'the one changed last',
  longest: 'the longest',
  'the survivor’s own': 'that of the record that stays',
};
