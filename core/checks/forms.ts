import { describeCondition, outcomesOf } from '../expressions/index.ts';
import type { HostedForm, Item, Shown } from '../forms/hosted/index.ts';
import type { Check, Finding } from './finding.ts';

/** Checks on forms of ours. What makes one none at all is refused when its draft is kept (core/forms/hosted). */

/** K25: a question that is never shown, or whose condition holds whatever is chosen. */
export const neverShown: Check = ({ intake, fields }) => {
  if (!intake?.form) return [];
  return conditionsIn(intake.form).flatMap(({ label, name, shown }): Finding[] => {
    const outcomes = outcomesOf(shown, fields);
    if (!outcomes || (outcomes.ever && !outcomes.always)) return [];
    const said = describeCondition(shown, (field) => fields.find((each) => each.name === field)?.label ?? field);
    const sentence = outcomes.ever
      ? `“${label}” is always shown: “${said}” holds whatever is chosen.`
      : `“${label}” is never shown: “${said}” can never hold.`;
    const place = { station: 'arrive' as const, ...(name === undefined ? {} : { field: name }) };
    return [{ id: 'K25', severity: 'look', place, sentence }];
  });
};

/** Everything that is shown under a condition, by what it is called in the form's first language. */
function conditionsIn({ pages, languages }: HostedForm): { label: string; name: string | undefined; shown: Shown }[] {
  const first = languages[0]!;
  const within = (items: readonly Item[]): ReturnType<typeof conditionsIn> =>
    items.flatMap(({ label, name, shown, items: inside = [] }) => [
      ...(shown ? [{ label: label[first] ?? name ?? '', name, shown }] : []),
      ...within(inside),
    ]);
  return pages.flatMap(({ title, shown, items }) => [
    ...(shown ? [{ label: title?.[first] ?? 'A page', name: undefined, shown }] : []),
    ...within(items),
  ]);
}
