import { withNamesIn, withNamesInCondition } from '../expressions/index.ts';
import type { HostedForm, Reads } from '../forms/hosted/index.ts';
import { conversionOf, type IntakeDocument } from '../intake/index.ts';
import type { Line } from '../mapping/index.ts';
import type { FieldHistory, Pairing, Place } from '../pairing/index.ts';
import { withNames, type Step } from '../plans/index.ts';
import type { Recognition } from '../recognition/index.ts';
import { entityOf, fieldOf, type Schema } from '../schema/index.ts';

/** A field of a system's records that has another name by now. */
export interface FieldMove {
  system: string;
  entity: string;
  was: string;
  is: string;
}

/**
 * An intake's document in which a record's field goes by its new name, wherever it is read or written: in lines, keys,
 * lookups, conversions and what a form reads, and in expressions over what is converted.
 */
export function followRename(document: IntakeDocument, move: FieldMove): IntakeDocument {
  const { system, entity, was, is } = move;
  const now = (name: string): string => (name === was ? is : name);
  const conversion = conversionOf(document);
  const converts = conversion?.system === system && conversion.entity === entity;
  const own = new Set(
    document.plan.steps.filter((step) => step.system === system && step.entity === entity).map(({ id }) => id),
  );
  const steps = document.plan.steps.map((step) => {
    const next = converts ? withNames(step, now) : step;
    return { ...inStep(next, own, move), lines: next.lines.map((line) => inLine(line, next, own, move)) };
  });
  const next: IntakeDocument = { ...document, plan: { ...document.plan, steps } };
  if (converts) {
    next.fields = document.fields.map((field) => (field.name === was ? { ...field, name: is } : field));
    const { starts } = document.source;
    if (starts)
      next.source = { ...document.source, starts: starts.map((part) => ({ ...part, field: now(part.field) })) };
  }
  const { told } = document.settings;
  if (told)
    next.settings = {
      ...document.settings,
      told: told.map((each) => (own.has(each.step) && each.field === was ? { ...each, field: is } : each)),
    };
  if (document.form) next.form = inForm(document.form, move);
  return next;
}

/** Keys by which a step's record is recognised. */
function inStep(step: Step, own: ReadonlySet<string>, { was, is }: FieldMove): Step {
  if (!own.has(step.id)) return step;
  return {
    ...step,
    recognise: step.recognise.map((key) => ({
      ...key,
      fields: key.fields.map((field) => (field === was ? is : field)),
    })),
  };
}

function inLine(line: Line, step: Step, own: ReadonlySet<string>, { system, entity, was, is }: FieldMove): Line {
  const next: Line = { ...line };
  if (own.has(step.id) && line.field === was) next.field = is;
  if (line.fromStep?.field === was && own.has(line.fromStep.step)) next.fromStep = { ...line.fromStep, field: is };
  if (step.system === system)
    next.treatments = line.treatments.map((treatment) =>
      treatment.kind === 'lookup' && treatment.entity === entity && treatment.by === was
        ? { ...treatment, by: is }
        : treatment,
    );
  return next;
}

/** What a form reads of records, and begins with. */
function inForm(form: HostedForm, move: FieldMove): HostedForm {
  const { system, entity, was, is } = move;
  const linked = form.link?.system === system ? form.link : undefined;
  const inItems = (items: HostedForm['pages'][number]['items']): typeof items =>
    items.map((item) => {
      const next = { ...item };
      if (item.reads) next.reads = inReads(item.reads, move);
      if (item.items) next.items = inItems(item.items);
      if (linked && item.begins?.with === 'record') {
        const { begins } = item;
        next.begins = { ...begins };
        if (linked.entity === entity && begins.value === was) next.begins.value = is;
        if (begins.others)
          next.begins.others = begins.others.map((each) =>
            each.entity === entity && each.field === was ? { ...each, field: is } : each,
          );
      }
      return next;
    });
  return { ...form, pages: form.pages.map((page) => ({ ...page, items: inItems(page.items) })) };
}

function inReads(reads: Reads, { system, entity, was, is }: FieldMove): Reads {
  if (reads.system !== system) return reads;
  const now = (name: string): string => (name === was ? is : name);
  const own = reads.entity === entity;
  const next: Reads = { ...reads };
  if (own) {
    next.shows = reads.shows.map(now);
    if (reads.by !== undefined) next.by = now(reads.by);
    if (reads.where) next.where = reads.where.map((part) => ({ ...part, field: now(part.field) }));
    if (reads.order) next.order = reads.order.map((part) => ({ ...part, field: now(part.field) }));
  }
  if (reads.fills)
    next.fills = reads.fills.map((fill) => {
      const { of, field } = fill;
      const from = of ? of.entity : reads.entity;
      if (from !== entity) return fill;
      return {
        ...fill,
        ...(field === undefined ? {} : { field: now(field) }),
        ...(of ? { of: { ...of, by: now(of.by), newest: now(of.newest) } } : {}),
      };
    });
  return next;
}

/** A pairing in which a field of one of its sides, or of what a relation leads to, goes by its new name. @param schemas as they are now */
export function followRenamePaired(pairing: Pairing, move: FieldMove, schemas: ReadonlyMap<string, Schema>): Pairing {
  const path = (names: readonly string[], side: 'left' | 'right'): string[] => {
    if (pairing[side].system !== move.system) return [...names];
    const schema = schemas.get(move.system) ?? { entities: [] };
    let at: string | undefined = pairing[side].entity;
    return names.map((name) => {
      const next = at === move.entity && name === move.was ? move.is : name;
      const entity = at === undefined ? undefined : entityOf(schema, at);
      at = (entity && fieldOf(entity, next))?.relation;
      return next;
    });
  };
  const on = (side: 'left' | 'right'): boolean =>
    pairing[side].system === move.system && pairing[side].entity === move.entity;
  const now = (side: 'left' | 'right') => (name: string) => (on(side) && name === move.was ? move.is : name);
  const place = (held: Place, side: 'left' | 'right'): Place => ({
    ...held,
    path: path(held.path, side),
    ...(held.compute === undefined ? {} : { compute: withNamesIn(held.compute, now(side)) }),
  });
  const next: Pairing = {
    ...pairing,
    matches: pairing.matches.map((match) => ({
      ...match,
      parts: match.parts.map((part) => ({ ...part, left: path(part.left, 'left'), right: path(part.right, 'right') })),
    })),
    lines: pairing.lines.map((line) => ({
      ...line,
      left: place(line.left, 'left'),
      right: place(line.right, 'right'),
    })),
    onlyLeft: pairing.onlyLeft.map(now('left')),
    onlyRight: pairing.onlyRight.map(now('right')),
  };
  next.alone = { ...pairing.alone };
  for (const side of ['left', 'right'] as const) {
    const { condition } = pairing.alone[side];
    if (condition && on(side))
      next.alone[side] = {
        ...pairing.alone[side],
        condition: withNamesInCondition(condition, now(side)),
      };
  }
  for (const [name, side] of [
    ['leftHistory', 'left'],
    ['rightHistory', 'right'],
  ] as const) {
    const history = pairing[name];
    if (history && pairing[side].system === move.system && history.entity === move.entity)
      next[name] = inHistory(history, move);
  }
  return next;
}

function inHistory(history: FieldHistory, { was, is }: FieldMove): FieldHistory {
  const now = (name: string): string => (name === was ? is : name);
  return { ...history, record: now(history.record), field: now(history.field), at: now(history.at) };
}

/** How records are recognised, with a field that goes by its new name. */
export const followRenameRecognised = (recognition: Recognition, { was, is }: FieldMove): Recognition => ({
  ...recognition,
  parts: recognition.parts.map((part) => (part.field === was ? { ...part, field: is } : part)),
});
