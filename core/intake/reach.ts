import {
  begunItems,
  fieldBegunWith,
  linkedEntities,
  say,
  standingsOf,
  type HostedForm,
} from '../forms/hosted/index.ts';
import { readNames, type Use } from '../plans/index.ts';
import { conversionOf } from './conversion.ts';
import type { IntakeDocument } from './model.ts';

/** A field of a record that an intake reads before its plan does anything. */
export type RecordsRead = Omit<Use, 'step' | 'reads' | 'how'> & {
  how: 'read by a form' | 'begins a question' | 'converted' | 'starts a conversion';
};

/** What an intake reads of records to be filled in: those that it converts, opens with, or offers to choose among. */
export function recordsRead(document: IntakeDocument): RecordsRead[] {
  return [...converted(document), ...(document.form ? ofForm(document.form) : [])];
}

function converted(document: IntakeDocument): RecordsRead[] {
  const conversion = conversionOf(document);
  if (!conversion) return [];
  const { system, entity, starts = [] } = conversion;
  const read = readNames(document);
  const at = { system, entity, from: [], treatments: [] };
  return [
    ...document.fields
      .filter(({ name }) => read.has(name))
      .map(({ name }) => ({ ...at, field: name, how: 'converted' as const })),
    ...[...new Set(starts.map(({ field }) => field))].map((field) => ({
      ...at,
      field,
      how: 'starts a conversion' as const,
    })),
  ];
}

function ofForm(form: HostedForm): RecordsRead[] {
  const { link, languages } = form;
  const labelOf = (item: { name?: string; label?: Record<string, string> }): string =>
    say(item.label, languages[0]!, languages) || (item.name ?? '');
  const begun = !link
    ? []
    : begunItems(form).flatMap((item) =>
        linkedEntities(link).flatMap(({ entity }): RecordsRead[] => {
          const field = fieldBegunWith(item.begins, link, entity);
          if (field === undefined) return [];
          return [
            { system: link.system, entity, field, how: 'begins a question', from: [labelOf(item)], treatments: [] },
          ];
        }),
      );
  const offered = standingsOf(form).flatMap(({ item }): RecordsRead[] => {
    const { reads } = item;
    if (!reads) return [];
    const { system, entity, shows, by, where = [], order = [], fills = [] } = reads;
    const at = { system, how: 'read by a form' as const, from: [labelOf(item)], treatments: [] };
    const own = [
      ...shows,
      ...(by === undefined ? [] : [by]),
      ...[...where, ...order].map(({ field }) => field),
      ...fills.flatMap(({ field, of }) => (field === undefined || of ? [] : [field])),
    ];
    const newest = fills.flatMap(({ field, of }) =>
      of ? [of.by, of.newest, ...(field === undefined ? [] : [field])].map((name) => [of.entity, name] as const) : [],
    );
    return [
      ...[...new Set(own)].map((field) => ({ ...at, entity, field })),
      ...newest.map(([leading, field]) => ({ ...at, entity: leading, field })),
    ];
  });
  return [...begun, ...offered];
}
