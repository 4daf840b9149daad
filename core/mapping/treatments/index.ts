import type { Field, Value } from '../../schema/index.ts';
import { tooLong, unreadable, type Reading } from '../../values/index.ts';
import type { Around, Choices, Setting, TreatContext } from './model.ts';
import { TREATMENT_GROUPS } from './model.ts';
import { TREATMENT_KINDS, TREATMENTS, type TreatmentKind } from './registry.ts';
import type { Treatment } from './treatment.ts';
import type { TreatmentDefinition } from './model.ts';

const definitionOf = (kind: TreatmentKind): TreatmentDefinition => TREATMENTS[kind];

/** The short text on a treatment's chip, e.g. "phone, from Germany". */
export const describeTreatment = (treatment: Treatment): string => definitionOf(treatment.kind).describe(treatment);

/** Treats one value; a value that can't be read comes back with the reason. */
export function treat(value: Value, treatment: Treatment, field: Field, context: TreatContext): Reading<Value> {
  const reading = definitionOf(treatment.kind).treat(value, treatment, field, context);
  const long = reading.ok && typeof reading.value === 'string' ? tooLong(reading.value, 'text') : undefined;
  return long === undefined ? reading : unreadable(long);
}

/** The treatments to choose from, those that go together under one heading. */
export const treatmentGroups = (): { group: string; kinds: { kind: TreatmentKind; name: string }[] }[] =>
  TREATMENT_GROUPS.map((group) => ({
    group,
    kinds: TREATMENT_KINDS.filter((kind) => definitionOf(kind).group === group).map((kind) => ({
      kind,
      name: definitionOf(kind).name,
    })),
  }));

/** A treatment as it starts out: with what the line, the form and the record already say. */
export const freshTreatment = (kind: TreatmentKind, around: Around): Treatment => ({
  kind,
  ...definitionOf(kind).fresh?.(around),
});

/** The settings of a kind of treatment, in the order in which they are shown. */
export const settingsOf = (kind: TreatmentKind): readonly Setting[] => definitionOf(kind).settings;

/** A treatment with one setting changed; '' and undefined take a setting away where blank is no value of it. */
export function withSetting(
  treatment: Treatment,
  setting: Exclude<Setting, { control: 'option pairs' }>,
  said: string,
): Treatment {
  const { [setting.name]: _, ...rest } = treatment;
  const set = (value: string | number): Treatment => ({ ...rest, [setting.name]: value }) as Treatment;
  switch (setting.control) {
    case 'choice':
      return said === '' ? (rest as Treatment) : set(said);
    case 'number': {
      if (said === '') return setting.otherwise === undefined ? (rest as Treatment) : set(setting.otherwise);
      return set(Math.max(1, Math.round(Number(said)) || 1));
    }
    case 'text': {
      // A currency is set once it is one; other texts may be any, also none.
      const text = setting.form === 'currency' ? said.toUpperCase().slice(0, 3) : said;
      return setting.form === 'currency' && text === '' ? (rest as Treatment) : set(text);
    }
    case 'expression':
      return set(said);
  }
}

/** What a choice offers; names of lists that whoever shows them has are given as they are. */
export function choicesOf(
  { choices }: Extract<Setting, { control: 'choice' }>,
  treatment: Treatment,
  around: Around,
): Choices | 'countries' | 'languages' {
  return typeof choices === 'function' ? choices(treatment, around) : choices;
}

export type * from './model.ts';
export { pairOptions } from './options.ts';
export { TREATMENT_KINDS, type TreatmentKind } from './registry.ts';
export * from './treatment.ts';
