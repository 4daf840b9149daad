import { comparisonsFrom, conversionOf } from '../intake/index.ts';
import { readNames } from '../plans/index.ts';
import { entityOf, fieldOf } from '../schema/index.ts';
import type { Check, Finding } from './finding.ts';

/** K27: the records that are converted can't be read any more, or a field is gone that the plan or its start goes by. */
export const convertedGone: Check = ({ intake, fields, plan, schemas }) => {
  const conversion = intake && conversionOf(intake);
  if (!conversion) return [];
  const stops = (sentence: string, field?: string): Finding => ({
    ...{ id: 'K27', severity: 'stops', sentence },
    place: { station: field === undefined ? 'open' : 'arrive', ...(field === undefined ? {} : { field }) },
  });
  const entity = entityOf(schemas.get(conversion.system) ?? { entities: [] }, conversion.entity);
  if (!entity?.rights.read) return [stops(`The records of ${conversion.entity} that are converted can’t be read.`)];
  const isSeen = (name: string): boolean => (fieldOf(entity, name)?.rights ?? 'none') !== 'none';
  const read = readNames({ fields, plan });
  const gone = fields.filter(({ name, record }) => read.has(name) && record?.entity !== entity.name && !isSeen(name));
  const starting = (conversion.starts ?? []).filter(({ field }) => !isSeen(field));
  return [
    ...gone.map(({ name, label }) =>
      stops(`${label} of the ${entity.label} isn’t there any more, or can’t be seen.`, name),
    ),
    ...starting.map(({ field }) =>
      stops(`It starts by “${field}” of the ${entity.label}, which isn’t there or can’t be seen.`),
    ),
    ...(conversion.starts && comparisonsFrom(conversion.starts).length === 0
      ? [stops('It is to start by itself, and isn’t said when.')]
      : []),
  ];
};
