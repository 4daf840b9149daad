import { standingsOf, type HostedForm } from '../forms/hosted/index.ts';
import { conversionOf, type IntakeDocument } from '../intake/index.ts';
import type { Line, Treatment } from '../mapping/index.ts';
import { fieldAt, aroundOf, type Pairing, type PairLine } from '../pairing/index.ts';
import type { Step } from '../plans/index.ts';
import type { Schema } from '../schema/index.ts';

/** An option of a field that becomes another. */
export interface OptionMove {
  system: string;
  entity: string;
  field: string;
  from: { value: string; label: string };
  into: { value: string; label: string };
}

/**
 * Swaps one option for another wherever it is named, and notes where. Taken back, only what was noted is swapped again:
 * who named the other all along goes on naming it.
 */
class Swap {
  readonly touched: string[] = [];
  constructor(
    readonly move: OptionMove,
    private readonly noted?: ReadonlySet<string>,
  ) {}

  get back(): boolean {
    return this.noted !== undefined;
  }

  value<T extends string | undefined>(key: string, held: T): T {
    const { from, into } = this.move;
    if (this.noted) return this.noted.has(key) && held === into.value ? (from.value as T) : held;
    if (held !== from.value) return held;
    this.touched.push(key);
    return into.value as T;
  }

  /** Whether something that is added by it is to be there. */
  adds(key: string): boolean {
    if (!this.noted) this.touched.push(key);
    return !this.noted;
  }

  added(key: string): boolean {
    return this.noted?.has(key) === true;
  }
}

/** An intake's document in which an option of a record's field has become another; `noted`: taken back, where it was noted. */
export function followOption(
  document: IntakeDocument,
  move: OptionMove,
  noted?: ReadonlySet<string>,
): { document: IntakeDocument; touched: string[] } {
  const swap = new Swap(move, noted);
  const conversion = conversionOf(document);
  const reads = conversion?.system === move.system && conversion.entity === move.entity;
  const next: IntakeDocument = {
    ...document,
    plan: { ...document.plan, steps: document.plan.steps.map((step) => inStep(step, document, swap, reads)) },
  };
  if (reads) {
    next.fields = document.fields.map((field) =>
      field.name === move.field && field.options
        ? { ...field, options: field.options.map((option) => namedAnew(option, `field ${option.value}`, swap)) }
        : field,
    );
    const { starts } = document.source;
    if (starts)
      next.source = {
        ...document.source,
        starts: starts.map((part, at) =>
          part.field === move.field && part.value !== undefined
            ? { ...part, value: swap.value(`start ${at}`, part.value) }
            : part,
        ),
      };
  }
  if (document.form) next.form = inForm(document.form, document, swap);
  return { document: next, touched: swap.touched };
}

function namedAnew(option: { value: string; label: string }, key: string, swap: Swap) {
  const { from, into } = swap.move;
  const value = swap.value(swap.back ? `field ${from.value}` : key, option.value);
  return value === option.value ? option : { ...option, ...(swap.back ? from : into) };
}

function inStep(step: Step, document: IntakeDocument, swap: Swap, reads: boolean): Step {
  const { move } = swap;
  const writes = step.system === move.system && step.entity === move.entity;
  const lines = step.lines.map((line) => {
    let next = line;
    if (writes && line.field === move.field) next = written(next, step, document, swap);
    if (reads && line.from.includes(move.field)) next = readBy(next, step, swap);
    return next;
  });
  const { condition } = step;
  if (!reads || !condition) return { ...step, lines };
  const parts = condition.parts.map((part, at) =>
    part.field === move.field && part.value !== undefined
      ? { ...part, value: swap.value(`${step.id} when ${at}`, part.value) }
      : part,
  );
  return { ...step, lines, condition: { ...condition, parts } };
}

/** A line that writes the field names its options by what it sends. */
function written(line: Line, step: Step, document: IntakeDocument, swap: Swap): Line {
  const at = `${step.id} ${line.id}`;
  const next: Line = { ...line };
  if (line.constant !== undefined) next.constant = swap.value(`${at} constant`, line.constant);
  next.treatments = line.treatments.map((treatment, place) => {
    const changed: Treatment = { ...treatment };
    if (treatment.value !== undefined) changed.value = swap.value(`${at} ${place} value`, treatment.value);
    if (treatment.otherwise !== undefined)
      changed.otherwise = swap.value(`${at} ${place} otherwise`, treatment.otherwise);
    if (treatment.kind === 'options' && treatment.pairs)
      changed.pairs = treatment.pairs.map((pair) =>
        pair.to === undefined ? pair : { ...pair, to: swap.value(`${at} ${place} to ${pair.from}`, pair.to) },
      );
    return changed;
  });
  // What went through as it was is led to the other from now on.
  const key = `${at} led`;
  const { from, into } = swap.move;
  if (swap.added(key)) next.treatments = next.treatments.filter((each) => !isLead(each, swap.move));
  const sends = document.fields.some(
    ({ name, options }) => line.from.includes(name) && options?.some(({ value }) => value === from.value),
  );
  const pairs = line.treatments.some(({ kind }) => kind === 'options');
  if (!swap.back && sends && !pairs && swap.adds(key))
    next.treatments = [...next.treatments, { kind: 'options', pairs: [{ from: from.value, to: into.value }] }];
  return next;
}

const isLead = ({ kind, pairs }: Treatment, { from, into }: OptionMove): boolean =>
  kind === 'options' && pairs?.length === 1 && pairs[0]!.from === from.value && pairs[0]!.to === into.value;

/** A line that reads the field names its options by what comes in. */
const readBy = (line: Line, step: Step, swap: Swap): Line => ({
  ...line,
  treatments: line.treatments.map((treatment, place) =>
    treatment.kind === 'options' && treatment.pairs
      ? {
          ...treatment,
          pairs: treatment.pairs.map((pair) => {
            const key = `${step.id} ${line.id} ${place} from ${pair.to ?? ''}`;
            return { ...pair, from: swap.value(key, pair.from) };
          }),
        }
      : treatment,
  ),
});

/** What a form knows of the field's options, and by which of them it offers records. */
function inForm(form: HostedForm, document: IntakeDocument, swap: Swap): HostedForm {
  const { move } = swap;
  const feeding = new Set(
    document.plan.steps.flatMap((step) =>
      step.system === move.system && step.entity === move.entity
        ? step.lines.flatMap(({ field, from }) => (field === move.field ? from : []))
        : [],
    ),
  );
  const own = new Set(standingsOf(form).flatMap(({ item, name }) => (feeding.has(name) ? [item.id] : [])));
  const inItems = (items: HostedForm['pages'][number]['items']): typeof items =>
    items.map((item) => {
      const next = { ...item };
      if (own.has(item.id) && item.known)
        next.known = item.known.map((value) =>
          swap.value(`${item.id} known ${swap.back ? move.from.value : value}`, value),
        );
      if (item.reads?.where && item.reads.system === move.system && item.reads.entity === move.entity)
        next.reads = {
          ...item.reads,
          where: item.reads.where.map((part, at) =>
            part.field === move.field && part.value !== undefined
              ? { ...part, value: swap.value(`${item.id} where ${at}`, part.value) }
              : part,
          ),
        };
      if (item.items) next.items = inItems(item.items);
      return next;
    });
  return { ...form, pages: form.pages.map((page) => ({ ...page, items: inItems(page.items) })) };
}

/** A pairing in which an option of one of its sides has become another. */
export function followPaired(
  pairing: Pairing,
  move: OptionMove,
  schemas: ReadonlyMap<string, Schema>,
  noted?: ReadonlySet<string>,
): { pairing: Pairing; touched: string[] } {
  const swap = new Swap(move, noted);
  let next = pairing;
  for (const side of ['left', 'right'] as const) {
    if (pairing[side].system !== move.system || pairing[side].entity !== move.entity) continue;
    next = { ...next, lines: next.lines.map((line) => inPairLine(line, side, next, swap, schemas)) };
    const { condition } = next.alone[side];
    if (!condition) continue;
    const parts = condition.parts.map((part, at) =>
      part.field === move.field && part.value !== undefined
        ? { ...part, value: swap.value(`${side} alone ${at}`, part.value) }
        : part,
    );
    next = { ...next, alone: { ...next.alone, [side]: { ...next.alone[side], condition: { ...condition, parts } } } };
  }
  return { pairing: next, touched: swap.touched };
}

function inPairLine(
  line: PairLine,
  side: 'left' | 'right',
  pairing: Pairing,
  swap: Swap,
  schemas: ReadonlyMap<string, Schema>,
): PairLine {
  const { move } = swap;
  if (line[side].path.length !== 1 || line[side].path[0] !== move.field) return line;
  const other = side === 'left' ? 'right' : 'left';
  const pairs = line.options ?? [];
  const swapped = pairs.map((pair) => ({
    ...pair,
    [side]: swap.value(`${line.id} ${side} of ${pair[other]}`, pair[side]),
  }));
  const key = `${line.id} ${side} paired`;
  if (swap.added(key)) {
    const kept = swapped.filter((pair) => !(pair[side] === move.into.value && pair[other] === move.from.value));
    return withOptions(line, kept);
  }
  // Spelt alike on both sides so far, the two are paired from now on.
  const around = aroundOf(pairing, other, schemas);
  const there = around && fieldAt(line[other], around);
  const alike = there?.options?.some(({ value }) => value === move.from.value) === true;
  const free = !pairs.some((pair) => pair[side] === move.from.value || pair[other] === move.from.value);
  if (!swap.back && alike && free && swap.adds(key))
    swapped.push({ left: move.into.value, right: move.into.value, [other]: move.from.value });
  return withOptions(line, swapped);
}

function withOptions({ options: _, ...line }: PairLine, options: NonNullable<PairLine['options']>): PairLine {
  return options.length === 0 ? line : { ...line, options };
}
