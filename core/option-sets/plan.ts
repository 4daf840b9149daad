import type { Complaint } from '../documents/index.ts';
import { isChosen } from '../definitions/index.ts';
import type { IntakeDocument } from '../intake/index.ts';
import type { Pairing } from '../pairing/index.ts';
import type { ChangeStep } from '../schema-changes/index.ts';
import { entityOf, fieldOf, type Field, type Option, type Schema } from '../schema/index.ts';
import { followOption, followPaired, type OptionMove } from './follow.ts';
import type { ComparedOptions, OptionChange } from './model.ts';

/** What there is that may name an option: drafts, and what is live of them. */
export interface Naming {
  intakes: readonly { id: string; document: IntakeDocument; live?: IntakeDocument }[];
  pairings: readonly { id: string; document: Pairing; live?: Pairing }[];
}

const keyOf = ({ system, entity, field }: ComparedOptions): string => JSON.stringify([system, entity, field]);

/** A field whose options can be compared. */
export function optionFieldOf(
  { system, entity: name, field: fieldName }: ComparedOptions,
  schemas: ReadonlyMap<string, Schema>,
): { field: Field; called: string; entity: string } | undefined {
  const entity = entityOf(schemas.get(system) ?? { entities: [] }, name);
  const field = entity && fieldOf(entity, fieldName);
  if (!field || !isChosen(field.type) || field.rights === 'none') return undefined;
  return { field, called: `${field.label} of ${entity.label}`, entity: entity.label };
}

/** What of some changes can't be done, each with its path. */
export function optionTrouble(changes: readonly OptionChange[], schemas: ReadonlyMap<string, Schema>): Complaint[] {
  const complaints: Complaint[] = [];
  const gone = new Set<string>();
  changes.forEach(({ kind, of, from, option }, at) => {
    const complain = (field: string, reason: string): void =>
      void complaints.push({ field: `changes.${at}.${field}`, reason });
    const known = optionFieldOf(of, schemas);
    if (!known) return complain('of', 'is no field with options that can be seen');
    const has = (value: string | undefined): boolean =>
      known.field.options?.some((each) => each.value === value) === true;
    if (kind === 'add') return has(option.value) ? complain('option', `is there already`) : undefined;
    if (!has(from)) return complain('from', `${known.called} has no such option`);
    if (from === option.value) return complain('option', 'is the option that would go');
    const key = `${keyOf(of)} ${from}`;
    if (gone.has(key)) complain('from', 'goes twice');
    gone.add(key);
  });
  changes.forEach(({ kind, of, option }, at) => {
    if (kind === 'join' && gone.has(`${keyOf(of)} ${option.value}`))
      complaints.push({ field: `changes.${at}.option`, reason: 'goes itself by another change' });
  });
  return complaints;
}

/**
 * What changes of options come to: options are added first, then whatever names one that goes names the other, then
 * records that hold it are changed, and it goes.
 */
export function stepsOfOptions(
  changes: readonly OptionChange[],
  schemas: ReadonlyMap<string, Schema>,
  naming: Naming,
): ChangeStep[] {
  const added = new Map<string, ChangeStep & { kind: 'options' }>();
  const joins: (ChangeStep & { kind: 'join' })[] = [];
  for (const { kind, of, from, option } of changes) {
    const known = optionFieldOf(of, schemas);
    if (!known) continue;
    const options = known.field.options ?? [];
    const { called } = known;
    const step = added.get(keyOf(of)) ?? { ...{ kind: 'options' as const, ...of, called }, options: [] };
    const isNew = ![...options, ...step.options].some(({ value }) => value === option.value);
    if (isNew) {
      step.options.push(bare(option));
      added.set(keyOf(of), step);
    }
    const gone = kind === 'join' ? options.find(({ value }) => value === from) : undefined;
    if (gone)
      joins.push({
        ...{ kind: 'join', ...of, called },
        from: gone,
        into: options.find(({ value }) => value === option.value) ?? bare(option),
      });
  }
  return [...added.values(), ...joins.flatMap((join) => [...followSteps(join, naming, schemas), join])];
}

const bare = ({ value, label }: Option): Option => ({ value, label });

/** Intakes and pairings that name an option which goes: they name the other from then on. */
export function followSteps(
  move: OptionMove & { called?: string },
  { intakes, pairings }: Naming,
  schemas: ReadonlyMap<string, Schema>,
): ChangeStep[] {
  const { system, entity, field, from, into, called } = move;
  const follow = {
    ...{ kind: 'follow' as const, system, entity, field, from, into },
    ...(called === undefined ? {} : { called }),
  };
  const all = <D>(document: D, live: D | undefined): D[] => (live === undefined ? [document] : [document, live]);
  const steps: (ChangeStep & { kind: 'follow' })[] = [
    ...intakes.map(({ id, document, live }) => ({
      ...{ ...follow, at: 'intake' as const, id, name: document.name },
      touched: all(document, live).flatMap((each) => followOption(each, move).touched),
    })),
    ...pairings.map(({ id, document, live }) => ({
      ...{ ...follow, at: 'pairing' as const, id, name: document.name },
      touched: all(document, live).flatMap((each) => followPaired(each, move, schemas).touched),
    })),
  ];
  return steps.flatMap((step) => (step.touched.length === 0 ? [] : [{ ...step, touched: [...new Set(step.touched)] }]));
}
