import { useQuery } from '@tanstack/react-query';
import { placeName } from '@zusammen/core/pairing';
import { call } from '../../api/client.ts';
import { Tag } from '../../parts/chip.tsx';
import { cx } from '../../parts/cx.ts';
import { Sheet, TD, TH } from '../../parts/sheet.tsx';
import { Empty, Fetched } from '../../parts/states.tsx';
import { count } from '../../parts/time.tsx';
import { text } from './outcomes.tsx';
import type { Editing } from './pairing.tsx';

const PAIRS = 200;

/** What would be written to some pairs, value by value; nothing is. */
export function Rehearsed({ editing, settled }: { editing: Editing; settled: () => Promise<number> }) {
  const { pairing, document, around } = editing;
  const rehearsal = useQuery({
    queryKey: ['pairings', pairing.id, 'rehearsal', document],
    queryFn: async () => {
      await settled();
      return call('post /pairings/:id/rehearse', { params: { id: pairing.id }, body: { pairs: PAIRS } });
    },
    staleTime: 30_000,
  });
  const lines = new Map(document.lines.map((line) => [line.id, line]));
  return (
    <Fetched query={rehearsal}>
      {({ pairs, looked, changing, writes, whole }) => {
        const untold = changing - pairs.length;
        return (
          <Sheet
            title={`Rehearsed on ${count(looked)} pairs`}
            aside={`${count(changing)} would change, ${count(writes)} values${whole ? '' : ', of the first records'}; nothing is written`}
          >
            {changing === 0 ? (
              <Empty title="Nothing would be written">All of them are in step already.</Empty>
            ) : (
              <table className="w-full table-fixed">
                <thead>
                  <tr>
                    <th className={cx(TH, 'w-[22%] pl-4')}>Pair</th>
                    <th className={cx(TH, 'w-[18%]')}>Field</th>
                    <th className={cx(TH, 'w-[20%]')}>{pairing.left.entityLabel} now</th>
                    <th className={cx(TH, 'w-[20%]')}>{pairing.right.entityLabel} now</th>
                    <th className={TH}>Outcome</th>
                  </tr>
                </thead>
                <tbody>
                  {pairs.flatMap((pair) =>
                    pair.lines.map((each, at) => {
                      const line = lines.get(each.line);
                      return (
                        <tr key={`${pair.ids.left} ${pair.ids.right} ${each.line}`}>
                          <td className={cx(TD, 'truncate pl-4')} title={`${pair.ids.left} with ${pair.ids.right}`}>
                            {at === 0 ? <strong className="font-semibold">{pair.title}</strong> : ''}
                          </td>
                          <td className={cx(TD, 'truncate')}>{line ? placeName(line.left, around.left) : each.line}</td>
                          <td className={cx(TD, 'truncate font-mono')}>{text(each.now.left) || <Blank />}</td>
                          <td className={cx(TD, 'truncate font-mono')}>{text(each.now.right) || <Blank />}</td>
                          <td className={TD}>
                            {each.write ? (
                              <>
                                {pairing[each.write.side].entityLabel} becomes{' '}
                                <span className="font-mono">{text(each.write.value) || 'blank'}</span>
                              </>
                            ) : each.asked ? (
                              'Somebody is asked.'
                            ) : (
                              <Tag tone="saffron">{each.reason}</Tag>
                            )}
                          </td>
                        </tr>
                      );
                    }),
                  )}
                </tbody>
              </table>
            )}
            {untold > 0 && (
              <p className="border-t border-hair px-4 py-2 text-soft">
                {count(untold)} more would change; these are the first of them.
              </p>
            )}
          </Sheet>
        );
      }}
    </Fetched>
  );
}

const Blank = () => <span className="text-soft">blank</span>;
