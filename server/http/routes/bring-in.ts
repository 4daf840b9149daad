import { randomBytes } from 'node:crypto';
import { openFile, UnreadableFile } from '../../files/index.ts';
import {
  addFile,
  addImport,
  addSecret,
  fileById,
  importById,
  importsOf,
  intakeById,
  noteChange,
  removeFile,
  removeSecret,
  rowsOfImport,
  secretsOf,
  setJobState,
  setSigned,
  type ImportRow,
  type Intake,
  type SecretRow,
} from '../../store/index.ts';
import { bytesOf } from '../body.ts';
import {
  ImportStateBody,
  NewImportBody,
  ReadPageBody,
  RehearseFileBody,
  SigningBody,
  SUBMISSION_STATES,
} from '@zusammen/core/api';
import { actorOf, type Context } from '../context.ts';
import { importTotals } from '../import-totals.ts';
import { sendImportReport } from '../import-report.ts';
import { rehearseFile } from '../file-rehearsal.ts';
import { readPage } from '../pages.ts';
import { badField, notFound, Problem } from '../problem.ts';
import { isId, numberOf } from '../query.ts';
import { route, type Route } from '../route.ts';

const FILE_LIMIT = 20 * 1024 * 1024;
const SAMPLE_ROWS = 50;
/** How long a key is good after another has taken over. */
const OVERLAP_MS = 24 * 3_600_000;

/** Pages read by address, files taken in, and the keys that events are signed with. */
export const bringInRoutes = (context: Context): Route[] => {
  const { db, live, sealer, systems, heavy, fileReader, jobs } = context;
  const existing = async (id: string | undefined): Promise<Intake> => {
    const intake = isId(id) ? await intakeById(db, id) : undefined;
    if (!intake || intake.deletedAt !== null) throw notFound('such intake');
    return intake;
  };
  const existingImport = async (id: string | undefined): Promise<ImportRow> => {
    const found = isId(id) ? await importById(db, id) : undefined;
    if (!found) throw notFound('such file on its way');
    return found;
  };
  return [
    route({
      method: 'post',
      path: '/pages/read',
      summary: 'The forms of the page at an address',
      role: 'specialist',
      body: ReadPageBody,
      heavy: true,
      work: async ({ body, wanted }) => readPage(body.address, systems.via.dispatcher, heavy, wanted),
    }),
    route({
      method: 'post',
      path: '/files',
      summary: 'Upload a file of submissions (CSV or XLSX as the body, its name in ?name=); tells what is in it',
      role: 'specialist',
      work: async ({ request, response, query, user }) => {
        const name = (query['name'] ?? '').trim().slice(0, 255);
        if (name === '') throw badField('name', 'is missing in the address');
        const bytes = await bytesOf(request, FILE_LIMIT);
        try {
          const read = await openFile(bytes, fileReader);
          try {
            const rows = await read.take(0, SAMPLE_ROWS);
            const { columns, fields, oddities, facts } = read;
            const file = await addFile(db, { name, rows: read.rows, columns, uploadedBy: user.name }, bytes);
            response.status(201);
            const sample = rows.map((row) => ('bad' in row ? { bad: row.bad } : row.cells));
            return { file, fields, oddities, facts, sample };
          } finally {
            await read.close();
          }
        } catch (error) {
          if (error instanceof UnreadableFile)
            throw new Problem(422, 'The file could not be read', error.message, [
              { field: 'file', reason: error.message },
            ]);
          throw error;
        }
      },
    }),
    route({
      method: 'get',
      path: '/files/:id',
      summary: 'What is known of an uploaded file',
      role: 'viewer',
      work: async ({ params }) => {
        const file = isId(params['id']) ? await fileById(db, params['id']) : undefined;
        if (!file) throw notFound('such file');
        return { file };
      },
    }),
    route({
      method: 'delete',
      path: '/files/:id',
      summary: 'Remove what an uploaded file holds, with its name; submissions made of it stay',
      role: 'specialist',
      work: async ({ params, user }) => {
        const file = isId(params['id']) ? await fileById(db, params['id']) : undefined;
        if (!file || file.removedAt !== null) throw notFound('such file');
        if (!(await removeFile(db, file.id)))
          throw new Problem(409, 'On its way', 'The file is being taken in; let it end first.');
        await noteChange(db, actorOf(user), 'removed an uploaded file', file.id);
      },
    }),
    route({
      method: 'get',
      path: '/intakes/:id/imports',
      summary: 'The files that were taken in or are on their way',
      role: 'viewer',
      work: async ({ params }) => ({ imports: await importsOf(db, (await existing(params['id'])).id) }),
    }),
    route({
      method: 'post',
      path: '/intakes/:id/imports',
      summary: 'Take a file in: every row becomes a submission',
      role: 'specialist',
      body: NewImportBody,
      work: async ({ params, body, response, user }) => {
        const intake = await existing(params['id']);
        if (intake.state !== 'open')
          throw new Problem(409, 'Not open', 'The intake takes no submissions yet; publish it first.');
        const file = isId(body.file) ? await fileById(db, body.file) : undefined;
        if (!file) throw badField('file', 'is not known');
        if (file.removedAt !== null) throw badField('file', 'has been removed');
        const known = new Set(intake.draft.fields.map(({ name }) => name));
        if (!file.columns.some((column) => known.has(column)))
          throw badField('file', `has none of this intake's fields in its heading`);
        if (body.again !== true && (await importsOf(db, intake.id)).some(({ fileId }) => fileId === file.id))
          throw new Problem(
            409,
            'Taken in already',
            `${file.name} has been taken in already; its rows would arrive twice.`,
          );
        const job = await addImport(db, intake.id, file, user.name);
        await noteChange(db, actorOf(user), 'started taking a file in', intake.id, {
          file: file.id,
          rows: file.rows,
        });
        jobs.look();
        response.status(201);
        return { import: job };
      },
    }),
    route({
      method: 'put',
      path: '/imports/:id/state',
      summary: 'Pause a file on its way, or let it go on',
      role: 'specialist',
      body: ImportStateBody,
      work: async ({ params, body, user }) => {
        const job = await existingImport(params['id']);
        const from = body.state === 'paused' ? (['running'] as const) : (['paused', 'failed'] as const);
        if (!(await setJobState(db, job.id, from, body.state)))
          throw new Problem(409, 'Not possible now', `It is ${job.state}.`);
        await noteChange(
          db,
          actorOf(user),
          body.state === 'paused' ? 'paused a file' : 'let a file go on',
          job.intakeId,
        );
        jobs.look();
      },
    }),
    route({
      method: 'get',
      path: '/imports/:id/rows',
      summary: 'What became of the rows of a file',
      role: 'viewer',
      work: async ({ params, query }) => {
        const job = await existingImport(params['id']);
        const after = numberOf(query, 'after', { least: 0, most: Number.MAX_SAFE_INTEGER, otherwise: 0 });
        const state = SUBMISSION_STATES.find((each) => each === query['state']);
        if (query['state'] !== undefined && !state) throw badField('state', 'is no state of a submission');
        const [rows, totals] = await Promise.all([
          rowsOfImport(db, job, { limit: 200, after, state }),
          importTotals(db, job),
        ]);
        return { import: job, rows, totals };
      },
    }),
    route({
      method: 'get',
      path: '/imports/:id/report',
      summary: 'What became of every row of a file, as CSV',
      role: 'specialist',
      work: async ({ params, response, user }) => {
        const job = await existingImport(params['id']);
        await noteChange(db, actorOf(user), 'took a file’s report along', job.intakeId, { import: job.id });
        await sendImportReport(response, db, job);
      },
    }),
    route({
      method: 'post',
      path: '/intakes/:id/imports/rehearsal',
      summary: 'What taking a file in would do, row by row; nothing is written',
      role: 'specialist',
      body: RehearseFileBody,
      heavy: true,
      work: async ({ params, body, wanted }) => {
        const intake = await existing(params['id']);
        const file = isId(body.file) ? await fileById(db, body.file) : undefined;
        if (!file || file.removedAt !== null) throw badField('file', 'is not known');
        return rehearseFile(context, intake, file, wanted);
      },
    }),
    route({
      method: 'get',
      path: '/intakes/:id/secrets',
      summary: 'The keys that events must be signed with; the keys themselves are never shown again',
      role: 'viewer',
      work: async ({ params }) => ({ secrets: (await secretsOf(db, (await existing(params['id'])).id)).map(shown) }),
    }),
    route({
      method: 'post',
      path: '/intakes/:id/secrets',
      summary: 'Make a new key; the ones before stay good for a day. Shown this once',
      role: 'specialist',
      work: async ({ params, response, user }) => {
        const intake = await existing(params['id']);
        const secret = `whsec_${randomBytes(32).toString('base64')}`;
        const seal = (id: string) => ({ sealed: sealer.seal(secret, id), ending: secret.slice(-5, -1) });
        const row = await addSecret(db, intake.id, seal, new Date(Date.now() + OVERLAP_MS));
        await noteChange(db, actorOf(user), 'made a key for events', intake.id, { ending: row.ending });
        live.forget();
        response.status(201);
        return { secret, ...shown(row) };
      },
    }),
    route({
      method: 'delete',
      path: '/intakes/:id/secrets/:secret',
      summary: 'Let a key be good no longer',
      role: 'specialist',
      work: async ({ params, user }) => {
        const intake = await existing(params['id']);
        if (!isId(params['secret']) || !(await removeSecret(db, intake.id, params['secret'])))
          throw notFound('such key');
        await noteChange(db, actorOf(user), 'ended a key for events', intake.id);
        live.forget();
      },
    }),
    route({
      method: 'put',
      path: '/intakes/:id/signing',
      summary: 'Say whether what arrives must be signed with a valid key',
      role: 'specialist',
      body: SigningBody,
      work: async ({ params, body, user }) => {
        const intake = await existing(params['id']);
        if (body.required && (await secretsOf(db, intake.id)).length === 0)
          throw new Problem(409, 'No key', 'Make a key first; without one everything would be refused.');
        await setSigned(db, intake.id, body.required);
        await noteChange(
          db,
          actorOf(user),
          body.required ? 'asked for signatures' : 'lets in what is not signed',
          intake.id,
        );
        live.forget();
      },
    }),
  ];
};

const shown = ({ id, ending, createdAt, goodUntil }: SecretRow) => ({ id, ending, createdAt, goodUntil });
