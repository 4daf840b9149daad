import { across, acrossValues, type Side } from '@zusammen/core/pairing';
import type { Values } from '@zusammen/core/schema';
import { addKeys, inTransaction, isThere, keyHash, markDue, recordsByKey, type DueRecord } from '../../store/index.ts';
import type { Working } from './bundle.ts';
import { loadMore, reachIn, type Gathered, type Way } from './gather.ts';
import type { Applied } from './view.ts';

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
  known: Working['known'],
): Promise<void> {
  const { db, pairing, systems } = work;
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
  const weighed: { id: string; values: Values }[] = [];
  await Promise.all(
    looseOn(side, gathered, due).map(async (id) => {
      const record = { id, values: gathered.seen[side].get(id)!.values };
      const reach = reachIn(gathered.related[side]);
      const values = acrossValues(pairing.ready, pairing.document.matches, side, record, reach);
      const weighing = await known.weigh(reading, target, values, CANDIDATES);
      weighed.push({ id, values });
      if (!weighing || weighing.records.length === 0) return;
      const others = weighing.records.map((each) => each.id);
      const isSure = weighing.verdict === 'same';
      found[id] = [
        {
          ...{ match: pairing.document.matches.length, key: '', mine: [id] },
          ...(isSure ? { others: others.slice(0, 1), unsure: false } : { others, unsure: true }),
        },
      ];
    }),
  );
  const others = Object.values(found).flatMap(([way]) => way!.others);
  if (others.length > 0) await inTransaction(db, (query) => loadMore(query, work, gathered, to, others));
  const free = freeOn(to, gathered);
  for (const [id, [way]] of Object.entries(found)) {
    const left = way!.others.filter(
      (other) => gathered.seen[to].get(other)?.gone === false && (!way!.unsure || free(other)),
    );
    if (left.length > 0) gathered.ways[side].set(id, [{ ...way!, others: left }]);
  }
  // The system may have told of one that isn't known here yet.
  const isOpen = ({ id }: { id: string }): boolean => gathered.ways[side].get(id)?.[0]?.unsure !== false;
  await keepResembling(work, side, weighed.filter(isOpen), known);
  const newcomers = looseOn(to, gathered, due).map((id) => ({ id, values: gathered.seen[to].get(id)!.values }));
  await lookAgain(work, side, newcomers, known);
}

/** Keys under which a record can be found by those that resemble it stand behind those of all ways. */
const resembling = ({ document }: Applied, keys: readonly string[]): Buffer[] =>
  keys.map((key) => keyHash(document.matches.length, key));

/** Whoever has no sure counterpart yet is found by one that comes later. */
async function keepResembling(
  { db, pairing }: Working,
  side: Side,
  alone: readonly { id: string; values: Values }[],
  known: Working['known'],
): Promise<void> {
  if (alone.length === 0) return;
  const target = pairing.document[across(side)];
  const kept = await Promise.all(
    alone.map(async ({ id, values }) => ({ id, keys: resembling(pairing, await known.keysOf(target, values)) })),
  );
  await inTransaction(db, async (query) => {
    if (await isThere(query, pairing.id)) await addKeys(query, pairing.id, side, kept);
  });
}

/** A record that nothing goes with may be the counterpart of some that were weighed before it was known. */
async function lookAgain(
  { db, pairing }: Working,
  side: Side,
  newcomers: readonly { id: string; values: Values }[],
  known: Working['known'],
): Promise<void> {
  if (newcomers.length === 0) return;
  const target = pairing.document[across(side)];
  const keys = await Promise.all(newcomers.map(({ values }) => known.keysOf(target, values)));
  await inTransaction(db, async (query) => {
    if (!(await isThere(query, pairing.id))) return;
    const found = await recordsByKey(query, pairing.id, side, resembling(pairing, keys.flat()));
    const ids = [...new Set([...found.values()].flat())];
    await markDue(
      query,
      pairing.id,
      side,
      ids.map((id) => ({ id, doubt: false })),
      Date.now(),
    );
  });
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
