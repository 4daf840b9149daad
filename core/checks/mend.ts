import type { FormField } from '../forms/index.ts';
import type { Line } from '../mapping/index.ts';
import type { IntakeDocument, IntakeSettings } from '../intake/index.ts';

/** What would settle a finding, as data, so that it can be shown before it is done and undone after. */
export type Mend = { label: string } & (
  | { kind: 'change line'; step: string; line: string; set: Partial<Line> }
  | { kind: 'remove line'; step: string; line: string }
  | { kind: 'add line'; step: string; added: Line }
  | { kind: 'settings'; set: Partial<IntakeSettings> }
  /** Replaces fields of the same name and adds the others; `renamed` leads from old names to new ones. */
  | { kind: 'fields'; fields: FormField[]; renamed?: Record<string, string> }
);

/** The document with a mend carried out. The document given is left as it was. */
export function applyMend(document: IntakeDocument, mend: Mend): IntakeDocument {
  switch (mend.kind) {
    case 'settings':
      return { ...document, settings: { ...document.settings, ...mend.set } };
    case 'fields':
      return takeIn(document, mend.fields, mend.renamed ?? {});
    default:
      return {
        ...document,
        plan: {
          ...document.plan,
          steps: document.plan.steps.map((step) =>
            step.id !== mend.step
              ? step
              : {
                  ...step,
                  lines: mended(step.lines, mend),
                },
          ),
        },
      };
  }
}

function mended(
  lines: readonly Line[],
  mend: Extract<Mend, { kind: 'change line' | 'remove line' | 'add line' }>,
): Line[] {
  if (mend.kind === 'add line') return [...lines, mend.added];
  if (mend.kind === 'remove line') return lines.filter(({ id }) => id !== mend.line);
  return lines.map((line) => (line.id === mend.line ? { ...line, ...mend.set } : line));
}

function takeIn(document: IntakeDocument, fields: FormField[], renamed: Record<string, string>): IntakeDocument {
  const now = (name: string): string => (Object.hasOwn(renamed, name) ? renamed[name]! : name);
  const given = new Map(fields.map((field) => [field.name, field]));
  const kept = document.fields.map((field) => given.get(now(field.name)) ?? field);
  const known = new Set(kept.map(({ name }) => name));
  return {
    ...document,
    fields: [...kept, ...fields.filter(({ name }) => !known.has(name))],
    plan: {
      ...document.plan,
      steps: document.plan.steps.map((step) => ({
        ...step,
        lines: step.lines.map((line) => ({ ...line, from: line.from.map(now) })),
      })),
    },
  };
}
