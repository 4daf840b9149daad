import { notCarriedBy, notPairedBy, type FieldFamily } from '../one-field/index.ts';
import type { Pairing } from '../pairing/index.ts';
import type { Schema } from '../schema/index.ts';
import type { Check, Finding } from './finding.ts';

/** K21: what was made one field in several places is in two of them here, and nothing carries it from one to the other. */
export const fieldNotCarried: Check = ({ intake, fields, plan, schemas, facts }) => {
  if (!intake || !facts?.families) return [];
  const document = { source: intake.source, settings: intake.settings, fields, plan };
  return notCarriedBy(document, facts.families, schemas).map(
    ({ label, from, to, step, field, carried }): Finding => ({
      ...{ id: 'K21', severity: 'look', place: { ...(step === undefined ? {} : { step }), field } },
      sentence: `${label} is one field in ${from} and ${to}, and nothing carries it on to ${to} here.`,
      ...(carried ? { mend: { label: 'carry it on', kind: 'carry', lines: [carried] } } : {}),
    }),
  );
};

/** The same, of the two sides of a pairing. */
export const fieldNotPaired = (
  pairing: Pairing,
  families: readonly FieldFamily[],
  schemas: ReadonlyMap<string, Schema>,
): Finding[] =>
  notPairedBy(pairing, families, schemas).map(({ label, from, to }) => ({
    ...{ id: 'K21', severity: 'look', place: {} },
    sentence: `${label} is one field in ${from} and ${to}, and this pairing doesn’t keep it in step.`,
  }));
