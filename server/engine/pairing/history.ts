import { historyOf, type Side } from '@zusammen/core/pairing';
import { entityOf } from '@zusammen/core/schema';
import { idOn } from '../../store/index.ts';
import type { Systems } from '../../systems/index.ts';
import type { Doing } from './decide.ts';
import type { Applied } from './view.ts';

/** Changes of one record that are read at most; the newest of a field counts. */
const MOST_CHANGES = 50;

/**
 * When fields were changed whose both sides have, where the newest change counts and a system keeps a history of fields.
 * Where it doesn't, or can't be asked, the record's own time counts.
 * @returns moments in milliseconds since 1970 by our clock, by side, record and field with spaces between
 */
export async function changesOfFields(
  { pairing, systems }: { pairing: Applied; systems: Pick<Systems, 'client'> },
  doings: readonly Doing[],
): Promise<Map<string, number>> {
  const found = new Map<string, number>();
  const sides = (['left', 'right'] as const).filter((side) => historyOf(pairing.document, side));
  if (sides.length === 0) return found;
  for (const { pair, todo } of doings) {
    if (todo.kind !== 'settle') continue;
    const contested = todo.settled.lines.filter(
      ({ line, undone }) => line.decides === 'newest' && undone !== undefined,
    );
    for (const { line } of contested)
      for (const side of sides) {
        const id = idOn(pair, side);
        const at = id === null ? undefined : await changeOf(pairing, systems, side, id, line[side].path[0]!);
        if (at !== undefined) found.set(`${side} ${id} ${line[side].path[0]!}`, at);
      }
  }
  return found;
}

async function changeOf(
  { document, ready }: Applied,
  systems: Pick<Systems, 'client'>,
  side: Side,
  id: string,
  name: string,
): Promise<number | undefined> {
  const history = historyOf(document, side)!;
  const entity = entityOf(ready.around[side].schema, history.entity);
  if (!entity) return undefined;
  const client = await systems.client(document[side].system);
  const changes = await client.find(
    entity,
    [
      { field: history.record, value: id, folded: false },
      { field: history.field, value: name, folded: false },
    ],
    MOST_CHANGES,
  );
  const moments = changes
    .map(({ values }) => Date.parse(String(values[history.at] ?? '')))
    .filter((at) => !Number.isNaN(at));
  return moments.length === 0 ? undefined : Math.max(...moments) - (client.clockAhead ?? 0);
}
