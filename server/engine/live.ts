import {
  intakeByKey,
  newestSnapshots,
  schemasOf,
  secretsOf,
  versionOf,
  type Database,
  type Intake,
  type SecretRow,
} from '../store/index.ts';
import type { IntakeDocument } from '@zusammen/core/intake';
import type { Schema } from '@zusammen/core/schema';
import { Known } from './known/known.ts';

/** What accepting and carrying out need to know of an intake's version. */
export interface LiveIntake {
  intake: Intake;
  version: number;
  document: IntakeDocument;
  /** Sealed keys with which what arrives must be signed; none: it need not be. */
  secrets: SecretRow[];
}

/**
 * What is live, as this process last saw it. Versions never change, so they are kept; what is live by which key, and
 * the systems' schemas, are looked up again after a second at the latest, so that other processes' changes arrive.
 */
export class LiveView {
  private readonly byKey = new Map<string, { at: number; found: Promise<LiveIntake | 'unknown' | 'closed'> }>();
  private readonly versions = new Map<string, Promise<IntakeDocument>>();
  /** The index of known records and how they are recognised. */
  readonly known: Known;
  private schemas: { at: number; found: Promise<Map<string, Schema>> } | undefined;
  /** What has been read of them, by the snapshot's id; a snapshot never changes. */
  private snapshots = new Map<number, Schema>();

  constructor(
    private readonly db: Database,
    private readonly freshMs = 1000,
  ) {
    this.known = new Known(db, freshMs);
  }

  async intake(key: string): Promise<LiveIntake | 'unknown' | 'closed'> {
    const known = this.byKey.get(key);
    if (known && Date.now() - known.at < this.freshMs) return known.found;
    const found = this.lookUp(key);
    // Unknown keys aren't kept: anybody can invent them.
    this.byKey.set(key, { at: Date.now(), found });
    const result = await found.catch((error: unknown) => {
      this.byKey.delete(key);
      throw error;
    });
    if (result === 'unknown') this.byKey.delete(key);
    return result;
  }

  private async lookUp(key: string): Promise<LiveIntake | 'unknown' | 'closed'> {
    const intake = await intakeByKey(this.db, key);
    if (!intake) return 'unknown';
    if (intake.state !== 'open' || intake.liveVersion === null) return 'closed';
    const [document, secrets] = await Promise.all([
      this.document(intake.id, intake.liveVersion),
      secretsOf(this.db, intake.id),
    ]);
    return { intake, version: intake.liveVersion, document, secrets };
  }

  /** @throws when there is no such version */
  document(intakeId: string, version: number): Promise<IntakeDocument> {
    const key = `${intakeId}/${version}`;
    const known = this.versions.get(key);
    if (known) return known;
    // It was made for the schemas and recognitions of that moment, which may be younger than what is known here.
    this.schemas = undefined;
    this.known.refresh();
    const found = versionOf(this.db, intakeId, version).then((row) => {
      if (!row) throw new Error(`There is no version ${version} of this intake.`);
      return row.document;
    });
    found.catch(() => this.versions.delete(key));
    this.versions.set(key, found);
    return found;
  }

  /** The newest schema of every system, by system id. */
  allSchemas(): Promise<Map<string, Schema>> {
    if (this.schemas && Date.now() - this.schemas.at < this.freshMs) return this.schemas.found;
    const found = this.lookUpSchemas();
    found.catch(() => (this.schemas = undefined));
    this.schemas = { at: Date.now(), found };
    return found;
  }

  private async lookUpSchemas(): Promise<Map<string, Schema>> {
    const newest = await newestSnapshots(this.db);
    const unread = [...newest.values()].filter((id) => !this.snapshots.has(id));
    const read = await schemasOf(this.db, unread);
    const schemas = new Map<string, Schema>();
    const snapshots = new Map<number, Schema>();
    for (const [system, id] of newest) {
      const schema = this.snapshots.get(id) ?? read.get(id);
      if (!schema) continue;
      schemas.set(system, schema);
      snapshots.set(id, schema);
    }
    this.snapshots = snapshots;
    return schemas;
  }

  /** Lets go of what may have changed by our own hand. */
  forget(): void {
    this.byKey.clear();
    this.schemas = undefined;
    this.known.refresh();
  }
}
