import 'reflect-metadata';
import type { MessagePort } from 'node:worker_threads';
import { readForms as formsOf, type ReadForm, type SubmittedValues } from '@zusammen/core/forms';
import {
  suggestLines,
  type Learned,
  type SourceField,
  type SuggestedLine,
  type TargetEntity,
} from '@zusammen/core/mapping';
import { answerRows, matchLists, type KindName, type ListedRecord } from '@zusammen/core/recognition';
import { typeOfFile } from './type-of-file.ts';
import { filledPdf, type FilledForm } from '../pdf/index.ts';
import { readBody as read, type BodyRead } from '../bodies/index.ts';
import { NotUnderstood, understood, type MetadataRead } from '../systems/odata/index.ts';
import {
  readDescription as describe,
  type DescriptionAsked,
  type DescriptionRead,
} from '../systems/description/index.ts';
import { readingOver } from './outside.ts';
import type { Rehearsed } from '@zusammen/core/api';
import * as fields from './fields.ts';
import * as pairings from './pairings.ts';
import { compareWith, rehearseWith, type Compared, type Rehearsal } from './rehearsal.ts';

/** The work that is done away from the thread that answers requests (pool.ts); each is one exported function. */

/** Reads a large body; those of usual size are read where they arrive. */
export const readBody = ({ bytes, type }: { bytes: Uint8Array; type: string }): BodyRead => read(bytes, type);

export const readForms = ({ html }: { html: string }): ReadForm[] => formsOf(html);

export const suggest = ({
  fields,
  entities,
  learned,
}: {
  fields: SourceField[];
  entities: TargetEntity[];
  learned: Learned[];
}): SuggestedLine[] => suggestLines(fields, entities, learned);

export type ReadMetadata = ({ ok: true } & MetadataRead) | { ok: false; reason: string };

export function readMetadata({ text, more = [] }: { text: string; more?: readonly string[] }): ReadMetadata {
  try {
    return { ok: true, ...understood(text, more) };
  } catch (error) {
    if (error instanceof NotUnderstood) return { ok: false, reason: error.message };
    throw error;
  }
}

/** Reads what an API says of itself (OpenAPI), and infers how it is spoken to. */
export const readDescription = (asked: DescriptionAsked): Promise<DescriptionRead> => describe(asked);

export const match = ({
  known,
  asked,
  kind,
}: {
  known: ListedRecord[];
  asked: ListedRecord[];
  kind: KindName;
}): string[][] => answerRows(asked, matchLists(known, asked, kind));

/** @param port through which the systems are asked, and each result is told as soon as it stands */
export const rehearse = ({
  samples,
  port,
  ...rehearsal
}: Rehearsal & { samples: SubmittedValues[]; port: MessagePort }): Promise<Rehearsed[]> =>
  rehearseWith(rehearsal, samples, readingOver(port), (result, at) => port.postMessage({ result, at })).finally(() =>
    port.close(),
  );

export const compare = ({
  live,
  draft,
  submissions,
  port,
}: {
  live: Rehearsal;
  draft: Rehearsal;
  submissions: SubmittedValues[];
  port: MessagePort;
}): Promise<Compared[]> => compareWith(live, draft, submissions, readingOver(port)).finally(() => port.close());

/** A filled-in form on paper. */
export const pdf = (form: FilledForm): Promise<Uint8Array> => filledPdf(form);

/** The media type of a file by what is in it; undefined where that is none we know. */
export const fileType = ({ bytes }: { bytes: Uint8Array }): Promise<string | undefined> => typeOfFile(bytes);

/** Fields over several entities and systems. */
export const planOneField = fields.planned;
export const planOptions = fields.optionSteps;
export const planMend = fields.mended;
export const planDrift = fields.drifted;
export const readDrift = fields.driftRead;
export const compareSchemas = fields.schemasCompared;

export const proposePairing = pairings.propose;
export const lookAtPairing = pairings.look;
export const rehearsePairing = pairings.rehearsed;
