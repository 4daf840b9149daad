import { expressionOf, readExpression } from '../expressions/index.ts';
import { describeTreatment } from '../mapping/index.ts';
import type { Planned } from './model.ts';
import { recognitionOf, type Recognitions } from './recognise.ts';
import { firstRows, rowNamed } from './rows.ts';

/** One place that reads or writes a record's field. */
export interface Use {
  step: string;
  field: string;
  entity: string;
  system: string;
  how: 'written' | 'recognised by' | 'evidence' | 'looked up by';
  /** Names of the form's fields whose values come in, their labels, and what is done to them on the way. */
  reads: string[];
  from: string[];
  treatments: string[];
  ifBoth?: string;
  /** A suggestion nobody has accepted does nothing yet. */
  suggested?: true;
}

/** Everything a plan does with records' fields: lines, recognition and lookups. */
export function usesOf({ fields, plan }: Planned, recognitions: Recognitions = new Map()): Use[] {
  const labelOf = (name: string): string => fields.find((field) => field.name === name)?.label ?? name;
  return plan.steps.flatMap((step) => {
    const at = { step: step.id, system: step.system };
    const lines = step.lines.flatMap((line): Use[] => {
      const computed = line.treatments.flatMap(({ kind, expression }) =>
        kind === 'compute' ? readsOf(expression, fields) : [],
      );
      const reads = [...new Set([...line.from, ...computed])];
      const from = reads.map(labelOf);
      const treatments = line.treatments.map(describeTreatment);
      const use: Use = {
        ...at,
        entity: step.entity,
        field: line.field,
        how: 'written',
        reads,
        from,
        treatments,
        ifBoth: line.ifBoth,
        ...(line.origin === 'suggested' ? { suggested: true as const } : {}),
      };
      const lookups = line.treatments
        .filter(({ kind, entity, by }) => kind === 'lookup' && entity !== undefined && by !== undefined)
        .map(
          ({ entity, by }): Use => ({
            ...at,
            entity: entity!,
            field: by!,
            how: 'looked up by',
            reads,
            from,
            treatments: [],
          }),
        );
      return [use, ...lookups];
    });
    const keys = step.recognise.flatMap(({ fields }) =>
      fields.map(
        (field): Use => ({
          ...at,
          entity: step.entity,
          field,
          how: 'recognised by',
          reads: [],
          from: [],
          treatments: [],
        }),
      ),
    );
    const evidence = (step.evidence ? (recognitionOf(recognitions, step)?.parts ?? []) : []).map(
      ({ field }): Use => ({ ...at, entity: step.entity, field, how: 'evidence', reads: [], from: [], treatments: [] }),
    );
    return [...lines, ...keys, ...evidence];
  });
}

function readsOf(expression: string | undefined, fields: Planned['fields']): string[] {
  const read = readExpression(expression ?? '', fields);
  return read.ok ? read.reads : [];
}

/** Names of the form's fields that a plan reads anywhere: in lines, computed values and conditions. */
export function readNames({ fields, plan }: Planned): Set<string> {
  const names = new Set<string>();
  for (const step of plan.steps) {
    for (const line of step.lines) {
      for (const name of line.from) names.add(name);
      for (const { kind, expression } of line.treatments)
        if (kind === 'compute') for (const name of readsOf(expression, fields)) names.add(name);
    }
    for (const name of readsOf(expressionOf(step.condition, fields), fields)) names.add(name);
  }
  return names;
}

/** Fields of later rows that a step done once per row carries with the first one's lines. */
export function carriedRows(planned: Planned): Set<string> {
  const read = readNames(planned);
  const repeated = new Set(planned.plan.steps.flatMap(({ repeat }) => repeat ?? []));
  const first = new Set(firstRows(planned.fields).map(({ name }) => name));
  const carries = (group: string, name: string): boolean =>
    [...first].some((of) => {
      const [row, leads] = [rowNamed(group, name), rowNamed(group, of)];
      return row !== undefined && leads !== undefined && row.rest === leads.rest && read.has(of);
    });
  return new Set(
    planned.fields.flatMap(({ name, group }) =>
      group !== undefined && repeated.has(group) && !first.has(name) && carries(group, name) ? [name] : [],
    ),
  );
}

/** Fields that visitors fill in and that go nowhere: no line, computed value or condition reads them. */
export function unusedFields(planned: Planned): Planned['fields'] {
  const read = readNames(planned);
  return firstRows(planned.fields).filter(({ name, hidden }) => hidden !== true && !read.has(name));
}
