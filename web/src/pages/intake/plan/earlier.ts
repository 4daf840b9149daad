import { fieldLabel, stepName, type Step } from '@zusammen/core/plans';
import { entityOf, type Field, type Schema } from '@zusammen/core/schema';
import type { Line } from '@zusammen/core/mapping';
import type { Item } from '../../../parts/combobox.tsx';

type Schemas = ReadonlyMap<string, Schema>;

/** "the Organisation", or "Postcode of the Organisation". */
export function earlierLabel(
  { step: id, field, row }: NonNullable<Line['fromStep']>,
  steps: readonly Step[],
  schemas: Schemas,
): string {
  const earlier = steps.find((each) => each.id === id);
  if (!earlier) return 'a step that is gone';
  const name = `${row ? 'first ' : ''}${stepName(earlier, steps, schemas)}`;
  return field === undefined ? `the ${name}` : `${fieldLabel(earlier, field, schemas)} of the ${name}`;
}

/** What earlier steps can give a field: their records where its relation leads to them, and their records' values. */
export function earlierItems(step: Step, field: Field | undefined, steps: readonly Step[], schemas: Schemas): Item[] {
  const before = steps.slice(
    0,
    steps.findIndex(({ id }) => id === step.id),
  );
  const reachable = before
    .filter(({ record }) => record?.by !== 'step')
    .map((earlier) => ({
      earlier,
      first: earlier.repeat !== undefined && earlier.repeat !== step.repeat,
      name: `${earlier.repeat !== undefined && earlier.repeat !== step.repeat ? 'first ' : ''}${stepName(earlier, steps, schemas)}`,
    }));
  const valueOf = (each: (typeof reachable)[number], name = ''): string =>
    `step ${each.earlier.id} ${each.first ? 'first' : 'same'} ${name}`;
  const records = reachable
    .filter(
      ({ earlier }) =>
        field?.type !== 'reference' || (earlier.entity === field.relation && earlier.system === step.system),
    )
    .map(
      (each): Item => ({
        value: valueOf(each),
        label: `the ${each.name}`,
        words: `the ${each.name} record id step`,
        note: 'its record',
        group: 'Of an earlier step',
      }),
    );
  if (field?.type === 'reference') return records;
  const values = reachable.flatMap((each) => {
    const { earlier, name } = each;
    const fields = entityOf(schemas.get(earlier.system) ?? { entities: [] }, earlier.entity)?.fields ?? [];
    return fields
      .filter(({ rights }) => rights !== 'none')
      .map(
        (of): Item => ({
          value: valueOf(each, of.name),
          label: `${of.label} of the ${name}`,
          words: `${of.label} ${of.name} ${name} step`,
          note: of.type,
          group: 'Of an earlier step',
        }),
      );
  });
  return [...values, ...records];
}

/** What an item of `earlierItems` stands for; undefined for any other item's value. */
export function earlierOf(value: string): Line['fromStep'] {
  const [kind, step, row, field] = value.split(' ');
  if (kind !== 'step' || step === undefined) return undefined;
  return { step, ...(field ? { field } : {}), ...(row === 'first' ? { row } : {}) };
}
