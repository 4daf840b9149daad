import type { PlanRun } from '../plans/index.ts';
import type { IntakeDocument } from './model.ts';

/** What an intake gives to every run of its plan. */
export const runOf = ({ plan, fields, settings }: IntakeDocument): Pick<PlanRun, 'plan' | 'fields' | 'zone'> => ({
  plan,
  fields,
  ...(settings.zone === undefined ? {} : { zone: settings.zone }),
});
