import type { Request } from 'express';
import { collectValues, flattenPayload, type SubmittedValues } from '@zusammen/core/forms';
import { inTurn, NEVER_NAMES, parseJson, shownName, unfitText } from '../bodies/index.ts';
import { multipartPairs, urlencodedPairs, type FileFields, type SentFile } from './form-body.ts';
import { badField, Problem } from './problem.ts';

export const BODY_LIMIT = 1024 * 1024;
const LIMITS = { fields: 1000, depth: 8 };
/** Values and names that a submission may hold before its fields are counted. */
const JSON_LIMITS = { depth: 32, values: 10_000 };

/** Reads a body's bytes. @throws Problem 413 over the limit, which is noticed before the bytes are kept */
export function bytesOf(request: Request, limit = BODY_LIMIT): Promise<Buffer> {
  const tooLarge = (): Problem =>
    new Problem(413, 'Too large', `A body may have ${limit / 1024 / 1024} MiB.`, [], { Connection: 'close' });
  if (Number(request.headers['content-length'] ?? 0) > limit) return Promise.reject(tooLarge());
  if (request.headers['content-encoding'] && request.headers['content-encoding'] !== 'identity') {
    return Promise.reject(new Problem(415, 'Not taken', 'Compressed bodies are not taken.'));
  }
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = [];
    let size = 0;
    request.on('data', (chunk: Buffer) => {
      size += chunk.length;
      if (size <= limit) chunks.push(chunk);
      // The rest is let pass unkept, so that the answer can be read by who is still sending.
      else reject(tooLarge());
    });
    request.once('end', () => resolve(chunks.length === 1 ? chunks[0]! : Buffer.concat(chunks)));
    request.once('error', () => reject(new Problem(400, 'Broken off', 'The request broke off.')));
    request.once('aborted', () => reject(new Problem(400, 'Broken off', 'The request broke off.')));
  });
}

export interface ReadSubmission {
  values: SubmittedValues;
  /** The kind an event says it is, at its top (Standard Webhooks). */
  eventType?: string;
  /** As a browser posts a plain form. */
  plainForm: boolean;
}

export interface SubmissionRules {
  /** Sees the bytes before anything is made of them, e.g. to check their signature. */
  inspect?: (bytes: Buffer) => void;
  /** The encoding of the page whose form it is, as far as it is known. */
  charset?: string;
  /** Names under which a file may come. Of a file its name is kept, not its contents. */
  fileFields?: FileFields;
  /** Takes what is in the files as well, by the names they came under. */
  files?: Map<string, SentFile>;
}

/** Files in one body; a browser sends an empty one for each input that nobody filled in. */
const MOST_FILES = 20;

/** With pictures the contents pass through us unkept, so the body may be larger. */
const BODY_LIMIT_WITH_FILES = 12 * 1024 * 1024;
/** Where files are kept, several may come with one form. */
const BODY_LIMIT_KEPT = 24 * 1024 * 1024;

/** Reads a submission in any of the three forms it may come in. @throws Problem naming the field and the reason */
export async function readSubmission(request: Request, rules: SubmissionRules = {}): Promise<ReadSubmission> {
  const type = (request.headers['content-type'] ?? '').split(';')[0]!.trim().toLowerCase();
  const files: FileFields = rules.fileFields ?? new Set();
  const received = async (limit?: number): Promise<Buffer> => {
    const bytes = await bytesOf(request, limit);
    await inTurn(bytes.length);
    rules.inspect?.(bytes);
    return bytes;
  };
  if (type === 'application/json' || /^application\/[\w.-]+\+json$/.test(type)) {
    const payload = parseJson(await received(), JSON_LIMITS);
    const flat = flattenPayload(payload, LIMITS);
    if (!flat.ok) throw badField(flat.field, flat.reason);
    checked(
      Object.entries(flat.values).flatMap(([name, value]) =>
        [value].flat().map((each): [string, string] => [name, String(each)]),
      ),
    );
    // CloudEvents 1.0 in binary mode say it in a header.
    const kind = (payload as { type?: unknown }).type ?? request.get('ce-type');
    return { values: flat.values, plainForm: false, ...(typeof kind === 'string' ? { eventType: kind } : {}) };
  }
  if (type === 'application/x-www-form-urlencoded') {
    const pairs = urlencodedPairs(await received(), request.headers['content-type'], LIMITS, rules.charset);
    return { values: checked(pairs), plainForm: true };
  }
  if (type === 'multipart/form-data') {
    const most = rules.files ? BODY_LIMIT_KEPT : files.size > 0 ? BODY_LIMIT_WITH_FILES : undefined;
    const bytes = await received(most);
    const limits = { fields: LIMITS.fields, files: MOST_FILES, value: BODY_LIMIT };
    return {
      values: checked(await multipartPairs(request.headers, bytes, files, limits, rules.charset, rules.files)),
      plainForm: true,
    };
  }
  throw new Problem(
    415,
    'Not taken',
    'A submission comes as application/json (or a +json type), application/x-www-form-urlencoded or multipart/form-data.',
  );
}

function checked(pairs: [string, string][]): SubmittedValues {
  if (pairs.length > LIMITS.fields) throw badField('', `has more than ${LIMITS.fields} fields`);
  for (const [name, value] of pairs) {
    if (NEVER_NAMES.has(name)) throw badField(name, 'is not a name a field can have');
    if (name.length > 500) throw badField(`${name.slice(0, 40)}…`, 'is a name longer than 500 characters');
    for (const text of [name, value]) {
      const unfit = unfitText(text);
      if (unfit !== undefined) throw badField(shownName(name), unfit);
    }
  }
  return collectValues(pairs);
}
