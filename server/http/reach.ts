import type { ReachedUse } from '@zusammen/core/api';
import { recordsRead, type IntakeDocument } from '@zusammen/core/intake';
import { usesOfPairing, type Pairing } from '@zusammen/core/pairing';
import { usesOf, type Recognitions } from '@zusammen/core/plans';
import type { Schema } from '@zusammen/core/schema';
import {
  intakeDocuments,
  listRecognitions,
  newestSnapshots,
  pairingDocuments,
  schemasOf,
  standingDocuments,
  type Database,
  type Documents,
  type Standing,
} from '../store/index.ts';

type Found = Omit<ReachedUse, 'by' | 'id' | 'name' | 'live'>;

/** Whose reach is asked for: a system's, an entity's, a field's; nothing: of all. */
export interface ReachAsked {
  system?: string | undefined;
  entity?: string | undefined;
  field?: string | undefined;
}

/** What one document reaches, and by what it was found: computed again once that is another. */
interface Part {
  madeOf: string;
  uses: readonly ReachedUse[];
}

/**
 * Who reads and who writes which field: one index over all intakes and pairings, live and planned, computed from their
 * documents and kept by entity. Asked again, only what has changed since is read: a look at revisions says what.
 */
export class Reach {
  private parts = new Map<string, Part>();
  private byEntity = new Map<string, readonly ReachedUse[]>();
  private recognitions: { of: string; found: Recognitions } | undefined;
  /** One looks at a time; who asks meanwhile is answered by the look after. */
  private before: Promise<unknown> = Promise.resolve();

  constructor(private readonly db: Database) {}

  /** Every use of the fields of a system, or of one of its entities, or of one field. */
  async of({ system, entity, field }: ReachAsked): Promise<ReachedUse[]> {
    const looked = this.before.then(() => this.look());
    this.before = looked.catch(() => undefined);
    await looked;
    const found =
      system !== undefined && system !== '' && entity !== undefined && entity !== ''
        ? (this.byEntity.get(keyOfEntity(system, entity)) ?? [])
        : [...this.byEntity.values()].flat();
    return found.filter(
      (use) =>
        (!system || use.system === system) && (!entity || use.entity === entity) && (!field || use.field === field),
    );
  }

  private async look(): Promise<void> {
    const standing = await standingDocuments(this.db);
    // A path of a pairing runs through schemas, evidence through how its entity is recognised.
    const snapshots = await newestSnapshots(this.db);
    const schemas = [...snapshots.values()].join(' ');
    const parts = new Map<string, Part>();
    const fresh = { intakes: [] as Standing[], pairings: [] as Standing[] };
    const keep = (kind: 'intakes' | 'pairings', each: Standing, madeOf: string): void => {
      const known = this.parts.get(each.id);
      if (known?.madeOf === madeOf) parts.set(each.id, known);
      else fresh[kind].push(each);
    };
    const madeOf = {
      intakes: (each: Standing) => `${each.revision} ${each.liveVersion} ${standing.recognitions}`,
      pairings: (each: Standing) => `${each.revision} ${each.liveVersion} ${schemas}`,
    };
    for (const each of standing.intakes) keep('intakes', each, madeOf.intakes(each));
    for (const each of standing.pairings) keep('pairings', each, madeOf.pairings(each));
    const gone = this.parts.size > parts.size;
    if (fresh.intakes.length + fresh.pairings.length === 0 && !gone) return;
    const made = new Map([
      ...standing.intakes.map((each) => [each.id, madeOf.intakes(each)] as const),
      ...standing.pairings.map((each) => [each.id, madeOf.pairings(each)] as const),
    ]);
    const known = await this.recognitionsNow(standing.recognitions);
    for (const each of await intakeDocuments(this.db, fresh.intakes))
      parts.set(each.id, { madeOf: made.get(each.id)!, uses: ofIntake(each, known) });
    const paths = fresh.pairings.length === 0 ? new Map<string, Schema>() : await this.schemas(snapshots);
    for (const each of await pairingDocuments(this.db, fresh.pairings))
      parts.set(each.id, { madeOf: made.get(each.id)!, uses: ofPairing(each, paths) });
    // In the order in which they were made, intakes first.
    this.parts = new Map(
      [...standing.intakes, ...standing.pairings].flatMap(({ id }) => {
        const part = parts.get(id);
        return part ? [[id, part] as const] : [];
      }),
    );
    this.byEntity = groupedByEntity([...this.parts.values()].flatMap(({ uses }) => uses));
  }

  private async schemas(snapshots: ReadonlyMap<string, number>): Promise<Map<string, Schema>> {
    const read = await schemasOf(this.db, [...snapshots.values()]);
    return new Map([...snapshots].map(([system, id]) => [system, read.get(id) ?? { entities: [] }]));
  }

  private async recognitionsNow(of: string): Promise<Recognitions> {
    if (this.recognitions?.of === of) return this.recognitions.found;
    const rows = await listRecognitions(this.db);
    const found = new Map(rows.map((each) => [`${each.systemId}/${each.entity}`, each.document]));
    this.recognitions = { of, found };
    return found;
  }
}

const keyOfEntity = (system: string, entity: string): string => `${system}\n${entity}`;

function groupedByEntity(uses: readonly ReachedUse[]): Map<string, ReachedUse[]> {
  const grouped = new Map<string, ReachedUse[]>();
  for (const use of uses) {
    const key = keyOfEntity(use.system, use.entity);
    const known = grouped.get(key);
    if (known) known.push(use);
    else grouped.set(key, [use]);
  }
  return grouped;
}

function ofIntake({ id, draft, live }: Documents<IntakeDocument>, recognitions: Recognitions): ReachedUse[] {
  const found = (document: IntakeDocument): Found[] => [...usesOf(document, recognitions), ...recordsRead(document)];
  return liveAndPlanned({ by: 'intake', id, name: draft.name }, live ? found(live) : [], found(draft));
}

function ofPairing({ id, draft, live }: Documents<Pairing>, schemas: ReadonlyMap<string, Schema>): ReachedUse[] {
  const found = (document: Pairing): Found[] =>
    usesOfPairing(document, schemas).map((use) => ({ ...use, treatments: [] }));
  return liveAndPlanned({ by: 'pairing', id, name: draft.name }, live ? found(live) : [], found(draft));
}

/** What the live version does, and what only the draft would. */
function liveAndPlanned(at: Pick<ReachedUse, 'by' | 'id' | 'name'>, live: Found[], draft: Found[]): ReachedUse[] {
  const known = new Set(live.map(keyOf));
  return [
    ...live.map((use) => ({ ...use, ...at, live: true })),
    ...draft.filter((use) => !known.has(keyOf(use))).map((use) => ({ ...use, ...at, live: false })),
  ];
}

const keyOf = ({ system, entity, field, how, from }: Found): string =>
  JSON.stringify([system, entity, field, how, from]);
