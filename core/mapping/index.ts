export * from './line.ts';
export * from './prepare-line.ts';
export * from './suggest.ts';
export * from './suggestion.ts';
export { AUTOFILL, meaningsOf, type Meaning } from './lexicon.ts';
export {
  choicesOf,
  describeTreatment,
  freshTreatment,
  OptionPair,
  pairOptions,
  PARTS,
  settingsOf,
  treat,
  Treatment,
  treatmentGroups,
  withSetting,
  type Around,
  type Choices,
  type Question,
  type Setting,
  type TreatmentKind,
} from './treatments/index.ts';
export { jaroWinkler, tellingWords } from './words.ts';
export { titleOf } from './title.ts';
export * from './personal.ts';
export * from './lessons.ts';
