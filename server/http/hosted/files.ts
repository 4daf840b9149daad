import { createHash } from 'node:crypto';
import type { Request, Response } from 'express';
import {
  asInFirstRow,
  drawnName,
  drawnPicture,
  fileName,
  FILE_SORTS,
  MOST_MEBIBYTES,
  MOST_FILE_TOKEN,
  placedThat,
  standingsOf,
  USUAL_SORTS,
  wordsIn,
  type AnswerTrouble,
  type Answers,
  type HostedForm,
  type Item,
} from '@zusammen/core/forms/hosted';
import { TooHeavy } from '../../heavy/index.ts';
import { addVisitorFile, looseBytesOf, visitorFilesBy, visitorFileSent } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { SentFile } from '../form-body.ts';
import { Problem } from '../problem.ts';
import { isVisitor, notThere } from '../visitor-page.ts';

/**
 * Files that visitors send. Each is kept as soon as it comes, for a day; what speaks for it goes to and fro with the form.
 * With a submission it stays as long as that does, and goes on as an address that can't be guessed.
 */

const MEBIBYTE = 1024 * 1024;
/** What speaks for a file that belongs to no submission yet is good for so long, in milliseconds. */
const GOOD_FOR_MS = 24 * 3_600_000;
/** Of one form, bytes of files that nobody has sent off yet; then no more are taken for a while. */
const MOST_LOOSE = 512 * MEBIBYTE;
const about = (intake: string): string => `file ${intake}`;

type Keeping = Pick<Context, 'db' | 'sealer' | 'heavy' | 'settings'>;

/** A file that is kept: what speaks for it, and what it is called. */
export interface KeptFile {
  token: string;
  name: string;
}

/** What a file is called: no path, nothing that can't be shown, and never nothing. */
export function plainName(given: string): string {
  const last = given.toWellFormed().split(/[/\\]/).at(-1) ?? '';
  const bare = last
    .normalize('NFC')
    .replace(/[\p{Cc}\p{Cf}]/gu, '')
    .replace(/^\.+/, '')
    .trim();
  return [...bare].slice(-120).join('') || 'file';
}

/**
 * Keeps a file, where the question takes it.
 * @param page what was issued with the page: the same file sent with it twice is one file
 * @returns what speaks for it; or why it isn't taken, in the visitor's language
 */
export async function keepFile(
  { db, sealer, heavy }: Keeping,
  intake: string,
  item: Item,
  { name, bytes }: SentFile,
  { language, page, by }: { language: string; page: string; by: string },
): Promise<KeptFile | string> {
  const words = wordsIn(language);
  const most = item.mostMebibytes ?? MOST_MEBIBYTES;
  if (bytes.length === 0) return words.fileEmpty;
  if (bytes.length > most * MEBIBYTE) return words.fileTooLarge(most);
  const type = await heavy.run('fileType', { bytes }, { by: `file ${by}` }).catch((error: unknown) => {
    // That others are being looked at says nothing of this one.
    if (error instanceof TooHeavy && error.kind === 'too many')
      throw new Problem(503, 'Not just now', 'Too many files come at once; try again.', [], { 'Retry-After': '2' });
    return undefined;
  });
  const taken = (item.accepts ?? USUAL_SORTS).flatMap((sort): readonly string[] => FILE_SORTS[sort].types);
  if (type === undefined || !taken.includes(type)) return words.fileSort;
  if ((await looseBytesOf(db, intake)) + bytes.length > MOST_LOOSE)
    throw new Problem(503, 'Too much', 'No more files are taken just now; try again later.', [], {
      'Retry-After': '600',
    });
  const called = plainName(name);
  const id = sealer.mark(
    JSON.stringify([intake, page, item.id, called, createHash('sha256').update(bytes).digest('base64')]),
    'visitor file',
  );
  await addVisitorFile(db, { id, intakeId: intake, name: called, type, cameAt: new Date() }, bytes);
  return { token: sealer.seal(JSON.stringify([id, item.id, Date.now(), called]), about(intake)), name: called };
}

/** What speaks for a file, read. @returns undefined where it speaks for none of this form */
export function readToken(
  { sealer }: Pick<Keeping, 'sealer'>,
  intake: string,
  token: string,
): { id: string; item: string; name: string } | undefined {
  try {
    const [id, item, at, name] = JSON.parse(sealer.open(token, about(intake))) as [string, string, number, string];
    return Date.now() - at < GOOD_FOR_MS ? { id, item, name } : undefined;
  } catch {
    return undefined;
  }
}

/** What files in answers are called, by what speaks for them. */
export const fileNames = (keeping: Pick<Keeping, 'sealer'>, intake: string, answers: Answers): Record<string, string> =>
  Object.fromEntries(
    Object.values(answers).flatMap((said) => {
      const token = typeof said === 'string' && said.startsWith('v1.') && said.length <= MOST_FILE_TOKEN ? said : '';
      const file = token === '' ? undefined : readToken(keeping, intake, token);
      return file ? [[token, file.name]] : [];
    }),
  );

/** Questions of a form that ask for files, by the names under which they come. */
export interface FilesAsked {
  size: number;
  has(name: string): boolean;
  of(name: string): Item | undefined;
}

export function filesAsked(form: HostedForm): FilesAsked {
  const asking = new Map(
    standingsOf(form).flatMap(({ item, name }) => (item.kind === 'file' ? [[name, item] as const] : [])),
  );
  return {
    size: asking.size,
    has: (name) => asking.has(asInFirstRow(name)),
    of: (name) => asking.get(asInFirstRow(name)),
  };
}

export const fileAddress = ({ settings }: Pick<Keeping, 'settings'>, id: string): string =>
  `${settings.publicAddress}/files/${id}`;

/**
 * Puts addresses in the place of what speaks for files, and keeps what was drawn as a signature.
 * @param values what was read of the answers; changed in place
 * @returns the files that go on with it, by id, and what won't do
 */
export async function withFiles(
  keeping: Keeping,
  { intake, form, language, page }: { intake: string; form: HostedForm; language: string; page: string },
  answers: Answers,
  values: Record<string, string | string[]>,
): Promise<{ files: string[]; errors: AnswerTrouble[] }> {
  const files: string[] = [];
  const errors: AnswerTrouble[] = [];
  const asking = placedThat(form, answers, ({ kind }) => kind === 'file' || kind === 'signature');
  const read = new Map(
    asking.flatMap(({ item, name }) => {
      const token = item.kind === 'file' ? [values[name] ?? ''].flat()[0]! : '';
      const file = token === '' ? undefined : readToken(keeping, intake, token);
      return file?.item === item.id ? [[name, file] as const] : [];
    }),
  );
  const there = await visitorFilesBy(
    keeping.db,
    [...read.values()].map(({ id }) => id),
  );
  for (const { item, name } of asking) {
    if (item.kind === 'file') {
      if (values[name] === undefined) continue;
      const file = there.get(read.get(name)?.id ?? '');
      if (!file) {
        errors.push({ field: name, message: wordsIn(language).fileGone });
        continue;
      }
      values[name] = fileAddress(keeping, file.id);
      values[fileName(name)] = file.name;
      files.push(file.id);
    } else {
      const drawn = values[drawnName(name)];
      if (typeof drawn !== 'string') continue;
      const id = keeping.sealer.mark(JSON.stringify([intake, page, item.id, drawn]), 'visitor file');
      const picture = Buffer.from(drawnPicture(drawn));
      const kept = { id, intakeId: intake, name: 'signature.svg', type: 'image/svg+xml', cameAt: new Date() };
      await addVisitorFile(keeping.db, kept, picture);
      values[drawnName(name)] = fileAddress(keeping, id);
      files.push(id);
    }
  }
  return { files, errors };
}

/** `GET /files/:id`: for whoever has its address, as long as a submission has it. It is never shown as a page of ours. */
export async function sendFile({ db }: Pick<Context, 'db'>, request: Request, response: Response): Promise<void> {
  const id = String(request.params['id']);
  const found = /^[\w-]{43}$/.test(id) ? await visitorFileSent(db, id) : undefined;
  if (!found) {
    const problem = new Problem(404, 'Not there', 'There is no such file, or no more.');
    if (!isVisitor(request)) throw problem;
    return void response.status(404).type('text/html').send(notThere(problem));
  }
  const { file, bytes } = found;
  response.attachment(file.name);
  const disposition = String(response.getHeader('Content-Disposition'));
  response
    .set({
      'Cache-Control': 'private, no-store',
      'Content-Disposition': file.type.startsWith('image/')
        ? disposition.replace(/^attachment/, 'inline')
        : disposition,
      'Content-Security-Policy': "default-src 'none'; sandbox",
      'X-Content-Type-Options': 'nosniff',
      'Cross-Origin-Resource-Policy': 'same-origin',
      'Referrer-Policy': 'no-referrer',
    })
    .type(file.type)
    .send(bytes);
}

/** Uploads under way, by address; in all of them. */
const uploading = new Map<string, number>();
const MOST_UPLOADING = 24;
const MOST_UPLOADING_EACH = 4;

/** Takes a place for a body with files in it, before it is read. @returns what gives it back @throws Problem 503 */
export function enterUpload(by: string): () => void {
  const own = uploading.get(by) ?? 0;
  const all = [...uploading.values()].reduce((sum, each) => sum + each, 0);
  if (own >= MOST_UPLOADING_EACH || all >= MOST_UPLOADING)
    throw new Problem(503, 'Too many at once', 'Too many files are being sent just now; try again.', [], {
      'Retry-After': '5',
      Connection: 'close',
    });
  uploading.set(by, own + 1);
  return () => {
    const left = uploading.get(by)! - 1;
    if (left === 0) uploading.delete(by);
    else uploading.set(by, left);
  };
}
