import { titleOf } from '../mapping/index.ts';
import type { Field, Values } from '../schema/index.ts';
import type { ReadyPairing } from './pair.ts';
import type { Sides } from './settle.ts';

/** What a pair is called: as the records call what they are about. */
export function titleOfPair(ready: ReadyPairing, records: Sides<{ id: string; values: Values } | undefined>): string {
  for (const side of ['right', 'left'] as const) {
    const record = records[side];
    const { fields } = ready.around[side].entity;
    const title = record ? titleOf(fields, textsOf(record.values, fields)) : '';
    if (title !== '') return title;
  }
  return records.left?.id ?? records.right?.id ?? '';
}

/** The values that a record may be called by; the ids of others it leads to are none. */
export const textsOf = (values: Values, fields: readonly Field[]): Values =>
  Object.fromEntries(
    fields.flatMap(({ name, type }) =>
      (type === 'text' || type === 'email' || type === 'phone') && typeof values[name] === 'string'
        ? [[name, values[name]]]
        : [],
    ),
  );
