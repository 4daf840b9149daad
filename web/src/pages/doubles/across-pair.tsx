import type { Entity } from '@zusammen/core/schema';
import { isBlank } from '@zusammen/core/values';
import { call } from '../../api/client.ts';
import { useDo, useMe } from '../../api/hooks.ts';
import type { GroupDetail } from '@zusammen/core/api';
import { Button } from '../../parts/button.tsx';
import { Outgoing } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Differing } from '../../parts/difference.tsx';
import { Bits, VerdictTag } from '../../parts/evidence.tsx';
import { useKeys } from '../../parts/keys.ts';
import { TD, TH } from '../../parts/sheet.tsx';

/** A record of one entity beside one of another that is, or may be, about the same: led to it, or kept apart. */
export function AcrossPair({
  told,
  across,
  entity,
}: {
  told: GroupDetail;
  across: NonNullable<GroupDetail['across']>;
  entity: Entity;
}) {
  const me = useMe();
  const { group, pairs } = told;
  const [from, to] = group.members;
  const act = useDo(
    (what: 'link' | 'apart' | 'take-back') =>
      call(`post /doubles/groups/:id/${what}`, { params: { id: String(group.id) } }),
    ['doubles', 'ledger'],
  );
  const may = me.data !== undefined && me.data.role !== 'viewer' && !act.isPending;
  const open = group.state === 'open' || group.state === 'taken back';
  const lead = (): void => {
    if (may && open && across.link) act.mutate('link');
  };
  const apart = (): void => {
    if (may && group.state === 'open') act.mutate('apart');
  };
  useKeys({ m: lead, n: apart });
  return (
    <>
      <header className="flex flex-wrap items-center gap-2 border-b border-hair px-4 py-2.5">
        <h2 className="font-semibold">
          Is this {entity.label.toLowerCase()} by a {across.label.toLowerCase()} we know?
        </h2>
        {pairs[0] && <VerdictTag verdict={pairs[0].verdict} weight={pairs[0].weight} />}
        {group.words && <span className="text-small text-soft">{group.words}</span>}
      </header>
      <table className="w-full table-fixed">
        <thead>
          <tr>
            <th className={cx(TH, 'pl-4')} colSpan={2}>
              {entity.label} <Outgoing>{from}</Outgoing>
            </th>
            <th className={TH} colSpan={2}>
              {across.label} <Outgoing>{to}</Outgoing>
            </th>
          </tr>
        </thead>
        <tbody>
          {across.rows
            .filter(({ values }) => values.some((value) => !isBlank(value)))
            .map(({ part, labels, values }) => (
              <tr key={part}>
                <td className={cx(TD, 'truncate pl-4 text-small text-soft')}>{labels[0]}</td>
                <td className={cx(TD, 'truncate')}>
                  <Differing value={values[0]} other={values[1]} />
                </td>
                <td className={cx(TD, 'truncate text-small text-soft')}>{labels[1]}</td>
                <td className={cx(TD, 'truncate')}>
                  <Differing value={values[1]} other={values[0]} />
                </td>
              </tr>
            ))}
        </tbody>
      </table>
      {pairs[0] && (
        <p className="border-t border-hair px-4 py-2 text-small">
          {pairs[0].evidence.map(({ about, level, bits }) => (
            <span key={about} className="mr-4 inline-block whitespace-nowrap">
              {about} {level} <Bits bits={bits} />
            </span>
          ))}
          {pairs[0].why && <span className="text-saffron">◆ {pairs[0].why}</span>}
        </p>
      )}
      <footer className="flex flex-wrap items-center gap-2 border-t border-hair px-4 py-3">
        {open && across.link && (
          <Button look="moss" hotkey="M" disabled={!may} busy={act.isPending} onClick={lead}>
            Set {across.linkLabel} to {to}
          </Button>
        )}
        {group.state === 'open' && (
          <Button hotkey="N" disabled={!may} onClick={apart}>
            Not the same
          </Button>
        )}
        {(group.state === 'merged' || group.state === 'apart') && (
          <Button disabled={!may} busy={act.isPending} onClick={() => act.mutate('take-back')}>
            {group.state === 'merged' ? 'Take it back' : 'Decide again'}
          </Button>
        )}
        {!across.link && (
          <span className="text-small text-soft">
            No field of {entity.label} that may be changed leads to a {across.label}; this pair is only shown.
          </span>
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
