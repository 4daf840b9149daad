import { linkedEntities, panelLine } from '@zusammen/core/forms/hosted';
import { check, inputOf, type Finding } from '@zusammen/core/checks';
import type { IntakeDocument } from '@zusammen/core/intake';
import type { ReadOnlyWorld } from '@zusammen/core/plans';
import {
  addIntake,
  addSample,
  deleteIntake,
  followConversion,
  goLiveWith,
  intakeById,
  isDuplicate,
  listIntakes,
  noteChange,
  panelSightOf,
  pastValues,
  publishDraft,
  putAway,
  removeSample,
  samplesOf,
  saveDraft,
  setIntakeState,
  valuesOf,
  versionOf,
  versionsOf,
  changesOf,
  type Database,
  type Intake,
} from '../../store/index.ts';
import { compareDocuments, rehearse } from '../../engine/index.ts';
import { Readings, type Wanted } from '../../heavy/index.ts';
import { inLines, LINES } from '../lines.ts';
import { collectValues, isSubmittedValue, jsonSchemaOf, type SubmittedValues } from '@zusammen/core/forms';
import { tooLong } from '@zusammen/core/values';
import {
  CompareBody,
  GoLiveBody,
  IntakeStateBody,
  NewIntakeBody,
  PublishBody,
  LinkBody,
  PutAwayBody,
  RehearseBody,
  SaveDraftBody,
  ValuesBody,
  type PanelTold,
} from '@zusammen/core/api';
import { entityOf } from '@zusammen/core/schema';
import { actorOf, type Context } from '../context.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { isId, limitOf } from '../query.ts';
import { route, type Route, type Unsent } from '../route.ts';
import { sealDraft } from '../hosted/draft.ts';
import { soundDocument } from '../hosted/sound.ts';
import { factsOf, pageFieldsOf } from '../facts.ts';
import { intakeFigures } from '../figures.ts';
import { teach } from '../teach.ts';

export const intakeRoutes = (context: Context): Route[] => {
  const { db, live, sealer } = context;
  const readings = new Readings();
  const existing = async (id: string): Promise<Intake> => {
    const intake = isId(id) ? await intakeById(db, id) : undefined;
    if (!intake || intake.deletedAt !== null) throw notFound('such intake');
    return intake;
  };
  /** What the screen shows is what is asked about: the checks look at the page as it is now, too. */
  const findingsOf = async (intake: Intake, document: IntakeDocument, wanted: Wanted): Promise<Finding[]> => {
    const [kept, schemas, known, pageFields] = await Promise.all([
      samplesOf(db, intake.id),
      live.allSchemas(),
      factsOf(db, intake),
      pageFieldsOf(context, document, wanted),
    ]);
    const facts = pageFields ? { ...known, pageFields } : known;
    return check({ ...inputOf(document), schemas, samples: kept.map(({ values }) => values), facts });
  };
  /**
   * Runs the checks on a document about to go live.
   * @param before what is known and isn't asked about again
   * @throws Problem for what stops it, and for what nobody has accepted
   */
  const checked = async (
    intake: Intake,
    document: IntakeDocument,
    accepted: boolean,
    wanted: Wanted,
    before: readonly Finding[] = [],
  ): Promise<Finding[]> => {
    const findings = await findingsOf(intake, document, wanted);
    const stops = findings.filter(({ severity }) => severity === 'stops');
    const complaints = (found: Finding[]) =>
      found.map(({ id, place, sentence }) => ({
        field: place.field ?? place.step ?? '',
        reason: `${id}: ${sentence}`,
      }));
    const words = (found: Finding[]): string => found.map(({ sentence }) => sentence).join(' ');
    if (stops.length > 0) throw new Problem(422, 'Checks stop it', words(stops), complaints(stops));
    const known = new Set(before.map(keyOf));
    const looks = findings.filter((finding) => !known.has(keyOf(finding)));
    if (looks.length > 0 && !accepted) throw new Problem(409, 'Checks want a look', words(looks), complaints(looks));
    return findings;
  };
  return [
    route({
      method: 'get',
      path: '/intakes',
      summary: 'All intakes with their figures',
      role: 'viewer',
      work: async () => {
        const figures = await intakeFigures(db);
        const intakes = await listIntakes(db);
        return {
          intakes: intakes.map(({ draft, ...intake }) => ({
            ...intake,
            name: draft.name,
            source: draft.source,
            fields: draft.fields.length,
            steps: draft.plan.steps.length,
            figures: figures.get(intake.id),
          })),
        };
      },
    }),
    route({
      method: 'post',
      path: '/intakes',
      summary: 'Make an intake',
      role: 'specialist',
      body: NewIntakeBody,
      work: async ({ body, response, user }) => {
        try {
          const intake = await addIntake(db, body.key, soundDocument(body.document), actorOf(user));
          response.status(201);
          return { intake };
        } catch (error) {
          if (isDuplicate(error)) throw badField('key', `“${body.key}” is taken by another intake`, 409);
          throw error;
        }
      },
    }),
    route({
      method: 'put',
      path: '/intakes/:id/put-away',
      summary: 'Put an intake away, closed and out of sight, or bring it back',
      role: 'specialist',
      body: PutAwayBody,
      work: async ({ params, body, user }) => {
        await putAway(db, (await existing(params['id']!)).id, body.away, actorOf(user));
        live.forget();
      },
    }),
    route({
      method: 'delete',
      path: '/intakes/:id',
      summary: 'Delete an intake; what its submissions wrote stays on the ledger',
      role: 'specialist',
      work: async ({ params, user }) => {
        const waiting = await deleteIntake(db, (await existing(params['id']!)).id, actorOf(user));
        if (waiting > 0)
          throw new Problem(
            409,
            'On their way',
            `${waiting === 1 ? 'One submission is' : `${waiting} submissions are`} on the way or in Review; settle them first.`,
          );
        live.forget();
      },
    }),
    route({
      method: 'get',
      path: '/intakes/:id',
      summary: 'An intake with its draft and versions',
      role: 'viewer',
      work: async ({ params }) => {
        const intake = await existing(params['id']!);
        const versions = (await versionsOf(db, intake.id)).map(({ document: _, ...rest }) => rest);
        const liveDocument =
          intake.liveVersion === null ? undefined : (await versionOf(db, intake.id, intake.liveVersion))?.document;
        return {
          intake,
          versions,
          live: liveDocument,
          figures: (await intakeFigures(db)).get(intake.id),
          changes: await changesOf(db, intake.id, 50),
          ...(intake.draft.form?.panel || intake.draft.source.panel ? { panel: await panelTold(context, intake) } : {}),
        };
      },
    }),
    route({
      method: 'put',
      path: '/intakes/:id/draft',
      summary: 'Save the draft',
      role: 'specialist',
      body: SaveDraftBody,
      work: async ({ params, body }) => {
        const intake = await existing(params['id']!);
        const revision = await saveDraft(db, intake.id, soundDocument(body.document), body.revision);
        if (revision === undefined)
          throw new Problem(412, 'Changed meanwhile', 'Somebody else has changed this draft; load it again.');
        return { revision };
      },
    }),
    route({
      method: 'post',
      path: '/intakes/:id/preview',
      summary: 'The address at which the draft of a form of ours can be filled in; what is sent there is not kept',
      role: 'specialist',
      work: async ({ params }) => {
        const { id, key, draft } = await existing(params['id']!);
        if (!draft.form) throw new Problem(409, 'No form of ours', 'What leads to this intake is shown elsewhere.');
        return { address: `/f/${key}/draft?by=${encodeURIComponent(sealDraft(sealer, id))}` };
      },
    }),
    route({
      method: 'post',
      path: '/intakes/:id/links',
      summary: 'Make a signed link that opens the live form with a record',
      role: 'specialist',
      body: LinkBody,
      work: async ({ params, body, user }) => {
        const intake = await existing(params['id']!);
        const found = await live.intake(intake.key);
        const link = typeof found === 'string' ? undefined : found.document.form?.link;
        if (!link) throw new Problem(409, 'No links', 'The live version isn’t opened with a link.');
        const name = body.entity ?? link.entity;
        if (!linkedEntities(link).some((each) => each.entity === name))
          throw badField('entity', 'isn’t one that the form is opened with');
        const entity = entityOf((await live.allSchemas()).get(link.system) ?? { entities: [] }, name);
        const client = await context.systems.client(link.system);
        if (!entity || !(await client.read(entity, body.record))) throw badField('record', 'is not there');
        const { address, until } = await context.links.make({ intake: intake.key, ...body });
        // Whose record it leads to may be looked up; what the link says is known to whoever has it.
        await noteChange(db, actorOf(user), 'made a link to the form', intake.id, { record: body.record });
        return { address: `${context.settings.publicAddress}${address}`, until: until.toISOString() };
      },
    }),
    route({
      method: 'post',
      path: '/intakes/:id/publish',
      summary: 'Publish the draft as a new version',
      role: 'specialist',
      body: PublishBody,
      work: async ({ params, body, user, wanted }) => {
        const intake = await existing(params['id']!);
        const document = intake.draft;
        if (document.plan.steps.length === 0)
          throw new Problem(422, 'Not ready', 'The plan has no step yet.', [
            { field: 'plan.steps', reason: 'is empty' },
          ]);
        const findings = await checked(intake, document, body.accept === true, wanted);
        const before = intake.liveVersion === null ? undefined : await versionOf(db, intake.id, intake.liveVersion);
        const version = await publishDraft(db, intake.id, body.revision, findings, actorOf(user));
        if (version === undefined)
          throw new Problem(412, 'Changed meanwhile', 'Somebody else has changed this draft; load it again.');
        live.forget();
        await followConversion(db, document, user.name);
        await teach(db, document, before?.document, await live.allSchemas());
        return { version };
      },
    }),
    route({
      method: 'put',
      path: '/intakes/:id/state',
      summary: 'Open or close an intake',
      role: 'specialist',
      body: IntakeStateBody,
      work: async ({ params, body, user }) => {
        const intake = await existing(params['id']!);
        if (intake.liveVersion === null) throw new Problem(409, 'Not published', 'Publish a version first.');
        await setIntakeState(db, intake.id, body.state, actorOf(user));
        const shown = body.state === 'open' ? await versionOf(db, intake.id, intake.liveVersion) : undefined;
        if (shown) await followConversion(db, shown.document, user.name);
        live.forget();
      },
    }),
    route({
      method: 'put',
      path: '/intakes/:id/live',
      summary: 'Go live with an earlier version',
      role: 'specialist',
      body: GoLiveBody,
      work: async ({ params, body, user, wanted }) => {
        const intake = await existing(params['id']!);
        const version = await versionOf(db, intake.id, body.version);
        if (!version) throw notFound(`version ${body.version}`);
        // What was sound when it was published need not be so today: fields go, systems are disconnected.
        // Nobody is asked about what they accepted then, nor about what is so with the version that is live.
        const current = intake.liveVersion === null ? undefined : await versionOf(db, intake.id, intake.liveVersion);
        const known = current ? await findingsOf(intake, current.document, wanted) : [];
        await checked(intake, version.document, body.accept === true, wanted, [...version.accepted, ...known]);
        await goLiveWith(db, intake.id, body.version, actorOf(user));
        await followConversion(db, version.document, user.name);
        live.forget();
      },
    }),
    route({
      method: 'get',
      path: '/intakes/:id/versions/:number',
      summary: 'The document of a version',
      role: 'viewer',
      work: async ({ params }) => {
        const found = /^\d{1,9}$/.test(params['number']!)
          ? await versionOf(db, (await existing(params['id']!)).id, Number(params['number']))
          : undefined;
        if (!found) throw notFound('such version');
        return found;
      },
    }),
    route({
      method: 'get',
      path: '/intakes/:id/samples',
      summary: 'The samples kept with an intake',
      role: 'viewer',
      work: async ({ params }) => ({ samples: await samplesOf(db, (await existing(params['id']!)).id) }),
    }),
    route({
      method: 'get',
      path: '/intakes/:id/past',
      summary: 'The newest submissions of an intake, as samples',
      role: 'specialist',
      work: async ({ params, query }) => ({
        past: await pastValues(db, (await existing(params['id']!)).id, limitOf(query, 50, 200)),
      }),
    }),
    route({
      method: 'post',
      path: '/intakes/:id/samples',
      summary: 'Keep a sample',
      role: 'specialist',
      body: ValuesBody,
      work: async ({ params, body, response, user }) => {
        const intake = await existing(params['id']!);
        const sample = await addSample(db, intake.id, submittedValues(body.values, 'values'));
        await noteChange(db, actorOf(user), 'added a sample', intake.id);
        response.status(201);
        return { sample };
      },
    }),
    route({
      method: 'delete',
      path: '/intakes/:id/samples/:sample',
      summary: 'Remove a sample',
      role: 'specialist',
      work: async ({ params }) => {
        const found =
          isId(params['sample']) && (await removeSample(db, (await existing(params['id']!)).id, params['sample']));
        if (!found) throw notFound('such sample');
      },
    }),
    route({
      method: 'post',
      path: '/intakes/:id/rehearse',
      summary: 'Rehearse a document on samples; nothing is written',
      role: 'specialist',
      body: RehearseBody,
      limit: 4 * 1024 * 1024,
      heavy: true,
      work: async ({ params, body, wanted, request, response }) => {
        const intake = await existing(params['id']!);
        const samples = await samplesFor(db, intake, body);
        const remember = (reading: ReadOnlyWorld) => readings.of(intake.id, body.anew === true, reading);
        if (request.accepts(['application/json', LINES]) !== LINES)
          return { results: await rehearse(context, body.document, samples, wanted, { remember }) };
        const lines = inLines(response);
        await lines.with(
          rehearse(context, body.document, samples, wanted, {
            remember,
            told: (result, at) => lines.write({ at, result }),
          }),
        );
        return undefined;
      },
    }),
    route({
      method: 'post',
      path: '/intakes/:id/compare',
      summary: 'What would come out differently of the newest submissions, this document against the live one',
      role: 'specialist',
      body: CompareBody,
      limit: 4 * 1024 * 1024,
      heavy: true,
      work: async ({ params, body, wanted }) => {
        const intake = await existing(params['id']!);
        if (intake.liveVersion === null)
          throw new Problem(409, 'Not published', 'There is no live version to compare with.');
        const version = (await versionOf(db, intake.id, intake.liveVersion))!;
        const past = await pastValues(db, intake.id, body.last);
        const values = past.map((each) => each.values);
        const compared = await compareDocuments(context, version.document, body.document, values, wanted);
        return {
          version: version.number,
          compared: compared.map((each, at) => ({ id: past[at]!.id, label: past[at]!.label, ...each })),
        };
      },
    }),
    route({
      method: 'get',
      path: '/intakes/:id/facts',
      summary: 'What is known of an intake besides its document, for the checks',
      role: 'viewer',
      work: async ({ params }) => factsOf(db, await existing(params['id']!)),
    }),
    route({
      method: 'get',
      path: '/intakes/:id/form-schema',
      summary: 'The form of an intake as a JSON Schema (2020-12)',
      role: 'viewer',
      work: async ({ params }) => {
        const { draft } = await existing(params['id']!);
        return jsonSchemaOf(draft.name, draft.fields);
      },
    }),
  ];
};

/** The samples that a rehearsal is asked for. @throws Problem naming those that aren't there */
async function samplesFor(db: Database, intake: Intake, body: RehearseBody): Promise<SubmittedValues[]> {
  if ((body.of === undefined) === (body.samples === undefined))
    throw badField('of', 'or samples must be given, one of them');
  if (body.samples) return body.samples.map((values, at) => submittedValues(values, `samples.${at}`));
  const found = await valuesOf(db, intake.id, body.of ?? []);
  return found.map((values, at) => {
    if (!values) throw badField(`of.${at}`, 'names no sample and no submission of this intake');
    return values;
  });
}

/** The same finding about the same place. */
const keyOf = ({ id, place }: Finding): string => JSON.stringify([id, place.step, place.field]);

/** Values as a form or a program would send them. @throws Problem naming the value that is none */
function submittedValues(values: Record<string, unknown>, path: string): SubmittedValues {
  const pairs = Object.entries(values).flatMap(([name, value]) => {
    if (!isSubmittedValue(value))
      throw badField(`${path}.${name}`, 'must be a text, a list of texts, a number, or true or false');
    return [value].flat().map((one) => [name, one] as const);
  });
  if (pairs.length > 1000) throw badField(path, 'has more than 1000 values');
  for (const [name, said] of pairs) {
    const long = tooLong(String(said), 'text');
    if (long !== undefined) throw badField(`${path}.${name}`, `is too long: ${long}`);
  }
  return collectValues(pairs);
}

/** How a panel is put on pages, and whether it was seen there. */
async function panelTold({ db, settings }: Context, { id, key }: Intake): Promise<Unsent<PanelTold>> {
  const sight = await panelSightOf(db, id);
  const { seenAt = null, seenBy = null, seenOn = null } = sight ?? {};
  const { refusedAt = null, refusedWhy = null, refusedFrom = null } = sight ?? {};
  return {
    ...{ line: panelLine(settings.publicAddress, key), seenAt, seenBy, seenOn },
    ...{ refusedAt, refusedWhy, refusedFrom },
  };
}
