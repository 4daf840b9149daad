import type { IntakeDocument } from '../intake/index.ts';
import { describeTreatment, treatmentsFor, type Line, type Treatment, type Where } from '../mapping/index.ts';
import { standingLines } from '../plans/index.ts';
import type { ChangeStep, FittedLine } from '../schema-changes/index.ts';
import {
  calledBy,
  entityOf,
  fieldOf,
  takesLess,
  type Field,
  type Schema,
  type TakesOtherwise,
} from '../schema/index.ts';
import { sameTreatments } from './same-treatments.ts';
import { MOST_TOLD, type Around } from './lost.ts';

/** A field that takes other values than it did, and lines that still bring it what it took. */
export interface UnfitPart {
  entity: string;
  field: string;
  /** As people know it, such as “Kind of Enquiry”. */
  called: string;
  /** What it was and is: “was text, is integer”. */
  what: string;
  /** Intakes whose lines would be treated otherwise. */
  places: string[];
  /** What the lines would do then, in words, each once. */
  treated: string[];
}

/** Which fields that take other values than they did are brought something by lines that don't know of it. */
export function unfitParts(system: string, changed: readonly TakesOtherwise[], around: Around): UnfitPart[] {
  const parts: UnfitPart[] = [];
  for (const each of changed) {
    if (parts.length === MOST_TOLD) break;
    const entity = entityOf(around.schemas.get(system) ?? { entities: [] }, each.entity);
    const field = entity && fieldOf(entity, each.field);
    if (!entity || !field) continue;
    const fits = around.naming.intakes.map((intake) => ({
      name: intake.document.name,
      lines: fittedLines(system, each, intake, around.schemas),
    }));
    const touched = fits.filter(({ lines }) => lines.length > 0);
    if (touched.length === 0) continue;
    parts.push({
      ...{ entity: each.entity, field: each.field, called: `${field.label} of ${entity.label}` },
      what: describeTaking(each.was, field),
      places: touched.map(({ name }) => name),
      treated: [...new Set(touched.flatMap(({ lines }) => lines.map(({ is }) => inWords(is))))],
    });
  }
  return parts;
}

/** Everything that brings these fields something treats it as they take it by now: a step for each intake and field. */
export const fitSteps = (system: string, changed: readonly TakesOtherwise[], around: Around): ChangeStep[] =>
  changed.flatMap((each) =>
    around.naming.intakes.flatMap((intake): ChangeStep[] => {
      const lines = fittedLines(system, each, intake, around.schemas);
      const { id, document } = intake;
      if (lines.length === 0) return [];
      return [{ kind: 'fit', id, name: document.name, system, entity: each.entity, field: each.field, lines }];
    }),
  );

const inWords = (treatments: readonly Treatment[]): string =>
  treatments.length === 0 ? 'taken as it comes' : treatments.map(describeTreatment).join(', ');

function describeTaking(was: Field, is: Field): string {
  if (was.type !== is.type) return `was ${was.type}, is ${is.type}`;
  const limit = ({ maxLength, maxBytes }: Field): string =>
    maxBytes !== undefined ? `${maxBytes} bytes` : maxLength !== undefined ? `${maxLength} characters` : 'any length';
  return `took ${limit(was)}, takes ${limit(is)}`;
}

/** Lines of an intake, planned or live, that lead to the field, with the treatments that fit it by now. */
function fittedLines(
  system: string,
  { entity, field: name, was }: TakesOtherwise,
  { document, live }: { document: IntakeDocument; live?: IntakeDocument },
  schemas: ReadonlyMap<string, Schema>,
): FittedLine[] {
  const schema = schemas.get(system) ?? { entities: [] };
  const known = entityOf(schema, entity);
  const field = known && fieldOf(known, name);
  if (!field) return [];
  const of = ({ plan, fields, settings }: IntakeDocument): FittedLine[] => {
    const where: Where = {
      ...(settings.country ? { country: settings.country } : {}),
      ...(settings.locale ? { locale: settings.locale } : {}),
      calledBy: (related) => {
        const other = entityOf(schema, related);
        return other && calledBy(other);
      },
    };
    return plan.steps
      .filter((step) => step.system === system && step.entity === entity)
      .flatMap((step) =>
        standingLines(step).flatMap((line): FittedLine[] => {
          if (line.field !== name || line.from.length === 0) return [];
          const sources = line.from.flatMap((from) => fields.find((each) => each.name === from) ?? []);
          const usual = fitted(line, treatmentsFor(sources, was, where), treatmentsFor(sources, field, where));
          const is = takesLess(was, field) ? cutToFit(usual, field) : usual;
          return sameTreatments(line.treatments, is)
            ? []
            : [{ step: step.id, line: line.id, was: line.treatments, is }];
        }),
      );
  };
  const all = [document, ...(live ? [live] : [])].flatMap(of);
  // A draft mostly has the lines of what is live.
  return [...new Map(all.map((each) => [JSON.stringify(each), each])).values()];
}

/**
 * A line's treatments for the field as it is: what was usual for what it was goes, what is usual for what it is comes, and
 * what somebody set besides stays.
 */
function fitted(line: Line, before: readonly Treatment[], after: readonly Treatment[]): Treatment[] {
  // Whoever works a value out makes of it what they want.
  if (line.treatments.some(({ kind }) => kind === 'compute')) return line.treatments;
  const [gone, come] = [kindsOf(before), kindsOf(after)];
  const kept = line.treatments.filter(({ kind }) => !gone.has(kind) || come.has(kind));
  const has = kindsOf(kept);
  return [...kept, ...after.filter(({ kind }) => !has.has(kind) && !gone.has(kind))];
}

const kindsOf = (treatments: readonly Treatment[]): ReadonlySet<string> => new Set(treatments.map(({ kind }) => kind));

/** A text that may be longer than the field takes is cut; where something cuts it already, no longer than that. */
function cutToFit(treatments: Treatment[], field: Field): Treatment[] {
  const limit = field.maxBytes ?? field.maxLength;
  if (limit === undefined || (field.type !== 'text' && field.type !== 'long text')) return treatments;
  const unit = field.maxBytes === undefined ? 'characters' : 'bytes';
  const others = treatments.filter(({ kind }) => kind !== 'shorten');
  const held = treatments.find(({ kind }) => kind === 'shorten');
  if (held && (held.limit ?? 255) <= limit && (held.unit ?? 'characters') === unit) return treatments;
  return [...others, { kind: 'shorten', limit, unit }];
}
