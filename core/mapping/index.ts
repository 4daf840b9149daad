export * from './line.ts';
export * from './prepare-line.ts';
export * from './suggest.ts';
export { describeTreatment, OptionPair, type TreatmentKind } from './treatments/index.ts';
export { jaroWinkler } from './words.ts';
export { titleOf } from './title.ts';
