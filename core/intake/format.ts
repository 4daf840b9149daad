import { INTAKE_FORMAT, type IntakeDocument } from './model.ts';

type Plain = Record<string, unknown>;
const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * What brings a document from one format to the next, by the format it has: a pure function each, which leaves what it
 * is given as it was. A document that says no format is of format 0.
 */
const UPGRADES: ((document: Plain) => Plain)[] = [
  // Format 1 says what leads to the intake; before, nothing said meant a page.
  (document) => ({
    ...document,
    source: isPlain(document['source']) ? { kind: 'page', ...document['source'] } : document['source'],
  }),
];

/**
 * Brings a document of an older format to the newest. What is no document, or of a format that isn't known here (newer
 * than this version), comes back as it is: validating says so.
 */
export function upgraded(plain: unknown): unknown {
  if (!isPlain(plain)) return plain;
  let document = plain;
  for (let format = document['format'] ?? 0; ; format = document['format'] as number) {
    const upgrade = typeof format === 'number' ? UPGRADES[format] : undefined;
    if (!upgrade) return document;
    document = { ...upgrade(document), format: (format as number) + 1 };
  }
}

/** A document as it was kept, in the newest format. Ours were valid when they were kept, and aren't validated again. */
export const kept = (plain: unknown): IntakeDocument => upgraded(plain) as IntakeDocument;

if (UPGRADES.length !== INTAKE_FORMAT) throw new Error('Every format needs an upgrade to the next.');
