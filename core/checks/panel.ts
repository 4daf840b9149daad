import { begunItems, fieldBegunWith, linkedEntities, say } from '../forms/hosted/index.ts';
import { conversionOf } from '../intake/index.ts';
import type { Line } from '../mapping/index.ts';
import { mayCreate, stepName } from '../plans/index.ts';
import { entityOf, fieldOf, isWritable } from '../schema/index.ts';
import type { Check, Finding } from './finding.ts';

/** Checks on forms that are opened with a record: by a signed link, or as a panel on the record's page. */

/** K14: a child of the record is made without the link to it, although the schema has a relation. */
export const childWithoutParent: Check = ({ intake, plan, schemas }) => {
  const link = intake?.form?.link;
  if (!link) return [];
  const entities = schemas.get(link.system) ?? { entities: [] };
  return plan.steps.flatMap((step) => {
    const child = step.system === link.system && mayCreate(step) ? entityOf(entities, step.entity) : undefined;
    if (!child || step.record) return [];
    return linkedEntities(link).flatMap(({ entity, into }): Finding[] => {
      const relations = child.fields.filter((field) => field.relation === entity && isWritable(field));
      const [field] = relations;
      const isLinked = relations.some(({ name }) => step.lines.some((line) => line.field === name));
      if (!field || isLinked) return [];
      const parent = entityOf(entities, entity)?.label ?? entity;
      const added: Line = {
        ...{ id: `parent-${step.id}-${field.name}`.slice(0, 64), from: [into], treatments: [], field: field.name },
        ...{ ifBoth: field.immutable ? 'new records only' : 'write', blankErases: false, origin: 'set' },
      };
      return [
        {
          ...{ id: 'K14', severity: 'look', place: { step: step.id, field: field.name } },
          sentence: `${stepName(step, plan.steps, schemas)} is not linked to the ${parent} that the form is opened with: nothing fills ${field.label}.`,
          mend: { label: `set ${field.label} to that ${parent}`, kind: 'add line', step: step.id, added },
        },
      ];
    });
  });
};

/** K27: a question begins with a field that the record doesn't have any more, or that can't be seen. */
export const begunGone: Check = ({ intake, schemas }) => {
  const form = intake?.form;
  if (!form?.link) return [];
  const { link } = form;
  const schema = schemas.get(link.system) ?? { entities: [] };
  const stops = (sentence: string, field?: string): Finding => ({
    ...{ id: 'K27', severity: 'stops', sentence },
    place: { station: 'arrive', ...(field === undefined ? {} : { field }) },
  });
  return linkedEntities(link).flatMap(({ entity: name }) => {
    const entity = entityOf(schema, name);
    if (!entity?.rights.read) return [stops(`The form is opened with a record of ${name}, which can’t be read.`)];
    return begunItems(form).flatMap((item): Finding[] => {
      const field = fieldBegunWith(item.begins, link, name);
      const found = field === undefined ? undefined : fieldOf(entity, field);
      if (field === undefined || (found && found.rights !== 'none')) return [];
      const label = say(item.label, form.languages[0]!, form.languages);
      return [
        stops(
          `“${label}” begins with “${field}” of the ${entity.label}, which isn’t there or can’t be seen.`,
          item.name,
        ),
      ];
    });
  });
};

/** K21: a panel that nobody can open, or that no page has shown yet. */
export const panelUnseen: Check = ({ intake, facts }) => {
  const conversion = intake && conversionOf(intake);
  const on = conversion?.panel ? conversion.system : intake?.form?.panel && intake.form.link?.system;
  if (on === undefined) return [];
  const place = { station: 'open' } as const;
  const system = facts?.systemNames?.[on] ?? 'its system';
  const findings: Finding[] = [];
  if (facts?.actingSystems && !facts.actingSystems.includes(on))
    findings.push({
      ...{ id: 'K21', severity: 'stops', place },
      sentence: `Nobody can open the panel: under Systems it isn’t said yet how people act as themselves in ${system}.`,
    });
  if ((intake?.settings.allowedOrigins ?? []).length === 0)
    findings.push({
      ...{ id: 'K21', severity: 'stops', place },
      sentence: 'Nobody can open the panel: no page is named that may show it.',
    });
  if (findings.length === 0 && facts?.published && facts.panelSeen === false)
    findings.push({
      ...{ id: 'K21', severity: 'look', place },
      sentence: 'No page of a record has shown the panel yet.',
    });
  return findings;
};
