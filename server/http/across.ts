import type { Part } from '@zusammen/core/recognition';
import { entityOf, isWritable, type Entity, type Schema } from '@zusammen/core/schema';
import {
  packedOf,
  recognitionByScope,
  searchById,
  type Database,
  type DoubleGroup,
  type RecognitionRow,
} from '../store/index.ts';
import type { Context } from './context.ts';

/** The other entity of a pair that was found between two. */
export interface Across {
  row: RecognitionRow;
  entity: Entity;
  /** The field of the first entity that leads to a record of the other, where there is one that may be changed. */
  link: string | undefined;
}

/** @returns undefined for doubles within one entity */
export async function acrossOf(
  db: Database,
  schemas: ReadonlyMap<string, Schema>,
  group: DoubleGroup,
  row: RecognitionRow,
  entity: Entity,
): Promise<Across | undefined> {
  const search = await searchById(db, group.searchId);
  if (!search || search.otherScope === search.scope) return undefined;
  const other = await recognitionByScope(db, search.otherScope);
  const otherEntity = other && entityOf(schemas.get(other.systemId) ?? { entities: [] }, other.entity);
  if (!other || !otherEntity) return undefined;
  const link = entity.fields.find(
    (field) =>
      other.systemId === row.systemId && field.relation === other.entity && isWritable(field) && !field.immutable,
  );
  return { row: other, entity: otherEntity, link: entity.rights.update ? link?.name : undefined };
}

/** Both records of such a pair as they are now, aligned by what their fields say. */
export async function acrossNow(
  { db, live, systems }: Context,
  group: DoubleGroup,
  row: RecognitionRow,
  entity: Entity,
  across: Across,
) {
  const [first = '', second = ''] = group.members;
  const [a, b] = await Promise.all([
    (await systems.client(row.systemId)).read(entity, first),
    (await systems.client(across.row.systemId)).read(across.entity, second),
  ]);
  const [mine, theirs] = await Promise.all([live.known.recogniserOf(row), live.known.recogniserOf(across.row)]);
  const [packedA, packedB] = await Promise.all([
    packedOf(db, row.scope, [first]),
    packedOf(db, across.row.scope, [second]),
  ]);
  const [one, other] = [packedA[0], packedB[0]].map((each) => each && mine.kind.unpack(each.recordId, each.packed));
  // How many are known, and how common values are, is told by those among whom it was looked for.
  const atHand = one ? await live.known.candidates({ row: across.row, recogniser: theirs }, one) : [];
  const pair = one && other ? theirs.weighPair(one, other, atHand) : undefined;
  const labelOf = ({ fields }: Entity, name: string): string =>
    fields.find((each) => each.name === name)?.label ?? name;
  const parts = new Set<Part>([...row.document.parts, ...across.row.document.parts].map(({ part }) => part));
  return {
    group: { ...group, weight: group.weight / 100 },
    system: row.systemId,
    entity: row.entity,
    records: [a, b].filter((record) => record !== undefined),
    fields: [],
    pairs: pair ? [{ a: first, b: second, ...pair }] : [],
    kept: [],
    across: {
      label: across.entity.label,
      link: across.link,
      linkLabel: across.link === undefined ? undefined : labelOf(entity, across.link),
      rows: [...parts].map((part) => {
        const [one, other] = [row, across.row].map(({ document }) => document.parts.find((each) => each.part === part));
        return {
          part,
          labels: [one && labelOf(entity, one.field), other && labelOf(across.entity, other.field)],
          values: [
            one && a ? (a.values[one.field] ?? null) : null,
            other && b ? (b.values[other.field] ?? null) : null,
          ],
        };
      }),
    },
  };
}
