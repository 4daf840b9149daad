import { compareArrivals, compareForms, inferFields, type FormField, type SubmittedValues } from '../forms/index.ts';
import { personalKindOf } from '../mapping/index.ts';
import { readNames } from '../plans/index.ts';
import { fieldOf } from '../schema/index.ts';
import type { Check, Finding, StepInput } from './finding.ts';

/** Checks on how submissions get here, and on where values about people go. */

/** K21: published, but nothing leads to it. */
export const unreachable: Check = ({ intake, facts }) => {
  if (!intake || !facts?.published || facts.everArrived !== false) return [];
  const { kind, page } = intake.source;
  const look = (sentence: string): Finding[] => [{ id: 'K21', severity: 'look', place: { station: 'open' }, sentence }];
  if (kind === 'events' && facts.secrets === 0)
    return look('No feed can send here yet: there is no key to sign events with.');
  if (kind === 'file' && facts.files === 0) return look('No file has been taken in yet, so nothing arrives.');
  if (kind === 'page' && page === undefined) return look('No page is known to lead here, and nothing has arrived.');
  return [];
};

/** K22: the page's form differs from the fields taken in, or what arrives does. */
export const formDrift: Check = ({ fields, plan, facts, intake }) => {
  const findings: Finding[] = [];
  if (facts?.pageFields) {
    const differences = compareForms(fields, facts.pageFields);
    const read = readNames({ fields, plan });
    const now = new Map(facts.pageFields.map((field) => [field.name, field]));
    for (const difference of differences) {
      // A field that nobody reads may go, and what a field is called changes nothing of its values.
      if (difference.kind === 'label' || difference.kind === 'details') continue;
      if (difference.kind === 'gone' && !read.has(difference.name)) continue;
      const fresh = now.get(difference.now ?? difference.name);
      const finding: Finding = {
        id: 'K22',
        severity: 'look',
        place: { station: 'arrive', field: difference.name },
        sentence: `The page has changed: ${difference.what}.`,
      };
      if (fresh)
        finding.mend = {
          label: 'take it in',
          kind: 'fields',
          fields: [fresh],
          ...(difference.kind === 'renamed' ? { renamed: { [difference.name]: difference.now! } } : {}),
        };
      findings.push(finding);
    }
  }
  // Of a form of ours nothing arrives but what its version asks.
  if (facts?.arrived && fields.length > 0 && !intake?.form && intake?.source.kind !== 'record')
    findings.push(...arrivalDrift(fields, facts.arrived));
  return findings;
};

function arrivalDrift(known: readonly FormField[], arrived: readonly SubmittedValues[]): Finding[] {
  const { unknown, missing } = compareArrivals(known, arrived);
  const findings: Finding[] = [];
  if (unknown.length > 0) {
    const names = unknown.slice(0, 3).map(({ name }) => `“${name}”`);
    const more = unknown.length > 3 ? ` and ${unknown.length - 3} more` : '';
    const wanted = new Set(unknown.map(({ name }) => name));
    findings.push({
      id: 'K22',
      severity: 'look',
      place: { station: 'arrive' },
      sentence: `${names.join(', ')}${more} ${unknown.length === 1 ? 'arrives and is no field' : 'arrive and are no fields'} of this intake; the values are kept and go nowhere.`,
      mend: {
        label: 'take them in',
        kind: 'fields',
        fields: inferFields(
          arrived.map((values) => Object.fromEntries(Object.entries(values).filter(([name]) => wanted.has(name)))),
        ).map((field): FormField => ({ ...field, required: false })),
      },
    });
  }
  for (const name of missing) {
    const label = known.find((field) => field.name === name)?.label ?? name;
    findings.push({
      id: 'K22',
      severity: 'look',
      place: { station: 'arrive', field: name },
      sentence: `${label} (“${name}”) has not come in any of the last ${arrived.length} submissions.`,
    });
  }
  return findings;
}

/** K29: anybody can send here. */
export const unprotected: Check = ({ intake, facts }) => {
  if (!intake) return [];
  const { kind, page } = intake.source;
  if (kind === 'file' || kind === 'record' || facts?.secrets === undefined || facts.secrets > 0) return [];
  if (intake.form) {
    // Only whoever is signed in on a record's page gets to it, or was sent a link.
    if (intake.form.link?.required) return [];
    const { trap, leastSeconds } = intake.form.guard;
    const sentence = 'Programs can fill it in as well as people: neither a trap nor a least time is set.';
    return trap || leastSeconds > 0 ? [] : [{ id: 'K29', severity: 'look', place: { station: 'open' }, sentence }];
  }
  const { allowedOrigins = [], hiddenOrigins } = intake.settings;
  if (allowedOrigins.length > 0 && kind === 'page')
    return hiddenOrigins
      ? [
          {
            id: 'K29',
            severity: 'look',
            place: { station: 'open' },
            sentence: 'Any page may send here that hides where it is: pages that do so are taken in.',
            mend: { label: 'only pages that say where they are', kind: 'settings', set: { hiddenOrigins: false } },
          },
        ]
      : [];
  const finding: Finding = {
    id: 'K29',
    severity: 'look',
    place: { station: 'open' },
    sentence:
      kind === 'page'
        ? 'Any page may send here: no origins are set.'
        : kind === 'events'
          ? 'Events are taken in unsigned: anybody who knows the address can send some.'
          : 'Anybody who knows the address can send here: nothing has to be signed.',
  };
  const origin = kind === 'page' ? originOf(page) : undefined;
  if (origin !== undefined)
    finding.mend = { label: `only pages of ${origin}`, kind: 'settings', set: { allowedOrigins: [origin] } };
  return [finding];
};

/** K29: any sender can read this field of records that are there already; K13: it is of a step that is gone. */
export const toldBack: Check = ({ intake, plan, schemas, facts }) =>
  (intake?.settings.told ?? []).flatMap(({ name, step: id, field }): Finding[] => {
    const step = plan.steps.find((each) => each.id === id);
    const place = { station: 'open' } as const;
    const entity = schemas.get(step?.system ?? '')?.entities.find((each) => each.name === step?.entity);
    if (!step || (field !== undefined && entity && !fieldOf(entity, field)))
      return [
        {
          id: 'K13',
          severity: 'stops',
          place,
          sentence: `The page is told “${name}” of ${step ? `a field that ${entity?.label ?? step.entity} doesn’t have` : 'a step that is no longer there'}.`,
        },
      ];
    const mayFind = step.record?.by === 'field' || step.recognise.length > 0;
    if (!mayFind || field === undefined || (facts?.secrets ?? 0) > 0) return [];
    const label = (entity && fieldOf(entity, field)?.label) ?? field;
    const sentence = `Whoever sends what a known ${entity?.label ?? step.entity} is recognised by is told its ${label}.`;
    return [{ id: 'K29', severity: 'look', place, sentence }];
  });

/** The origin of a page's address (RFC 6454); undefined when it is none. */
export function originOf(page: string | undefined): string | undefined {
  return /^(https?:\/\/[^/?#\s]+)/i.exec(page ?? '')?.[1]?.toLowerCase();
}

/** K30: values about people go to a system that isn't marked for them. */
export const personalValues = ({ step, entity, fields, facts }: StepInput): Finding[] => {
  if (!facts?.personalSystems || facts.personalSystems.includes(step.system)) return [];
  const personal = step.lines.flatMap((line) => {
    const sources = line.from.flatMap((name) => fields.find((field) => field.name === name) ?? []);
    return sources.some((field) => personalKindOf(field) !== undefined)
      ? [fieldOf(entity, line.field)?.label ?? line.field]
      : [];
  });
  if (personal.length === 0) return [];
  const more = personal.length > 1 ? ` and ${personal.length - 1} more` : '';
  const system = facts.systemNames?.[step.system] ?? 'the system';
  return [
    {
      id: 'K30',
      severity: 'look',
      place: { step: step.id },
      sentence: `${personal[0]}${more} hold values about people, and ${system} isn't marked for them.`,
    },
  ];
};
