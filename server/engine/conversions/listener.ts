import { meetsAll } from '@zusammen/core/asking';
import { comparisonsFrom, conversionOf, type IntakeDocument } from '@zusammen/core/intake';
import { entityOf, type Entity } from '@zusammen/core/schema';
import { beginStart, hashed, intakeById, metBefore, noteMet, startingConversions, startOf } from '../../store/index.ts';
import type { From, Page } from '../../systems/index.ts';
import type { FeedListener, FeedReading, Listen } from '../feeds/index.ts';
import { convertRecord, type Converting } from './convert.ts';

/** Conversions that start by themselves: when a record comes to meet their condition, as its system's changes tell. */
export const conversionListener =
  (converting: Converting, queued: () => void): Listen =>
  async ({ systemId }, entity) => {
    const starting = await startingConversions(converting.db, systemId, entity.name);
    if (starting.length === 0) return undefined;
    for (const { id, document } of starting) await begin(converting, id, document, entity);
    return new ConversionListener(converting, queued, starting, entity);
  };

type Starting = Awaited<ReturnType<typeof startingConversions>>[number];

const whereOf = (document: IntakeDocument) => comparisonsFrom(conversionOf(document)?.starts ?? []);

/** What meets the condition already when it is set is left alone; it is converted by hand, or many at once. */
async function begin({ db, systems }: Converting, id: string, document: IntakeDocument, entity: Entity): Promise<void> {
  const where = whereOf(document);
  const condition = hashed(JSON.stringify(where)).toString('hex');
  if ((await startOf(db, id))?.condition === condition) return;
  const client = await systems.client(conversionOf(document)!.system);
  const fields = [...(entity.keyParts ?? [entity.key]), ...where.map(({ field }) => field)];
  const met: string[] = [];
  let from: From | undefined;
  do {
    const page: Page = await client.page(entity, [...new Set(fields)], from);
    met.push(...page.records.filter(({ values }) => meetsAll(values, where, entity)).map(({ id: record }) => record));
    from = page.next === undefined ? undefined : { link: page.next };
  } while (from);
  await beginStart(db, id, condition, met);
}

class ConversionListener implements FeedListener {
  readonly needsWhole = false;
  readonly fields: readonly string[];

  constructor(
    private readonly converting: Converting,
    private readonly queued: () => void,
    private readonly starting: readonly Starting[],
    private readonly entity: Entity,
  ) {
    const known = new Set(entity.fields.map(({ name }) => name));
    const wanted = starting.flatMap(({ document }) => [
      ...document.fields.map(({ name }) => name),
      ...whereOf(document).map(({ field }) => field),
    ]);
    this.fields = [...new Set(wanted)].filter((name) => known.has(name));
  }

  begin = (): Promise<void> => Promise.resolve();

  async take({ records, gone }: Page, _reading: FeedReading): Promise<boolean> {
    let converted = 0;
    for (const each of this.starting) converted += await this.takeFor(each, { records, gone });
    if (converted > 0) this.queued();
    return converted > 0;
  }

  private async takeFor({ id, version, document }: Starting, { records, gone }: Pick<Page, 'records' | 'gone'>) {
    const { db, live } = this.converting;
    const where = whereOf(document);
    const entity = entityOf(
      (await live.allSchemas()).get(conversionOf(document)!.system) ?? { entities: [] },
      this.entity.name,
    );
    if (!entity) return 0;
    const meeting = records.filter(({ values }) => meetsAll(values, where, entity));
    const others = records.filter((record) => !meeting.includes(record)).map((record) => record.id);
    const before = await metBefore(db, id, [...meeting.map((record) => record.id), ...others, ...gone]);
    const fresh = meeting.filter((record) => !before.has(record.id));
    const intake = fresh.length > 0 ? await intakeById(db, id) : undefined;
    // First it is a submission, then it counts as met: cut short in between, it is told again, and converted once.
    if (intake)
      for (const record of fresh) await convertRecord(this.converting, { intake, version, document }, entity, record);
    await noteMet(
      db,
      id,
      fresh.map((record) => record.id),
      [...others, ...gone].filter((record) => before.has(record)),
    );
    return fresh.length;
  }

  note = (): Promise<void> => Promise.resolve();
  whole = (): Promise<void> => Promise.resolve();
  rest = (): Promise<void> => Promise.resolve();
}
