import type { Field, Schema, Value, Values } from '../../schema/index.ts';
import type { Reading } from '../../values/index.ts';
import type { Treatment } from './treatment.ts';

/** The headings under which treatments are offered. */
export const TREATMENT_GROUPS = ['Texts', 'Parts', 'Kinds of value', 'Meaning'] as const;

/** A record looked for by the text in one of its fields. */
export interface Question {
  entity: string;
  by: string;
  text: string;
}

/** What a treatment may look at besides the value: the whole submission, and what was found in the system before. */
export interface TreatContext {
  values: Readonly<Values>;
  fields: readonly { name: string; multiple?: boolean; type?: string }[];
  /** Ids of the records that answer a question, at most two; undefined when nobody has asked the system yet. */
  answer: (question: Question) => readonly string[] | undefined;
}

/** A treatment is a plain function: the value and its settings in, the treated value or the reason against it out. */
export type Treat = (value: Value, settings: Treatment, field: Field, context: TreatContext) => Reading<Value>;

/** What is known where a treatment is made or its settings are shown. */
export interface Around {
  /** The record's field it leads to. */
  field: Field | undefined;
  /** The form's fields it comes from. */
  sources: readonly { name: string; type?: string; options?: readonly { value: string; label: string }[] }[];
  /** Where visitors dial from, and how they write. */
  settings: { country?: string; locale?: string };
  /** Of the system it leads to. */
  schema: Schema | undefined;
}

/** Settings that are texts; '' takes one of a choice away. */
export type TextSetting = {
  [Name in keyof Treatment]-?: Treatment[Name] extends string | undefined ? Name : never;
}[keyof Treatment];
export type Choices = readonly (readonly [value: string, shown: string])[];

/** How one setting is shown and changed: what an editor of any kind makes a control of. */
export type Setting =
  /** One of a few. `otherwise`: what stands where nothing is set. */
  | {
      control: 'choice';
      name: TextSetting;
      label: string;
      otherwise: string;
      choices: Choices | 'countries' | 'languages' | ((treatment: Treatment, around: Around) => Choices);
    }
  /** Any text; `form: 'currency'` is three capitals (ISO 4217). */
  | { control: 'text'; name: TextSetting; label: string; form?: 'currency' }
  /** A whole number from 1; blank stands for `otherwise`, or takes it away where there is none. */
  | { control: 'number'; name: 'part' | 'limit'; label: string; otherwise?: number }
  /** CEL over the form's fields. */
  | { control: 'expression'; name: 'expression'; label: string }
  /** Options of the form beside those of the record. */
  | { control: 'option pairs' };

/** All there is to know of a kind of treatment: how it is offered, set, described and done. */
export interface TreatmentDefinition {
  group: (typeof TREATMENT_GROUPS)[number];
  /** What it is called where one is chosen. */
  name: string;
  settings: readonly Setting[];
  /** The settings it starts out with: what the line, the form and the record already say. */
  fresh?(around: Around): Omit<Treatment, 'kind'>;
  /** The short text on its chip. */
  describe(settings: Treatment): string;
  treat: Treat;
}
