import { v7 as uuid } from 'uuid';
import { collectValues, readForms, type FormField, type ReadForm } from '@zusammen/core/forms';
import { prepareLine, suggestLines, type Line } from '@zusammen/core/mapping';
import type { IntakeDocument, Step } from '@zusammen/core/plans';
import { isWritable, type Entity, type Schema } from '@zusammen/core/schema';
import { hashPassword, type Sealer } from '../access/index.ts';
import { Acceptor, LiveView, Worker } from '../engine/index.ts';
import {
  addIntake,
  addSample,
  addSystem,
  addUser,
  changes,
  intakes,
  intakeVersions,
  isDuplicate,
  laneHolders,
  lanes,
  ledger,
  listIntakes,
  listUsers,
  publishDraft,
  samples,
  schemaSnapshots,
  submissions,
  systems,
  type Database,
  type Role,
  type SystemRow,
} from '../store/index.ts';
import { describeAnew, Systems } from '../systems/index.ts';
import { pastSubmissions } from './past.ts';

export const DEMO_PASSWORD = 'clover-hollow';
const PEOPLE: [email: string, name: string, role: Role][] = [
  ['mara@cloverhollow.example', 'Mara Osterwisch', 'administrator'],
  ['idris@cloverhollow.example', 'Idris Fairweather', 'specialist'],
  ['bozena@cloverhollow.example', 'Bożena Sadowska', 'viewer'],
];
const BY = { id: null, name: 'The demo' };

export interface DemoSettings {
  db: Database;
  sealer: Sealer;
  /** Where the stand-ins are, e.g. `http://localhost:4610`. */
  standins: string;
  /** Past submissions to play back. */
  past: number;
  log: (message: string) => void;
}

/**
 * Loads the demo into an empty Zusammen: people, the Co-op CRM connected, two intakes made from the website's own
 * pages, and past submissions carried out by the engine itself, dated back.
 * @returns false when Zusammen isn't empty; nothing is touched then
 */
export async function loadDemo({ db, sealer, standins, past, log }: DemoSettings): Promise<boolean> {
  if ((await listUsers(db)).length > 0) return false;
  await forgetHalfLoaded(db);
  const system = await connectCrm(db, sealer, standins);
  const { schema } = system;
  const keys = ['pollination-enquiry', 'letters-sign-up'];
  for (const key of keys) {
    const page = `${standins}/site/${key}`;
    const [form] = readForms(await (await fetch(page)).text());
    if (!form) throw new Error(`The website shows no form at ${page}.`);
    await publishIntake(db, key, documentFor(key, form, page, system.id, schema));
  }
  log('playing back past submissions');
  const crm = new Systems(db, sealer);
  await playBack(db, crm, await pastSubmissions(standins, past, new Date(), 4711));
  if (past > 0) await keepSamples(db, await pastSubmissions(standins, 40, new Date(), 815));
  // The people come last: with them the demo counts as loaded.
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  for (const [email, name, role] of PEOPLE) {
    await addUser(db, { email, name, role, passwordHash }).catch((error: unknown) => {
      if (!isDuplicate(error)) throw error;
    });
  }
  return true;
}

/** A loading that was cut short left no people behind, so nobody can have worked with what it did leave. */
async function forgetHalfLoaded(db: Database): Promise<void> {
  for (const table of [
    submissions,
    lanes,
    laneHolders,
    ledger,
    samples,
    intakeVersions,
    intakes,
    schemaSnapshots,
    systems,
    changes,
  ])
    await db.delete(table);
}

async function connectCrm(db: Database, sealer: Sealer, standins: string): Promise<{ id: string; schema: Schema }> {
  const address = `${standins}/crm/odata/`;
  const token = 'demo-integration';
  const { schema, capabilities, recordPage, latencyMs } = await describeAnew(address, token);
  const id = uuid();
  const now = new Date();
  const row: SystemRow = {
    id,
    name: 'Co-op CRM',
    address,
    sealedToken: sealer.seal(token, id),
    practice: true,
    recordPage: recordPage ?? null,
    state: 'answers',
    stateWords: null,
    latencyMs,
    capabilities,
    checkedAt: now,
    createdAt: now,
  };
  await addSystem(db, row, schema);
  return { id, schema };
}

const NAMES: Record<string, string> = {
  'pollination-enquiry': 'Pollination enquiry',
  'letters-sign-up': 'Letters sign-up',
};
const OPTION_PAIRS: Record<string, [string, string][]> = {
  lang: [
    ['english', 'en'],
    ['german', 'de'],
    ['polish', 'pl'],
  ],
  'thema[]': [
    ['Honig', 'honey'],
    ['Königinnen', 'queens'],
    ['Kurse', 'courses'],
  ],
};
/** What a specialist would add to the suggestions on the co-operative's forms. */
const BY_HAND: Record<string, [from: string[], field: string][]> = {
  'pollination-enquiry': [
    [['contact_phone'], 'phone'],
    [['street', 'house_no'], 'street'],
    [['lang'], 'language'],
    [['letters'], 'letters_allowed'],
  ],
  'letters-sign-up': [
    [['thema[]'], 'interests'],
    [['ok'], 'letters_allowed'],
  ],
};

/** An intake as a specialist would make it: the suggestions, corrected where this form needs it. */
function documentFor(key: string, form: ReadForm, page: string, system: string, schema: Schema): IntakeDocument {
  const entity = schema.entities.find((each) => each.name === 'People')!;
  const where = { country: 'DE', locale: 'de-DE' };
  const lines = new Map<string, Line>();
  const put = (from: string[], name: string): void => {
    const field = entity.fields.find((each) => each.name === name)!;
    const line = prepareLine(
      `line-${name}`,
      from.map((each) => fieldOf(form, each)),
      field,
      where,
    );
    const pairs = from.length === 1 ? OPTION_PAIRS[from[0]!] : undefined;
    if (pairs)
      line.treatments = [{ kind: 'options', pairs: pairs.map(([sent, taken]) => ({ from: sent, to: taken })) }];
    lines.set(name, line);
  };
  for (const { from, field, standing } of suggestLines(form.fields, [targetOf(entity)]))
    if (standing === 'set') put(from, field);
  for (const [from, field] of BY_HAND[key] ?? []) put(from, field);
  const step: Step = {
    id: 'person',
    system,
    entity: 'People',
    recognise: [{ fields: ['email'] }],
    whenNone: 'create',
    whenOne: 'update',
    whenSeveral: 'ask',
    lines: [...lines.values()],
  };
  return {
    name: NAMES[key] ?? key,
    source: { page, formName: form.name },
    fields: form.fields,
    plan: { steps: [step] },
    settings: { ...where, perMinute: 6000 },
  };
}

const fieldOf = (form: ReadForm, name: string): FormField => form.fields.find((field) => field.name === name)!;
const targetOf = (entity: Entity) => ({ ...entity, fields: entity.fields.filter(isWritable) });

async function publishIntake(db: Database, key: string, document: IntakeDocument): Promise<void> {
  const intake = await addIntake(db, key, document, BY);
  await publishDraft(db, intake.id, intake.revision, [], BY);
}

/** Lets past submissions in one after another, and the engine carry them out, dated with the moment they arrived. */
async function playBack(
  db: Database,
  systems: Systems,
  past: Awaited<ReturnType<typeof pastSubmissions>>,
): Promise<void> {
  const live = new LiveView(db, 60_000);
  const acceptor = new Acceptor(db, live);
  const settings = {
    name: 'demo',
    concurrency: 8,
    pollMs: 1000,
    // Nearly all within a second or two, as on a quiet machine.
    clock: ({ receivedAt, seq }: { receivedAt: Date; seq: number }) =>
      new Date(receivedAt.getTime() + 300 + ((seq * 7919) % 1400)),
    log: () => undefined,
  };
  const worker = new Worker(db, systems, live, settings);
  for (const { intake, values, at, via } of past) {
    const found = await live.intake(intake);
    if (typeof found === 'string') throw new Error(`The intake ${intake} is ${found}.`);
    await acceptor.accept(found, { values: collectValues(values), via, receivedAt: at });
  }
  await worker.idle();
  await worker.stop();
}

/** Samples for rehearsing: like the past ones, but never sent, so that they would still change something. */
async function keepSamples(db: Database, made: Awaited<ReturnType<typeof pastSubmissions>>): Promise<void> {
  for (const { id, key } of await listIntakes(db)) {
    for (const { values } of made.filter(({ intake }) => intake === key).slice(0, 12))
      await addSample(db, id, collectValues(values));
  }
}
