import type { PairingListed } from '@zusammen/core/api';
import { Link, useNavigate } from 'react-router';
import { useMe } from '../api/hooks.ts';
import { usePairings } from '../api/pairings.ts';
import { useActions } from '../parts/actions.ts';
import { useAddress } from '../parts/address.ts';
import { Button } from '../parts/button.tsx';
import { Incoming, Outgoing } from '../parts/chip.tsx';
import { cx } from '../parts/cx.ts';
import { listKeys, useKeys } from '../parts/keys.ts';
import { Heading, Sheet, TD, TH } from '../parts/sheet.tsx';
import { Empty, Fetched } from '../parts/states.tsx';
import { count } from '../parts/time.tsx';
import { StateTag } from './pairing/state-tag.tsx';

const COLUMNS = ['Pairing', 'State', 'In step', 'On the way', 'Asked', 'Refused'];

/** All pairings, and how far behind each is. */
export function Pairings() {
  const pairings = usePairings();
  const me = useMe();
  const navigate = useNavigate();
  const [params, change] = useAddress();
  const list = pairings.data ?? [];
  const at = Math.max(
    0,
    list.findIndex(({ id }) => id === params.get('at')),
  );
  const mayMake = me.data !== undefined && me.data.role !== 'viewer';
  const make = (): void => void navigate('/pairings/new');
  useKeys({
    ...listKeys(list.length, at, (to) => list[to] && change({ at: list[to].id })),
    Enter: () => list[at] && void navigate(`/pairings/${list[at].id}`),
    ...(mayMake ? { n: make } : {}),
  });
  useActions(mayMake ? [{ name: 'New pairing', hotkey: 'N', act: make }] : []);
  return (
    <>
      <Heading
        title="Pairings"
        actions={
          mayMake && (
            <Button look="strong" hotkey="N" onClick={make}>
              New pairing
            </Button>
          )
        }
      />
      <Sheet>
        <Fetched query={pairings}>
          {() =>
            list.length === 0 ? (
              <Empty title="No pairing yet">
                A pairing keeps the records of two entities in step: which goes with which, and for each field who
                decides. They may be in one system or in two.
              </Empty>
            ) : (
              <table className="w-full">
                <thead>
                  <tr>
                    {COLUMNS.map((column, index) => (
                      <th
                        key={column}
                        className={cx(TH, index === 0 && 'pl-4', index > 1 && 'text-right', index === 5 && 'pr-4')}
                      >
                        {column}
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {list.map((pairing, index) => (
                    <Row
                      key={pairing.id}
                      pairing={pairing}
                      chosen={index === at}
                      open={() => void navigate(`/pairings/${pairing.id}`)}
                    />
                  ))}
                </tbody>
              </table>
            )
          }
        </Fetched>
      </Sheet>
    </>
  );
}

function Row({ pairing, chosen, open }: { pairing: PairingListed; chosen: boolean; open: () => void }) {
  const { id, name, left, right, states, words } = pairing;
  return (
    <tr className={cx('cursor-pointer hover:bg-wash', chosen && 'bg-plum-wash/50')} onClick={open}>
      <td className={cx(TD, 'py-2.5 pl-4', chosen && 'shadow-[inset_3px_0_0_var(--color-plum)]')}>
        <Link to={`/pairings/${id}`} className="font-semibold">
          {name}
        </Link>
        <span className="mt-1 flex flex-wrap items-center gap-2 text-small text-soft">
          <Incoming>
            {left.systemName}: {left.entityLabel}
          </Incoming>
          with
          <Outgoing>
            {right.systemName}: {right.entityLabel}
          </Outgoing>
        </span>
      </td>
      <td className={TD}>
        <StateTag pairing={pairing} />
        {words !== null && <span className="mt-1 block max-w-[320px] text-small text-brick">{words}</span>}
      </td>
      <Figure value={states.inStep} />
      <Figure value={states.onTheWay} />
      <Figure value={states.asked} tone="text-saffron" />
      <Figure value={states.refused} tone="text-brick" last />
    </tr>
  );
}

function Figure({ value, tone = '', last = false }: { value: number; tone?: string; last?: boolean }) {
  return (
    <td className={cx(TD, 'text-right font-mono', value > 0 ? tone : 'text-soft', last && 'pr-4')}>{count(value)}</td>
  );
}
