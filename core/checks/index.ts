import { runOf, type IntakeDocument } from '../intake/index.ts';
import { formDrift, personalValues, toldBack, unprotected, unreachable } from './entry.ts';
import { stepsOf, type Check, type CheckInput, type Finding, type StepCheck } from './finding.ts';
import { writtenInVain } from './followed.ts';
import { blankKey, comparedByCase, thinEvidence, uniqueUnused, sameInSamples, weakKey } from './recognition.ts';
import {
  brokenExpression,
  brokenLookup,
  condition,
  entityRights,
  keyOfAllRows,
  keyWithoutLine,
  driftedApi,
  missingCapabilities,
  deletesByWeakKey,
  missingGroup,
  missingLink,
  sourceGone,
  stepReferences,
} from './structure.ts';
import {
  ambiguous,
  erasingBlank,
  invalidConstant,
  losses,
  overlong,
  replacedNotes,
  requiredField,
  severalToOne,
  textToReference,
  unconvertible,
  unwritable,
  writtenTwice,
} from './values.ts';
import { beginsWrong, feeGoesNowhere, neverShown, optionsSince, readsGone, tellsRecords } from './forms.ts';
import { begunGone, childWithoutParent, panelUnseen } from './panel.ts';
import { convertedGone } from './conversion.ts';
import { fieldNotCarried } from './one-field.ts';
import { unpairedOption, vanishedOption } from './options.ts';

/** Every check there is: a new one is a function and a line here. */
const CHECKS: Check[] = [
  entityRights,
  unreachable,
  formDrift,
  unprotected,
  toldBack,
  neverShown,
  tellsRecords,
  readsGone,
  optionsSince,
  feeGoesNowhere,
  beginsWrong,
  childWithoutParent,
  begunGone,
  panelUnseen,
  convertedGone,
  fieldNotCarried,
];
const STEP_CHECKS: StepCheck[] = [
  keyWithoutLine,
  keyOfAllRows,
  weakKey,
  sameInSamples,
  thinEvidence,
  blankKey,
  comparedByCase,
  uniqueUnused,
  stepReferences,
  missingLink,
  deletesByWeakKey,
  missingCapabilities,
  driftedApi,
  missingGroup,
  condition,
  sourceGone,
  brokenExpression,
  brokenLookup,
  requiredField,
  unpairedOption,
  vanishedOption,
  losses,
  overlong,
  replacedNotes,
  severalToOne,
  unconvertible,
  unwritable,
  textToReference,
  writtenTwice,
  erasingBlank,
  ambiguous,
  invalidConstant,
  personalValues,
  writtenInVain,
];

/** What checks are given of an intake. */
export const inputOf = (document: IntakeDocument): Pick<CheckInput, 'fields' | 'plan' | 'zone' | 'intake'> => ({
  ...runOf(document),
  fields: document.fields,
  intake: {
    source: document.source,
    settings: document.settings,
    ...(document.form ? { form: document.form } : {}),
  },
});

/** Runs all checks; findings that stop publishing come first. */
export function check(input: CheckInput): Finding[] {
  const steps = stepsOf(input);
  const findings = [
    ...CHECKS.flatMap((each) => each(input)),
    ...STEP_CHECKS.flatMap((each) => steps.flatMap((step) => each(step))),
  ];
  return findings.sort((a, b) => Number(a.severity === 'look') - Number(b.severity === 'look'));
}

export { mayNot, type MayNot } from './acting.ts';
export { originOf } from './entry.ts';
export type { Abilities, CheckInput, Facts, Finding, KeyFacts } from './finding.ts';
export { weakKeysOf } from './recognition.ts';
export { applyMend, type Mend } from './mend.ts';
export { checkPairing, type PairingInput } from './pairing.ts';
