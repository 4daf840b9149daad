import { ValidateBy } from 'class-validator';

/** A text in the form's languages, by BCP 47. Where one is missing, the form's first language stands in for it. */
export type Texts = Record<string, string>;

export const MOST_LANGUAGES = 12;
/** What the rule is called where a JSON Schema is made of it. */
export const IS_TEXTS = 'isTexts';

/** Texts by language, each of at most so many characters. */
export function IsTexts(most: number): PropertyDecorator {
  const valid = (value: unknown): boolean =>
    typeof value === 'object' &&
    value !== null &&
    !Array.isArray(value) &&
    Object.keys(value).length <= MOST_LANGUAGES &&
    Object.entries(value).every(
      ([language, text]) => language.length <= 35 && typeof text === 'string' && text.length <= most,
    );
  return ValidateBy({
    name: IS_TEXTS,
    constraints: [most],
    validator: {
      validate: valid,
      defaultMessage: () => `$property must be texts by language, at most ${most} characters each`,
    },
  });
}
