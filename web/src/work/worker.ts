import { check, type CheckInput, type Finding } from '@zusammen/core/checks';
import { suggestLines, type SourceField, type SuggestedLine, type TargetEntity } from '@zusammen/core/mapping';
import { expose } from 'comlink';

/** Heavier computation, off the main thread. */
const work = {
  suggest: (fields: SourceField[], entities: TargetEntity[]): SuggestedLine[] => suggestLines(fields, entities),
  check: (input: CheckInput): Finding[] => check(input),
};
export type Work = typeof work;

expose(work);
