import { describeCondition, outcomesOf } from '../expressions/index.ts';
import {
  isChoice,
  readAnswers,
  standingsOf,
  type HostedForm,
  type Item,
  type Reads,
  type Shown,
} from '../forms/hosted/index.ts';
import { entityOf, fieldOf, type Schema } from '../schema/index.ts';
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

/** Every question of a form that offers records, with what it is called in the form's first language. */
const readingIn = (form: HostedForm): { label: string; name: string; reads: Reads }[] =>
  standingsOf(form).flatMap(({ item, name }) =>
    item.reads ? [{ label: item.label[form.languages[0]!] ?? name, name, reads: item.reads }] : [],
  );

/** K29: anybody with the form's address is told what the system keeps, and may change what they choose. */
export const tellsRecords: Check = ({ intake, plan, schemas }) => {
  // Whoever has a signed link was sent it by name.
  if (!intake?.form || intake.form.link?.required) return [];
  return readingIn(intake.form).map(({ label, name, reads }): Finding => {
    const entity = entityOf(schemas.get(reads.system) ?? { entities: [] }, reads.entity);
    const called = (field: string, of = reads.entity): string => {
      const from = entityOf(schemas.get(reads.system) ?? { entities: [] }, of);
      return (from && fieldOf(from, field)?.label) ?? field;
    };
    const fills = (reads.fills ?? []).flatMap(({ field, of }) =>
      field === undefined ? [] : called(field, of?.entity),
    );
    const told = [...new Set([...reads.shows.map((field) => called(field)), ...fills])].join(', ');
    const ids = new Set([
      name,
      ...(reads.fills ?? []).flatMap(({ into, field }) => (field === undefined ? [into] : [])),
    ]);
    const changes = plan.steps.some(
      ({ record, whenOne }) => record?.field !== undefined && ids.has(record.field) && whenOne === 'update',
    );
    const sentence = `Anybody with the form’s address can look among ${entity?.label ?? reads.entity} records and is told ${told}${changes ? '; what is chosen can be changed by whoever chooses it' : ''}.`;
    return {
      id: 'K29',
      severity: 'look',
      place: { station: 'arrive', field: name },
      sentence: `“${label}”: ${sentence}`,
    };
  });
};

/** K27: what a question offers or fills isn't there any more, or can't be read. */
export const readsGone: Check = ({ intake, schemas }) => {
  if (!intake?.form) return [];
  return readingIn(intake.form).flatMap(({ label, name, reads }): Finding[] => {
    const schema = schemas.get(reads.system);
    if (!schema) return [];
    const gone = goneFrom(schema, reads);
    if (gone === undefined) return [];
    const place = { station: 'arrive' as const, field: name };
    return [{ id: 'K27', severity: 'stops', place, sentence: `“${label}” can’t be answered: ${gone}.` }];
  });
};

function goneFrom(
  schema: Schema,
  { entity: name, shows, by, where = [], order = [], fills = [] }: Reads,
): string | undefined {
  const entity = entityOf(schema, name);
  if (!entity) return `${name} can’t be seen in the system`;
  if (!entity.rights.read) return `${entity.label} records can’t be read with this connection`;
  const wanted: { of: string; field: string }[] = [
    ...[...shows, ...(by === undefined ? [] : [by])].map((field) => ({ of: name, field })),
    ...[...where, ...order].map(({ field }) => ({ of: name, field })),
    ...fills.flatMap(({ of, field }) => [
      ...(field === undefined ? [] : [{ of: of?.entity ?? name, field }]),
      ...(of ? [of.by, of.newest].map((each) => ({ of: of.entity, field: each })) : []),
    ]),
  ];
  for (const { of, field } of wanted) {
    const from = entityOf(schema, of);
    const found = from && fieldOf(from, field);
    if (!found) return `${from?.label ?? of} has no field “${field}”`;
    if (found.rights === 'none') return `${from.label}: ${found.label} can’t be read with this connection`;
  }
  return undefined;
}

/** K27: a field has got options since it was asked for, and nobody can choose them. */
export const optionsSince: Check = ({ intake, plan, schemas }) => {
  if (!intake?.form) return [];
  const first = intake.form.languages[0]!;
  return standingsOf(intake.form).flatMap(({ item, name }): Finding[] => {
    const known = new Set([...(item.known ?? []), ...(item.options ?? []).map(({ value }) => value)]);
    if (item.known === undefined) return [];
    const fields = plan.steps.flatMap(({ system, entity, lines }) =>
      lines.flatMap(({ from, field }) => {
        const of = entityOf(schemas.get(system) ?? { entities: [] }, entity);
        const found = from.length === 1 && from[0] === name && of ? fieldOf(of, field) : undefined;
        return found?.options ? [found] : [];
      }),
    );
    const since = fields.flatMap(({ options = [] }) => options.filter(({ value }) => !known.has(value)));
    const fresh = [...new Map(since.map((option) => [option.value, option])).values()].filter(
      ({ value }) => value !== '' && value.length <= MOST_VALUE,
    );
    if (fresh.length === 0) return [];
    const label = item.label[first] ?? name;
    const called = fresh.slice(0, 5).map((option) => `“${option.label || option.value}”`);
    const more = fresh.length > called.length ? ` and ${fresh.length - called.length} more` : '';
    return [
      {
        ...{ id: 'K27', severity: 'look', place: { station: 'arrive', field: name } },
        sentence: `“${label}”: ${fields[0]!.label} has got ${called.join(', ')}${more} since, which can’t be chosen here.`,
        mend: {
          ...{ kind: 'offer', label: fresh.length === 1 ? 'offer it' : 'offer them', item: item.id },
          options: fresh.map((option) => ({ value: option.value, label: { [first]: option.label || option.value } })),
        },
      },
    ];
  });
};
const MOST_VALUE = 200;

/** K27: what is to be paid goes through a service that isn't there any more, or is told an intake that takes nothing. */
export const feeGoesNowhere: Check = ({ intake, facts }) => {
  const fee = intake?.form?.fee;
  if (!fee) return [];
  const place = { station: 'arrive' as const };
  const findings: Finding[] = [];
  if (facts?.paymentServices && !facts.paymentServices.includes(fee.service))
    findings.push({
      ...{ id: 'K27', severity: 'stops', place },
      sentence: 'What is to be paid goes through a payment service that isn’t connected any more.',
    });
  if (fee.refunded !== undefined && facts?.openIntakes && !facts.openIntakes.includes(fee.refunded))
    findings.push({
      ...{ id: 'K27', severity: 'look', place },
      sentence: `What is paid back is sent to ${fee.refunded}, an intake that takes nothing at present.`,
    });
  return findings;
};

/** K24: what a question begins with is no answer to it. */
export const beginsWrong: Check = ({ intake }) => {
  if (!intake?.form) return [];
  const { languages } = intake.form;
  return standingsOf(intake.form).flatMap(({ item, name }): Finding[] => {
    if (item.begins?.with !== 'constant' || item.begins.value === '' || item.name === undefined) return [];
    const { shown: _, required: __, earliest: ___, latest: ____, ...alone } = item;
    const pages = [{ id: 'alone', items: [alone] }];
    const form = { ...intake.form!, pages };
    const value = isChoice(item.kind) ? [item.begins.value] : item.begins.value;
    const read = readAnswers(form, { [item.name]: value }, { language: languages[0]!, today: '2000-01-01' });
    if (read.ok) return [];
    const label = item.label[languages[0]!] ?? name;
    const sentence = `“${label}” begins with “${item.begins.value}”, which is no answer to it.`;
    return [{ id: 'K24', severity: 'stops', place: { station: 'arrive', field: name }, sentence }];
  });
};
