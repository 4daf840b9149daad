export * from './line.ts';
export * from './prepare-line.ts';
export * from './suggest.ts';
export { meaningsOf, type Meaning } from './lexicon.ts';
export { describeTreatment, OptionPair, PARTS, type Question, type TreatmentKind } from './treatments/index.ts';
export { jaroWinkler, tellingWords } from './words.ts';
export { titleOf } from './title.ts';
export * from './personal.ts';
export * from './lessons.ts';
