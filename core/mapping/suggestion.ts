import { fold } from '../values/index.ts';
import { tellingWords } from './words.ts';

export interface SourceField {
  name: string;
  label: string;
  type: string;
  required?: boolean;
  hidden?: boolean;
  multiple?: boolean;
  autocomplete?: string;
  options?: readonly (string | { value: string; label: string })[];
  placeholder?: string;
  /** The heading it stands under. */
  section?: string;
  maxLength?: number;
  /** Some of what was sent under its name; its shape tells what a bare text is. */
  samples?: readonly string[];
}

/** What specialists made of fields like this one before, in this workspace. */
export interface Learned {
  /** `learnedKey` of the form's field. */
  from: string;
  entity: string;
  field: string;
  accepted: number;
  rejected: number;
}

export interface TargetEntity {
  name: string;
  label: string;
  fields: readonly {
    name: string;
    label: string;
    type: string;
    required?: boolean;
    options?: readonly (string | { value: string; label: string })[];
  }[];
}

export interface SuggestedLine {
  from: string[];
  entity: string;
  field: string;
  /** Probability that the line is right, from 0 to 1. */
  confidence: number;
  /** `set` is put in place at once, `offered` waits for a yes. */
  standing: 'set' | 'offered';
  reasons: string[];
  /** What stands between the values of several fields that make one. */
  separator?: string;
  /** Only this part of what comes in goes there: one field on the form, two in the record. */
  part?: 'given' | 'family' | 'street' | 'number';
}

export { SET_FROM } from './reading/weights.ts';
/** Less likely lines aren't worth a look. */
export const OFFERED_FROM = 0.4;

/** The words by which a field is known again on another form. */
export function learnedKey({ name, label }: Pick<SourceField, 'name' | 'label'>): string {
  return (tellingWords(label).join(' ') || tellingWords(name).join(' ') || fold(name)).slice(0, 200);
}

/** Begins the reason of a line about somebody's consent, before the form's own words. */
export const AGREES = 'the visitor agrees to ';

/** What a visitor agrees to by the field of a suggested line, in the form's words; undefined where it is about no consent. */
export function wordingAgreedTo({ reasons }: { reasons?: readonly string[] | undefined }): string | undefined {
  const said = reasons?.find((reason) => reason.startsWith(AGREES));
  return said?.slice(AGREES.length);
}
