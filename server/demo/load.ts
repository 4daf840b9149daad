import { randomBytes } from 'node:crypto';
import { v7 as uuid } from 'uuid';
import { allMended } from '@zusammen/core/adapters';
import { collectValues, readForms, type SubmittedValues } from '@zusammen/core/forms';
import { panelLine, toPay, type HostedForm } from '@zusammen/core/forms/hosted';
import type { IntakeDocument } from '@zusammen/core/intake';
import { suggestRecognition } from '@zusammen/core/recognition';
import { entityOf, type Schema, type Values } from '@zusammen/core/schema';
import { hashPassword, type Sealer } from '../access/index.ts';
import {
  Acceptor,
  apply,
  Feeds,
  Jobs,
  heldListener,
  knownListener,
  LiveView,
  Pairings,
  paidValues,
  settlePayment,
  Worker,
  type Arrival,
} from '../engine/index.ts';
import type { Role } from '@zusammen/core/api';
import {
  actingSystems,
  actingTokens,
  adapterVersions,
  addIntake,
  addPairing,
  addSample,
  addSecret,
  addSystem,
  addUser,
  bulkConversions,
  changes,
  conversionStarts,
  feeds,
  intakes,
  intakeSecrets,
  intakeVersions,
  isDuplicate,
  jobs,
  laneHolders,
  lanes,
  ledger,
  listIntakes,
  listUsers,
  metRecords,
  publishDraft,
  decidedPairs,
  doubleGroups,
  doubleSearches,
  knownKeys,
  knownRecords,
  recognitions,
  recognitionVersions,
  samples,
  saveRecognition,
  heldFields,
  heldValues,
  pairDue,
  pairings,
  pairingVersions,
  payments,
  paymentOf,
  paymentServices,
  panelSights,
  takenContexts,
  savePaymentService,
  visitorFileParts,
  visitorFiles,
  visitorFileUses,
  schemaSnapshots,
  searchState,
  searchWords,
  turns,
  submissions,
  systems,
  systemTokens,
  type Database,
  type SystemRow,
} from '../store/index.ts';
import {
  describeAnew,
  describeByAdapter,
  lookAt,
  lookingSend,
  Systems,
  tryAdapter,
  withoutAnswer,
  type Via,
} from '../systems/index.ts';
import { formsOfOurs, sentByOurs } from './forms.ts';
import { intakeForPage, intakeForShop, PAGE_KEYS, SHOP_KEY } from './intakes.ts';
import { ENQUIRY_TO_CONTRACT, enquiryToContract } from './conversion.ts';
import { quoteLinesWithContractLines, subscribersWithPeople, type Connected } from './pairings.ts';
import { actAsThemselves, APIARY_INSPECTION, apiaryInspection, putOnPages } from './panel.ts';
import { orderSamples, pastSubmissions, type PastSubmission } from './past.ts';

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
  via: Via;
  /** Where the stand-ins are, e.g. `http://localhost:4610`. */
  standins: string;
  /** Where Zusammen itself is reached, e.g. `http://localhost:4600`. */
  own: string;
  /** Past submissions to play back. */
  past: number;
  /** Whether its pairings are made, and the first of them started: they write by themselves from then on. */
  pairings: boolean;
  log: (message: string) => void;
}

/**
 * Loads the demo into an empty Zusammen: people, the Co-op CRM connected, intakes made from the website's own pages
 * and the shop's events, and past submissions carried out by the engine itself, dated back.
 * @returns false when Zusammen isn't empty; nothing is touched then
 */
export async function loadDemo({
  db,
  sealer,
  via,
  standins,
  own,
  past,
  pairings: paired,
  log,
}: DemoSettings): Promise<boolean> {
  if ((await listUsers(db)).length > 0) return false;
  await forgetHalfLoaded(db);
  const system = await connectCrm(db, sealer, via, standins);
  const { schema } = system;
  const letters = await connectLetters(db, sealer, via, standins);
  const till = await connectPayments(db, sealer, standins, own);
  const making = { system: system.id, schema, letters: { system: letters.id, schema: letters.schema }, till };
  for (const key of PAGE_KEYS) {
    const page = `${standins}/site/${key}`;
    const [form] = readForms(await (await fetch(page)).text());
    if (!form) throw new Error(`The website shows no form at ${page}.`);
    await publishIntake(db, key, intakeForPage(key, form, page, making));
  }
  for (const [key, document] of formsOfOurs(making)) await publishIntake(db, key, document);
  await actAsThemselves(db, sealer, via, system.id, `${standins}/crm/odata/`);
  await publishIntake(db, APIARY_INSPECTION, apiaryInspection(making, standins));
  await putOnPages(standins, ['Person', 'Organisation'], panelLine(own, APIARY_INSPECTION));
  await publishIntake(db, ENQUIRY_TO_CONTRACT, enquiryToContract(making, standins));
  await putOnPages(standins, ['Enquiry'], panelLine(own, ENQUIRY_TO_CONTRACT));
  const checkout = await publishIntake(db, SHOP_KEY, intakeForShop(orderSamples(), making));
  await signedFeed(db, sealer, standins, checkout, own);
  const crm = new Systems(db, sealer, via);
  log('reading the known records');
  await recogniseAll(db, crm, system);
  log('playing back past submissions');
  await playBack(db, crm, await pastSubmissions(standins, past, new Date(), 4711));
  if (past > 0) {
    const ours = await sentBefore(crm, system);
    await playBack(db, crm, ours.slice(10));
    await keepSamples(db, [...(await pastSubmissions(standins, 120, new Date(), 815)), ...ours.slice(0, 10)]);
  }
  if (paired) await makePairings(db, letters, system);
  // The people come last: with them the demo counts as loaded.
  const passwordHash = await hashPassword(DEMO_PASSWORD);
  for (const [email, name, role] of PEOPLE) {
    await addUser(db, { email, name, role, passwordHash }).catch((error: unknown) => {
      if (!isDuplicate(error)) throw error;
    });
  }
  return true;
}

/** What was sent by forms of ours: changes of contracts that the CRM keeps, and renewals of people it knows. */
async function sentBefore(crm: Systems, { id, schema }: Connected): Promise<PastSubmission[]> {
  const client = await crm.client(id);
  const some = async (name: string, most: number, fit: (values: Values) => boolean) => {
    const entity = entityOf(schema, name)!;
    const seen = entity.fields.flatMap(({ name: field, rights }) => (rights === 'none' ? [] : [field]));
    const { records } = await client.page(entity, seen);
    return records.filter(({ values }) => fit(values)).slice(0, most);
  };
  const contracts = await some('Contracts', 20, ({ starts_on: starts }) => starts !== null);
  const people = await some('People', 30, ({ email, last_name: last }) => Boolean(email) && Boolean(last));
  const organisations = entityOf(schema, 'Organisations')!;
  const names = new Map<string, string>();
  for (const { values } of contracts) {
    const of = await client.read(organisations, String(values['organisation_id']));
    if (of) names.set(of.id, [of.values['name'], of.values['city']].filter(Boolean).join(', '));
  }
  return sentByOurs({ contracts, people, names }, new Date());
}

/** Two pairings: one that is at work, and one that is ready to be started. */
async function makePairings(db: Database, letters: Connected, crm: Connected): Promise<void> {
  await addPairing(db, quoteLinesWithContractLines(crm));
  const { id } = await addPairing(db, subscribersWithPeople(letters, crm));
  await apply({ db, schemas: await new LiveView(db, 0).allSchemas() }, id, 1, [], BY.name);
}

/** A loading that was cut short left no people behind, so nobody can have worked with what it did leave. */
async function forgetHalfLoaded(db: Database): Promise<void> {
  for (const table of [
    recognitions,
    recognitionVersions,
    feeds,
    jobs,
    knownRecords,
    knownKeys,
    decidedPairs,
    doubleSearches,
    doubleGroups,
    submissions,
    lanes,
    laneHolders,
    ledger,
    turns,
    samples,
    searchWords,
    searchState,
    intakeSecrets,
    intakeVersions,
    intakes,
    schemaSnapshots,
    adapterVersions,
    systemTokens,
    heldFields,
    heldValues,
    pairDue,
    pairings,
    pairingVersions,
    payments,
    paymentServices,
    visitorFileUses,
    visitorFileParts,
    visitorFiles,
    actingSystems,
    actingTokens,
    takenContexts,
    panelSights,
    bulkConversions,
    metRecords,
    conversionStarts,
    systems,
    changes,
  ])
    await db.delete(table);
}

async function connectCrm(
  db: Database,
  sealer: Sealer,
  via: Via,
  standins: string,
): Promise<{ id: string; schema: Schema }> {
  const address = `${standins}/crm/odata/`;
  const token = 'demo-integration';
  const { schema, capabilities, recordPage, latencyMs } = await describeAnew(address, token, via);
  const id = uuid();
  const now = new Date();
  const row: SystemRow = {
    id,
    name: 'Co-op CRM',
    kind: 'odata',
    adapterVersion: null,
    adapterDrift: null,
    address,
    sealedToken: sealer.seal(token, id),
    revision: 1,
    practice: true,
    // The demo's people are made up; its specialists have said yes to them.
    personal: true,
    recordPage: recordPage ?? null,
    state: 'answers',
    stateWords: null,
    latencyMs,
    capabilities,
    checkedAt: now,
    schemaReadAt: now,
    patienceUntil: null,
    createdAt: now,
  };
  await addSystem(db, row, schema);
  return { id, schema };
}

/** Connects the mailing system by what its description says, as a specialist would. */
async function connectLetters(
  db: Database,
  sealer: Sealer,
  via: Via,
  standins: string,
): Promise<{ id: string; schema: Schema }> {
  const secrets = { clientId: 'demo', clientSecret: 'demo-secret' };
  const look = { address: `${standins}/letters/openapi.json`, secrets };
  const looked = await lookAt(look, via.dispatcher, via.readDescription);
  const { reasons, unused } = looked;
  // What trying shows is taken over, as a specialist would.
  const send = lookingSend(looked.adapter.signIn, secrets, via.dispatcher);
  const trials = await tryAdapter(looked.adapter, send, { writes: false });
  const adapter = allMended(looked.adapter, trials);
  const { schema, capabilities, latencyMs } = await describeByAdapter(adapter, secrets, via.dispatcher);
  const id = uuid();
  const now = new Date();
  const row: SystemRow = {
    ...{ id, name: 'Co-op Letters', kind: 'json', adapterVersion: 1, adapterDrift: null, address: adapter.address },
    ...{ sealedToken: sealer.seal(JSON.stringify(secrets), id), revision: 1, practice: true, personal: true },
    ...{ recordPage: null, state: 'answers', stateWords: null, latencyMs, capabilities },
    ...{ checkedAt: now, schemaReadAt: now, patienceUntil: null, createdAt: now },
  };
  const first = {
    document: adapter,
    reasons,
    described: looked.adapter,
    unused,
    trials: trials.map(withoutAnswer),
    at: now,
    by: BY.name,
  };
  await addSystem(db, row, schema, first);
  return { id, schema };
}

async function publishIntake(db: Database, key: string, document: IntakeDocument): Promise<string> {
  const intake = await addIntake(db, key, document, BY);
  await publishDraft(db, intake.id, intake.revision, [], BY);
  return intake.id;
}

/** Lets the shop send its events here, signed with a key that both hold. */
async function signedFeed(db: Database, sealer: Sealer, standins: string, intake: string, own: string): Promise<void> {
  const secret = `whsec_${randomBytes(32).toString('base64')}`;
  await addSecret(db, intake, (id) => ({ sealed: sealer.seal(secret, id), ending: secret.slice(-5, -1) }), new Date());
  const response = await fetch(`${standins}/shop/feed`, {
    method: 'POST',
    body: new URLSearchParams({ address: `${own}/in/${SHOP_KEY}`, secret }),
    redirect: 'manual',
  });
  if (response.status >= 400) throw new Error(`The shop does not take the address for its events: ${response.status}`);
}

/** Connects the payments in test mode, and lets them send their events here, signed. */
async function connectPayments(db: Database, sealer: Sealer, standins: string, own: string): Promise<string> {
  const secret = `whsec_${randomBytes(32).toString('base64')}`;
  const id = uuid();
  await savePaymentService(db, {
    ...{ id, name: 'Co-op payments', address: `${standins}/pay`, test: true, createdAt: new Date() },
    sealedKey: sealer.seal('demo-payments', id),
    sealedSigning: sealer.seal(secret, id),
  });
  const response = await fetch(`${standins}/pay/feed`, {
    method: 'POST',
    body: new URLSearchParams({ address: `${own}/payments/${id}`, secret }),
    redirect: 'manual',
  });
  if (response.status >= 400) throw new Error(`The payments don’t take the address for events: ${response.status}`);
  return id;
}

/** Says how people and organisations are recognised, and reads the records that are known. */
async function recogniseAll(db: Database, crm: Systems, { id, schema }: { id: string; schema: Schema }): Promise<void> {
  for (const entity of schema.entities) {
    const recognition = suggestRecognition(entity);
    if (recognition && ['People', 'Organisations', 'Visits'].includes(entity.name))
      await saveRecognition(db, id, entity.name, recognition, 0, BY);
  }
  const live = new LiveView(db, 0);
  const { work: feed } = new Feeds(db, crm, live, [knownListener(db, live.known), heldListener(db)]);
  const reading = new Jobs(db, { feed }, { name: 'demo', pollMs: 1000, log: () => undefined });
  await reading.work();
  await reading.stop();
}

/** Lets past submissions in one after another, and the engine carry them out, dated with the moment they arrived. */
async function playBack(
  db: Database,
  systems: Systems,
  past: Awaited<ReturnType<typeof pastSubmissions>>,
): Promise<void> {
  const live = new LiveView(db, 60_000);
  const acceptor = new Acceptor(db, live);
  /** How often the clock was looked at for a submission. */
  const looked = new Map<number, number>();
  const settings = {
    name: 'demo',
    concurrency: 8,
    pollMs: 1000,
    // Nearly all within a second or two, as on a quiet machine; each request of theirs takes a moment.
    clock: ({ receivedAt, seq }: { receivedAt: Date; seq: number }) => {
      const looks = looked.get(seq) ?? 0;
      looked.set(seq, looks + 1);
      return new Date(receivedAt.getTime() + 300 + ((seq * 7919) % 1400) + looks * 17);
    },
    log: () => undefined,
  };
  const worker = new Worker(db, systems, live, new Pairings(db, live), settings);
  for (const { intake, values, at, via, payment } of past) {
    const found = await live.intake(intake);
    if (typeof found === 'string') throw new Error(`The intake ${intake} is ${found}.`);
    const said = collectValues(values);
    const due = payment === undefined ? undefined : dueFor(found.document.form!, said);
    const { id } = await acceptor.accept(found, {
      ...{ values: said, via, receivedAt: at },
      ...(due ? { payment: due } : {}),
    });
    if (!due || payment === 'due') continue;
    const { id: reference } = (await paymentOf(db, id))!;
    const { serviceId, ...rest } = due;
    const told = { ...rest, reference, at: new Date(at.getTime() + 95_000) };
    await settlePayment({ db, live, acceptor }, serviceId, { ...told, what: 'paid' });
    if (payment === 'refunded') await settlePayment({ db, live, acceptor }, serviceId, { ...told, what: 'refunded' });
  }
  await worker.idle();
  await worker.stop();
}

/** What one of the past had to pay. */
function dueFor(form: HostedForm, values: SubmittedValues): NonNullable<Arrival['payment']> {
  const { fee } = form;
  const come = fee && toPay(fee, form, values as Record<string, string | string[]>, { language: 'en' });
  if (!fee || !come?.ok) throw new Error('What was to be paid for a past submission can’t be reckoned.');
  return { serviceId: fee.service, minor: come.minor, currency: fee.currency, test: true };
}

/** Samples for rehearsing: like the past ones, but never sent, so that they would still change something. */
async function keepSamples(db: Database, made: Awaited<ReturnType<typeof pastSubmissions>>): Promise<void> {
  for (const { id, key } of await listIntakes(db)) {
    for (const { values, payment, at } of made.filter(({ intake }) => intake === key).slice(0, 12)) {
      const paid = payment === undefined ? {} : paidValues({ id: uuid(), minor: 4000, currency: 'EUR' }, at);
      await addSample(db, id, { ...collectValues(values), ...paid });
    }
  }
}
