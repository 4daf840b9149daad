import type { FoundByText } from '@zusammen/core/api';
import type { Entity, RecordState, Schema } from '@zusammen/core/schema';
import { fold } from '@zusammen/core/values';
import { findRecords } from '../engine/index.ts';
import {
  listIntakes,
  listPairings,
  listSystems,
  listUsers,
  pageOfRecord,
  searchSubmissions,
  type User,
} from '../store/index.ts';
import type { Context } from './context.ts';
import type { Unsent } from './route.ts';

type Found = Unsent<FoundByText>;
type SystemRow = Awaited<ReturnType<typeof listSystems>>[number];

/** So many of each kind are told; whoever wants more searches where they are listed. */
const FEW = 6;
/** So many entities are asked for records at once, and for so long. */
const MOST_ENTITIES = 24;
const PATIENCE_MS = 2500;
/** Shorter texts would have systems look for next to nothing. */
const LEAST_FOR_RECORDS = 3;

const NOTHING: Found = {
  submissions: [],
  fields: [],
  options: [],
  entities: [],
  intakes: [],
  pairings: [],
  records: [],
  people: [],
};

/**
 * Whatever has to do with a text, with the reason. Systems are asked for records only on behalf of those who may cause
 * requests; one that doesn't answer in time is left out.
 */
export async function findByText(context: Context, text: string, user: User): Promise<Found> {
  if (text.length < 2) return NOTHING;
  const { db, live } = context;
  const [submissions, intakes, pairings, connected, schemas, users] = await Promise.all([
    searchSubmissions(db, { text, limit: FEW }),
    listIntakes(db),
    listPairings(db),
    listSystems(db),
    live.allSchemas(),
    user.role === 'administrator' ? listUsers(db) : [],
  ]);
  const mayAsk = user.role !== 'viewer' && text.length >= LEAST_FOR_RECORDS;
  const low = fold(text);
  const has = (...said: string[]): string | undefined => said.find((each) => fold(each).includes(low));
  return {
    submissions: submissions.map((each) => ({
      ...each,
      why: each.id === text ? 'its id' : has(each.label) ? 'its name' : 'something it sent, or a record it touched',
    })),
    ...inSchemas(connected, schemas, has),
    intakes: intakes
      .filter(({ key, draft }) => has(draft.name, key))
      .sort((a, b) => Number(a.putAwayAt !== null) - Number(b.putAwayAt !== null))
      .slice(0, FEW)
      .map(({ id, key, draft, putAwayAt }) => ({
        id,
        name: draft.name,
        why: [has(draft.name) ? 'its name' : `its key, ${key}`, ...(putAwayAt ? ['put away'] : [])].join(', '),
      })),
    pairings: pairings
      .filter(({ draft }) => has(draft.name))
      .slice(0, FEW)
      .map(({ id, draft }) => ({ id, name: draft.name, why: 'its name' })),
    records: mayAsk ? await recordsIn(context, connected, schemas, text) : [],
    people: users
      .filter(({ name, email }) => has(name, email))
      .slice(0, FEW)
      .map(({ id, name, email }) => ({ id, name, email, why: has(name) ? 'the name' : 'the e-mail address' })),
  };
}

function inSchemas(
  connected: readonly SystemRow[],
  schemas: ReadonlyMap<string, Schema>,
  has: (...said: string[]) => string | undefined,
): Pick<FoundByText, 'fields' | 'options' | 'entities'> {
  const found: Pick<FoundByText, 'fields' | 'options' | 'entities'> = { fields: [], options: [], entities: [] };
  for (const system of connected)
    for (const entity of schemas.get(system.id)?.entities ?? []) {
      const place = {
        ...{ system: system.id, systemName: system.name },
        ...{ entity: entity.name, entityLabel: entity.label },
      };
      if (found.entities.length < FEW && has(entity.label, entity.name))
        found.entities.push({ ...place, why: has(entity.label) ? 'its name' : `called ${entity.name} there` });
      for (const field of entity.fields) {
        const at = { ...place, field: field.name, label: field.label };
        if (found.fields.length < FEW && has(field.label, field.name))
          found.fields.push({ ...at, why: has(field.label) ? 'its name' : `called ${field.name} there` });
        for (const option of found.options.length < FEW ? (field.options ?? []) : [])
          if (found.options.length < FEW && has(option.label, option.value))
            found.options.push({ ...at, option: option.label, why: `a choice of ${field.label}` });
      }
    }
  return found;
}

async function recordsIn(
  context: Context,
  connected: readonly SystemRow[],
  schemas: ReadonlyMap<string, Schema>,
  text: string,
): Promise<Found['records']> {
  const asked = connected
    .flatMap((system) =>
      (schemas.get(system.id)?.entities ?? [])
        .filter(({ rights }) => rights.read)
        .map((entity) => ({ system, entity })),
    )
    .slice(0, MOST_ENTITIES);
  const late = new Promise<RecordState[]>((resolve) => setTimeout(resolve, PATIENCE_MS, []).unref());
  const found = await Promise.all(
    asked.map(async ({ system, entity }) => {
      const records = findRecords(context, { system: system.id, entity: entity.name }, text).catch(() => []);
      return (await Promise.race([records, late])).map((record) => toldOf(system, entity, record, text));
    }),
  );
  return found.flat().slice(0, FEW);
}

function toldOf(
  system: SystemRow,
  entity: Entity,
  { id, values }: RecordState,
  text: string,
): Found['records'][number] {
  const by = entity.fields.find(({ name }) => fold(String(values[name] ?? '')) === fold(text));
  const page = pageOfRecord(system, entity.name, id);
  return {
    ...{ system: system.id, systemName: system.name, entity: entity.name, entityLabel: entity.label, id },
    ...(page === undefined ? {} : { page }),
    why: id === text ? 'its id' : `its ${(by?.label ?? 'name').toLowerCase()}`,
  };
}
