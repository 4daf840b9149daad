import type { Check, CheckInput, Finding } from './finding.ts';
import { entityRights, keyWithoutLine } from './structure.ts';
import { invalidConstant, losses, requiredField, unconvertible, unpairedOption, unwritable } from './values.ts';

/** Every check there is: a new one is a function and a line here. */
const CHECKS: Check[] = [
  entityRights,
  keyWithoutLine,
  requiredField,
  unpairedOption,
  losses,
  unconvertible,
  unwritable,
  invalidConstant,
];

/** Runs all checks; findings that stop publishing come first. */
export function check(input: CheckInput): Finding[] {
  const findings = CHECKS.flatMap((each) => each(input));
  return findings.sort((a, b) => Number(a.severity === 'look') - Number(b.severity === 'look'));
}

export type { CheckInput, Finding } from './finding.ts';
