import type { SheetTold } from '@zusammen/core/api';
import { INTAKE_FORMAT, type IntakeDocument } from '@zusammen/core/intake';
import {
  findStep,
  proposeSheet,
  type ColumnReference,
  type ReferenceSeen,
  type SheetColumn,
} from '@zusammen/core/new-entities';
import type { SeenColumn } from '@zusammen/core/forms';
import { entityOf, type Entity, type Schema } from '@zusammen/core/schema';
import { quoted, readPersonName } from '@zusammen/core/values';
import { rehearse } from '../engine/index.ts';
import { openFile, UnreadableFile, type OpenFile } from '../files/index.ts';
import type { Wanted } from '../heavy/index.ts';
import { bytesOfFile, fileById, type FileRow } from '../store/index.ts';
import type { Context } from './context.ts';
import { badField, Problem } from './problem.ts';

/** Rows that are shown to be paged through. */
const SHOWN = 200;
const SHOWN_OF_CELL = 300;
/** Different values of a column that are looked for in the system; of more, the commonest. */
const MOST_LOOKED_FOR = 1_000;
/** So many show whether a column leads anywhere. */
const TRIED = 40;
/** A column leads to records where so many of its values do. */
const ENOUGH = { field: 0.8, name: 0.6 };
/** Fields that one column is tried against. */
const MOST_FIELDS = 12;

/** An uploaded file that is still there. @throws Problem */
export async function knownFile({ db }: Pick<Context, 'db'>, id: string): Promise<FileRow> {
  const file = await fileById(db, id);
  if (!file) throw badField('file', 'is not known');
  if (file.removedAt !== null) throw badField('file', 'has been removed');
  return file;
}

/** Works with a file that is opened for as long. @throws Problem where it can't be read */
export async function withFile<T>(
  { db, fileReader }: Pick<Context, 'db' | 'fileReader'>,
  id: string,
  work: (file: OpenFile) => Promise<T>,
): Promise<T> {
  const opened = await openFile(await bytesOfFile(db, id), fileReader).catch((error: unknown) => {
    throw error instanceof UnreadableFile ? new Problem(422, 'The file could not be read', error.message) : error;
  });
  try {
    return await work(opened);
  } finally {
    await opened.close();
  }
}

/**
 * Looks a sheet through for an entity that may be made of it: its table, what its columns are, and where they lead.
 * @param tell hears each part as it becomes known
 */
export async function lookAtSheet(
  context: Context,
  system: string,
  file: FileRow,
  wanted: Wanted,
  tell: (told: SheetTold) => void,
): Promise<void> {
  const schema = (await context.live.allSchemas()).get(system) ?? { entities: [] };
  await withFile(context, file.id, async (opened) => {
    const { columns, rows, heading, oddities, facts } = opened;
    const sample = (await opened.take(0, SHOWN)).flatMap((row) =>
      'bad' in row ? [] : [{ line: row.line, cells: row.cells.map((cell) => quoted(cell, SHOWN_OF_CELL)) }],
    );
    const sheet = facts.sheet === undefined ? {} : { sheet: facts.sheet };
    tell({ kind: 'read', name: file.name, columns, rows, heading, ...sheet, oddities, sample });
    const seen = await opened.look((done) => tell({ kind: 'progress', rows: done }));
    tell({ kind: 'seen', columns: seen, proposal: proposeSheet(file.name, seen, schema) });
    for (const column of seen) {
      if (wanted.gone?.aborted) return;
      const leads = await whereItLeads(context, { system, schema, opened, wanted }, column);
      if (leads) tell({ kind: 'reference', seen: leads });
    }
  });
}

interface Looking {
  system: string;
  schema: Schema;
  opened: OpenFile;
  wanted: Wanted;
}

/** The entity whose records a column's values name, where most of them do: by a key, or as names of people. */
async function whereItLeads(
  context: Context,
  looking: Looking,
  { column, evidence }: SeenColumn,
): Promise<ReferenceSeen | undefined> {
  if (evidence.kind !== 'text' || evidence.longest.characters > 80) return undefined;
  const { values } = await looking.opened.values(column, TRIED);
  const texts = values.map(({ value }) => value);
  if (texts.length < 2) return undefined;
  for (const reference of await candidates(context, looking, texts)) {
    const tried = await measureReference(context, looking, { column }, reference, TRIED);
    const enough = tried.found >= tried.of * ENOUGH[reference.by];
    if (enough) return measureReference(context, looking, { column }, reference);
  }
  return undefined;
}

/** Where such values may lead: keys look like keys, and names like names. */
async function candidates(
  { live }: Context,
  { system, schema }: Looking,
  texts: readonly string[],
): Promise<ColumnReference[]> {
  const share = (is: (text: string) => boolean): number => texts.filter(is).length / texts.length;
  if (share((text) => /\d/.test(text) && !/\s/.test(text)) > 0.9) {
    const keys = schema.entities.flatMap((entity) =>
      uniqueTexts(entity).map((field) => ({ entity: entity.name, field })),
    );
    return keys.slice(0, MOST_FIELDS).map(({ entity, field }) => ({ by: 'field', entity, field }));
  }
  const isName = (text: string): boolean => {
    const name = readPersonName(text);
    return name.ok && name.value.given !== '' && !/\d/.test(text);
  };
  if (share(isName) < 0.8) return [];
  const recognitions = await live.known.recognitions();
  return schema.entities.flatMap(({ name }): ColumnReference[] => {
    const recognition = recognitions.get(`${system}/${name}`);
    const whole = recognition?.parts.some(({ part }) => part === 'first_name');
    return recognition?.kind === 'person' && whole ? [{ by: 'name', entity: name }] : [];
  });
}

const uniqueTexts = ({ rights, fields }: Entity): string[] =>
  rights.read
    ? fields.flatMap(({ name, unique, type, rights }) => (unique && type === 'text' && rights !== 'none' ? [name] : []))
    : [];

/**
 * How many rows of a column lead to one record, to several or to nobody surely, and to none: by the very step that will
 * look for them when the rows come in, rehearsed; nothing is written.
 */
export async function measureReference(
  context: Context,
  { system, schema, opened, wanted }: Looking,
  column: Pick<SheetColumn, 'column' | 'fillers'>,
  reference: ColumnReference,
  most = MOST_LOOKED_FOR,
): Promise<ReferenceSeen> {
  if (!entityOf(schema, reference.entity)) throw badField('column.reference.entity', 'is none of the system’s');
  const recognitions = await context.live.known.recognitions();
  const step = findStep({ ...column, reference }, { system, schema, recognitions }, 0);
  if (!step) throw badField('column.reference', 'how such records are recognised isn’t set up yet');
  const { values } = await opened.values(column.column, most);
  const low = new Set(column.fillers?.map((each) => each.toLowerCase()));
  const asked = values.filter(({ value }) => !low.has(value.toLowerCase()));
  const document: IntakeDocument = {
    ...{ format: INTAKE_FORMAT, name: 'a column', source: { kind: 'file' }, settings: { perMinute: 1 } },
    fields: [{ name: column.column, label: column.column, type: 'text', required: false }],
    plan: { steps: [step] },
  };
  const samples = asked.map(({ value }) => ({ [column.column]: value }));
  const results = await rehearse(context, document, samples, wanted);
  const seen: ReferenceSeen = {
    ...{ column: column.column, reference, found: 0, unsure: 0, nobody: 0, of: 0, unsureOnes: [], nobodies: [] },
  };
  results.forEach(({ course, trouble }, at) => {
    if (trouble !== undefined) throw new Problem(502, 'The system could not be asked', trouble);
    const { value, count } = asked[at]!;
    const verdict = course?.steps[0]?.verdict;
    seen.of += count;
    if (verdict === 'one') seen.found += count;
    else if (verdict === 'several' || verdict === 'unsure') {
      seen.unsure += count;
      if (seen.unsureOnes.length < 20) seen.unsureOnes.push(value);
    } else {
      seen.nobody += count;
      if (seen.nobodies.length < 20) seen.nobodies.push(value);
    }
  });
  return seen;
}
