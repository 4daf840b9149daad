import type { FormField } from '../../forms/index.ts';
import { treatmentsFor, type Line, type Treatment, type Where } from '../../mapping/index.ts';
import type { Field } from '../../schema/index.ts';
import { mayCreate, type Step } from '../model.ts';

/** Editing the lines of a step. A line that somebody has changed is theirs: it is no suggestion any more. */

/** A line that somebody has looked at; suggesting anew doesn't move it any more. */
export function settledLine({ confidence: _, ...line }: Line): Line {
  return { ...line, origin: 'set' };
}

/** Lines at the end; those whose id is there already are left out. */
export function addLines(step: Step, lines: readonly Line[]): Step {
  const known = new Set(step.lines.map(({ id }) => id));
  const fresh = lines.filter(({ id }) => !known.has(id) && known.add(id));
  return fresh.length === 0 ? step : { ...step, lines: [...step.lines, ...fresh] };
}

export function removeLine(step: Step, id: string): Step {
  const lines = step.lines.filter((line) => line.id !== id);
  return lines.length === step.lines.length ? step : { ...step, lines };
}

/** @param work changes the line; its id stays */
export const changeLine = (step: Step, id: string, work: (line: Line) => Line): Step => ({
  ...step,
  lines: step.lines.map((line) => (line.id === id ? { ...settledLine(work(line)), id } : line)),
});

/** Accepts what is suggested, of these lines. */
export const acceptLines = (step: Step, ids: ReadonlySet<string>): Step => ({
  ...step,
  lines: step.lines.map((line) => (ids.has(line.id) ? settledLine(line) : line)),
});

/** A line that always writes the same, to a field: of new records, or of those that are there if a step makes none. */
export const constantLine = (id: string, field: string, step?: Step): Line => ({
  ...{ id, from: [], constant: '', treatments: [], field },
  ...{ ifBoth: !step || mayCreate(step) ? 'new records only' : 'write', blankErases: false, origin: 'set' },
});

/** Another source for a line: what it had comes first, joined with it. */
export function withSource(line: Line, name: string): Line {
  if (line.from.includes(name)) return line;
  const from = [...line.from, name];
  const { constant: _, ...rest } = line;
  const joins = line.treatments.some(({ kind }) => kind === 'join' || kind === 'compute');
  const treatments = from.length > 1 && !joins ? [JOINED, ...line.treatments] : line.treatments;
  return { ...rest, from, treatments };
}

const JOINED: Treatment = { kind: 'join', separator: ' ' };

/**
 * A line that takes these of the form's fields, in order. One source more or less changes what the usual treatments are;
 * those set by hand stay.
 */
export function takeFields(
  line: Line,
  from: readonly string[],
  fields: readonly FormField[],
  field: Field | undefined,
  where: Where,
): Line {
  const { constant: _, fromStep: __, ...rest } = line;
  if (line.from.length === 0 && field) {
    const sources = from.flatMap((name) => fields.find((each) => each.name === name) ?? []);
    return { ...rest, from: [...from], treatments: treatmentsFor(sources, field, where) };
  }
  const joins = line.treatments.some(({ kind }) => kind === 'join');
  const treatments =
    from.length > 1 && !joins
      ? [JOINED, ...line.treatments]
      : from.length === 1
        ? line.treatments.filter(({ kind }) => kind !== 'join')
        : line.treatments;
  return { ...rest, from: [...from], treatments };
}

/** A line that takes what an earlier step found or made. */
export function takeFromStep({ constant: _, ...line }: Line, fromStep: NonNullable<Line['fromStep']>): Line {
  return { ...line, from: [], fromStep, treatments: [] };
}

/** A line that goes to another field, with the treatments that one needs. */
export const retarget = (line: Line, field: Field, sources: readonly FormField[], where: Where): Line => ({
  ...line,
  field: field.name,
  treatments: treatmentsFor(sources, field, where),
  ifBoth: field.type === 'options' || field.type === 'long text' ? 'add to list' : line.ifBoth,
});

/** A line with one more treatment behind the others. */
export const addTreatment = (line: Line, treatment: Treatment): Line => ({
  ...line,
  treatments: [...line.treatments, treatment],
});

/** A line with a treatment in another place: they are done from left to right. Places that aren't there change nothing. */
export function moveTreatment(line: Line, from: number, to: number): Line {
  const treatment = line.treatments[from];
  if (!treatment || line.treatments[to] === undefined || from === to) return line;
  return { ...line, treatments: line.treatments.toSpliced(from, 1).toSpliced(to, 0, treatment) };
}

/** A line with another treatment in a place; undefined: with none there. */
export const setTreatment = (line: Line, at: number, treatment: Treatment | undefined): Line =>
  line.treatments[at] === undefined
    ? line
    : { ...line, treatments: line.treatments.toSpliced(at, 1, ...(treatment ? [treatment] : [])) };
