import { across, acrossValues, type Side } from '@zusammen/core/pairing';
import { inTransaction, type DueRecord } from '../../store/index.ts';
import type { Known } from '../known/index.ts';
import type { Working } from './bundle.ts';
import { loadMore, reachIn, type Gathered, type Way } from './gather.ts';

/** Records that may go with one, and are shown to whoever decides. */
const CANDIDATES = 5;

/**
 * What no way finds a counterpart for is weighed against the known records of the other side, as their recognition says.
 * Who surely is the same goes together; of whom it is unsure, somebody is asked.
 * @throws SystemUnavailable while the known records are still being read
 */
export async function weighLoose(
  work: Working,
  gathered: Gathered,
  due: readonly DueRecord[],
  known: Pick<Known, 'weigh'>,
): Promise<void> {
  const { pairing, systems } = work;
  const to: Side | undefined = pairing.document.weighed;
  if (to === undefined) return;
  const side = across(to);
  const target = pairing.document[to];
  const client = await systems.client(target.system);
  const entity = pairing.ready.around[to].entity;
  const reading = {
    // By what names a record alone it has been looked for already.
    find: () => Promise.resolve([]),
    read: (_: unknown, id: string) => client.read(entity, id),
  };
  const found: Record<string, Way[]> = Object.create(null) as Record<string, Way[]>;
  await Promise.all(
    looseOn(side, gathered, due).map(async (id) => {
      const record = { id, values: gathered.seen[side].get(id)!.values };
      const reach = reachIn(gathered.related[side]);
      const values = acrossValues(pairing.ready, pairing.document.matches, side, record, reach);
      const weighing = await known.weigh(reading, target, values, CANDIDATES);
      if (!weighing || weighing.records.length === 0) return;
      const others = weighing.records.map((each) => each.id);
      const isSure = weighing.verdict === 'same';
      found[id] = [
        {
          ...{ match: pairing.document.matches.length, key: '', mine: [id] },
          ...(isSure ? { others: others.slice(0, 1) } : { others, unsure: true }),
        },
      ];
    }),
  );
  const others = Object.values(found).flatMap(([way]) => way!.others);
  if (others.length === 0) return;
  await inTransaction(work.db, (query) => loadMore(query, work, gathered, to, others));
  const free = freeOn(to, gathered);
  for (const [id, [way]] of Object.entries(found)) {
    const left = way!.others.filter(
      (other) => gathered.seen[to].get(other)?.gone === false && (!way!.unsure || free(other)),
    );
    if (left.length > 0) gathered.ways[side].set(id, [{ ...way!, others: left }]);
  }
}

/** Whoever goes with another one already isn't offered for what is unsure. */
function freeOn(to: Side, { pairs }: Gathered): (id: string) => boolean {
  const taken = new Set(
    pairs.flatMap(({ leftId, rightId }) =>
      leftId !== null && rightId !== null ? [to === 'left' ? leftId : rightId] : [],
    ),
  );
  return (id) => !taken.has(id);
}

/** Records that are due, and go with none by any way; of whom somebody has said so, that stands. */
function looseOn(side: Side, { seen, pairs, ways }: Gathered, due: readonly DueRecord[]): string[] {
  const settled = new Set(
    pairs.flatMap(({ leftId, rightId, state }) =>
      (leftId !== null && rightId !== null) || state === 'undone' ? [(side === 'left' ? leftId : rightId) ?? ''] : [],
    ),
  );
  const ids = due.flatMap((each) => (each.side === side ? [each.recordId] : []));
  return [...new Set(ids)].filter(
    (id) => seen[side].get(id)?.gone === false && !settled.has(id) && (ways[side].get(id) ?? []).length === 0,
  );
}
