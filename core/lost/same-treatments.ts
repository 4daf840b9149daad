import type { Treatment } from '../mapping/index.ts';

/** Whether lines would treat a value alike: the same treatments in the same order, however each was written down. */
export const sameTreatments = (a: readonly Treatment[], b: readonly Treatment[]): boolean => written(a) === written(b);

const written = (treatments: readonly Treatment[]): string =>
  JSON.stringify(treatments.map((each) => Object.entries(each).sort(([x], [y]) => (x < y ? -1 : 1))));
