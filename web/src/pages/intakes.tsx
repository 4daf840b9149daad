import type { IntakeLine } from '@zusammen/core/api';
import { fold } from '@zusammen/core/values';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { call } from '../api/client.ts';
import { useDo, useIntakes, useMe } from '../api/hooks.ts';
import { useActions } from '../parts/actions.ts';
import { useAddress } from '../parts/address.ts';
import { Button } from '../parts/button.tsx';
import { Tag } from '../parts/chip.tsx';
import { cx } from '../parts/cx.ts';
import { Dialog } from '../parts/dialog.tsx';
import { listKeys, useKeys } from '../parts/keys.ts';
import { SearchBox } from '../parts/search-box.tsx';
import { Radios } from '../parts/radios.tsx';
import { Heading, Sheet, TD, TH } from '../parts/sheet.tsx';
import { IntakeStateTag } from '../parts/state.tsx';
import { Empty, Fetched } from '../parts/states.tsx';
import { IntakeFigures } from './intake-figures.tsx';

const FROM = {
  page: 'pasted HTML',
  ours: 'a form of ours',
  events: 'signed events',
  file: 'a file',
  program: 'a program',
  record: 'records of a system',
};

const SHOWN = {
  used: (line: IntakeLine) => line.putAwayAt === null,
  open: (line: IntakeLine) => line.putAwayAt === null && line.state === 'open',
  draft: (line: IntakeLine) => line.putAwayAt === null && line.state === 'draft',
  closed: (line: IntakeLine) => line.putAwayAt === null && line.state === 'closed',
  away: (line: IntakeLine) => line.putAwayAt !== null,
};
type Shown = keyof typeof SHOWN;
const SHOWN_NAMES: Record<Shown, string> = {
  used: 'In use',
  open: 'Open',
  draft: 'Not published',
  closed: 'Closed',
  away: 'Put away',
};

const share = ({ figures }: IntakeLine): number =>
  figures && figures.applied > 0 ? figures.recognised / figures.applied : -1;

/** By what the list can be sorted; numbers and moments begin with the most. */
const SORTS: Record<string, (a: IntakeLine, b: IntakeLine) => number> = {
  Intake: (a, b) => a.name.localeCompare(b.name),
  State: (a, b) => a.state.localeCompare(b.state),
  Today: (a, b) => (b.figures?.today ?? 0) - (a.figures?.today ?? 0),
  Recognised: (a, b) => share(b) - share(a),
  'In review': (a, b) => (b.figures?.inReview ?? 0) - (a.figures?.inReview ?? 0),
  Refused: (a, b) => (b.figures?.refused ?? 0) - (a.figures?.refused ?? 0),
  Last: (a, b) => (b.figures?.last ?? '').localeCompare(a.figures?.last ?? ''),
};

const COLUMNS = ['Intake', 'State', 'Comes from', 'Two weeks', 'Today', 'Recognised', 'In review', 'Refused', 'Last'];

/** All doors for submissions: searched, filtered, sorted; what is no longer used is put away. */
export function Intakes() {
  const intakes = useIntakes();
  const me = useMe();
  const navigate = useNavigate();
  const [params, change] = useAddress();
  const [deleting, setDeleting] = useState<IntakeLine>();
  const shown: Shown = Object.hasOwn(SHOWN, params.get('show') ?? '') ? (params.get('show') as Shown) : 'used';
  const text = fold(params.get('text') ?? '');
  const [by = '', turned] = (params.get('sort') ?? '').split(' ');
  const all = intakes.data ?? [];
  const among = all.filter(({ name, key, source }) =>
    [name, key, source.page ?? ''].some((each) => fold(each).includes(text)),
  );
  const kept = among.filter(SHOWN[shown]);
  const sort = SORTS[by];
  const sorted = sort ? kept.toSorted(sort) : kept;
  const list = sort && turned === 'turned' ? sorted.toReversed() : sorted;
  const at = Math.max(
    0,
    list.findIndex(({ id }) => id === params.get('at')),
  );
  const set = (name: string, value: string): void => change({ [name]: value });
  const sortBy = (column: string): void =>
    set('sort', by !== column ? column : turned === 'turned' ? '' : `${column} turned`);
  const mayMake = me.data !== undefined && me.data.role !== 'viewer';
  const away = useDo(
    ({ id, away: out }: { id: string; away: boolean }) =>
      call('put /intakes/:id/put-away', { params: { id }, body: { away: out } }),
    ['intakes', 'today', 'review', 'submissions'],
  );
  const chosen = list[at];
  const make = (): void => void navigate('/intakes/new');
  const putAway = (): void => {
    if (chosen) away.mutate({ id: chosen.id, away: chosen.putAwayAt === null });
  };
  useKeys({
    ...listKeys(list.length, at, (to) => list[to] && set('at', list[to].id)),
    Enter: () => chosen && void navigate(`/intakes/${chosen.id}`),
    ...(mayMake ? { n: make, a: putAway, x: () => chosen && setDeleting(chosen) } : {}),
  });
  useActions(
    mayMake
      ? [
          { name: 'New intake', hotkey: 'N', act: make },
          ...(chosen
            ? [
                {
                  name: `${chosen.putAwayAt === null ? 'Put away' : 'Bring back'} ${chosen.name}`,
                  hotkey: 'A',
                  act: putAway,
                },
                { name: `Delete ${chosen.name}…`, hotkey: 'X', act: () => setDeleting(chosen) },
              ]
            : []),
        ]
      : [],
  );
  return (
    <>
      <Heading
        title="Intakes"
        actions={
          <span className="flex flex-wrap items-center gap-2">
            <SearchBox
              label="Search intakes"
              placeholder="A name, a key, a page"
              text={params.get('text') ?? ''}
              change={(text) => set('text', text)}
              width="w-[190px]"
            />
            <Radios
              label="Which are shown"
              className="text-small"
              chosen={shown}
              choose={(next) => set('show', next === 'used' ? '' : next)}
              options={(Object.keys(SHOWN) as Shown[]).map((value) => ({
                value,
                label: (
                  <>
                    {SHOWN_NAMES[value]} <span className="font-mono">{among.filter(SHOWN[value]).length}</span>
                  </>
                ),
              }))}
            />
            {mayMake && (
              <Button look="strong" hotkey="N" onClick={make}>
                New intake
              </Button>
            )}
          </span>
        }
      />
      {away.error && (
        <p role="alert" className="mb-2 text-brick">
          {away.error.message}
        </p>
      )}
      <Sheet>
        <Fetched query={intakes}>
          {() =>
            list.length === 0 ? (
              all.length > 0 ? (
                <Empty title="No matches">
                  {text ? 'Search for less, or among others.' : 'No intake is in this state.'}
                </Empty>
              ) : (
                <Empty title="No intake yet">
                  An intake is a door for submissions. Make one from a page that has a form, an event, a file of old
                  submissions, or what a program sends.
                </Empty>
              )
            ) : (
              <div className="overflow-x-auto">
                <table className="w-full">
                  <thead>
                    <tr>
                      {COLUMNS.map((column, index) => (
                        <th
                          key={column}
                          className={cx(TH, index === 0 && 'pl-4', column === 'Comes from' && 'max-[1180px]:hidden')}
                          aria-sort={by !== column ? undefined : turned === 'turned' ? 'descending' : 'ascending'}
                        >
                          {SORTS[column] ? (
                            <button type="button" className="min-h-6 font-semibold" onClick={() => sortBy(column)}>
                              {column}
                              {by === column && <span aria-hidden="true"> {turned === 'turned' ? '↑' : '↓'}</span>}
                            </button>
                          ) : (
                            column
                          )}
                        </th>
                      ))}
                      {mayMake && <td />}
                    </tr>
                  </thead>
                  <tbody>
                    {list.map((line, index) => (
                      <Row
                        key={line.id}
                        line={line}
                        chosen={index === at}
                        open={() => void navigate(`/intakes/${line.id}`)}
                        {...(mayMake
                          ? {
                              putAway: () => away.mutate({ id: line.id, away: line.putAwayAt === null }),
                              remove: () => setDeleting(line),
                            }
                          : {})}
                      />
                    ))}
                  </tbody>
                </table>
              </div>
            )
          }
        </Fetched>
      </Sheet>
      {deleting && <Delete line={deleting} close={() => setDeleting(undefined)} />}
    </>
  );
}

function Row({
  line,
  chosen,
  open,
  putAway,
  remove,
}: {
  line: IntakeLine;
  chosen: boolean;
  open: () => void;
  putAway?: () => void;
  remove?: () => void;
}) {
  const { id, name, key, state, liveVersion, source, fields, figures, putAwayAt } = line;
  return (
    <tr className={cx('cursor-pointer hover:bg-wash', chosen && 'bg-plum-wash/50')} onClick={open}>
      <td className={cx(TD, 'min-w-[150px] py-2.5 pl-4', chosen && 'shadow-[inset_3px_0_0_var(--color-plum)]')}>
        <Link to={`/intakes/${id}`} className="font-semibold">
          {name}
        </Link>
        <span className="block text-small text-soft">
          {key}, {fields} {fields === 1 ? 'field' : 'fields'}
        </span>
      </td>
      <td className={cx(TD, 'whitespace-nowrap')}>
        {putAwayAt === null ? <IntakeStateTag state={state} /> : <Tag>○ put away</Tag>}{' '}
        {liveVersion !== null && <span className="text-small text-soft">version {liveVersion}</span>}
      </td>
      <td className={cx(TD, 'max-w-[200px] truncate text-small text-soft max-[1180px]:hidden')} title={source.page}>
        {source.page ?? FROM[source.kind]}
      </td>
      <IntakeFigures figures={figures} waiting />
      {putAway && remove && (
        <td className={cx(TD, 'pr-4 text-right text-small whitespace-nowrap text-soft')}>
          <button
            type="button"
            aria-label={`${putAwayAt === null ? 'Put away' : 'Bring back'} ${name}`}
            title={putAwayAt === null ? 'Closed, and out of lists and figures; it can be brought back' : undefined}
            className="min-h-6 hover:text-ink hover:underline"
            onClick={(event) => (event.stopPropagation(), putAway())}
          >
            {putAwayAt === null ? 'put away' : 'bring back'}
          </button>
          {putAwayAt !== null && (
            <button
              type="button"
              aria-label={`Delete ${name}`}
              className="ml-3 min-h-6 hover:text-brick hover:underline"
              onClick={(event) => (event.stopPropagation(), remove())}
            >
              delete…
            </button>
          )}
        </td>
      )}
    </tr>
  );
}

function Delete({ line, close }: { line: IntakeLine; close: () => void }) {
  const remove = useDo(
    () => call('delete /intakes/:id', { params: { id: line.id } }),
    ['intakes', 'today', 'review', 'submissions'],
  );
  return (
    <Dialog
      open
      close={close}
      title={`Delete ${line.name}`}
      description="Nobody can send here any more, and its plan, versions and samples are gone for everybody. This can’t be undone. What its submissions wrote stays in the ledger until it is forgotten."
    >
      {remove.error && (
        <p role="alert" className="mb-3 text-brick">
          {remove.error.message}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button autoFocus onClick={close}>
          Keep it
        </Button>
        <Button look="danger" busy={remove.isPending} onClick={() => remove.mutate(undefined, { onSuccess: close })}>
          Delete {line.name}
        </Button>
      </div>
    </Dialog>
  );
}
