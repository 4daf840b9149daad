import { textsSaid, type SubmittedValues } from '@zusammen/core/forms';
import { weakKeysOf } from '@zusammen/core/checks';
import type { Learned } from '@zusammen/core/mapping';
import type { IntakeDocument } from '@zusammen/core/intake';
import type { RankedEntity, Step, SuggestInput } from '@zusammen/core/plans';
import { calledBy, type Schema } from '@zusammen/core/schema';
import { useMemo } from 'react';
import { useLearned } from '../../../api/hooks.ts';
import { worker } from '../../../work/index.ts';
import { useDraft } from '../draft.tsx';

const NOTHING_LEARNED: Learned[] = [];

/** How the lines of a document are prepared: how visitors write, and by what records of an entity are called. */
export function whereOf(document: IntakeDocument, schema: Schema | undefined) {
  return {
    ...document.settings,
    calledBy: (name: string): string | undefined => {
      const entity = schema?.entities.find((each) => each.name === name);
      return entity && calledBy(entity);
    },
  };
}

/** The entities that something may be made of: a record that is converted becomes others. */
function withoutConverted(schemas: ReadonlyMap<string, Schema>, { system, entity }: IntakeDocument['source']) {
  if (system === undefined) return schemas;
  return new Map(
    [...schemas].map(([id, schema]) => [
      id,
      id === system ? { ...schema, entities: schema.entities.filter(({ name }) => name !== entity) } : schema,
    ]),
  );
}

/** What a system notes of a converted record by itself, such as who changed it: it may be used, and isn't suggested. */
function keptBySystem(schemas: ReadonlyMap<string, Schema>, { system, entity }: IntakeDocument['source']): Set<string> {
  const found = schemas.get(system ?? '')?.entities.find(({ name }) => name === entity);
  return new Set(found?.fields.filter(({ computed }) => computed).map(({ name }) => name));
}

/** Of a converted record's fields those that don't name records which the plan makes itself: these refer to the step. */
const withoutMade = <I extends Pick<SuggestInput, 'fields'>>(input: I, steps: readonly Step[]): I => ({
  ...input,
  fields: input.fields.filter(
    ({ record, typed }) =>
      !typed || !record || !steps.some(({ system, entity }) => system === record.system && entity === record.entity),
  ),
});

/** Some of what samples brought under a name. */
const saidUnder = (name: string, samples: readonly { values: SubmittedValues }[]): string[] =>
  samples.slice(0, 30).flatMap(({ values }) => textsSaid(values[name]));

export interface Suggest {
  /** The plan's steps with a new one in its place, lines and links suggested. */
  withStep: (steps: readonly Step[], fresh: Step) => Promise<Step[]>;
  /** The plan's steps, with lines for what one of them leaves open. */
  rest: (steps: readonly Step[], only: string) => Promise<Step[]>;
  /** The entities a form may be about, the likeliest first. */
  rank: () => Promise<RankedEntity[]>;
  /** The plan that the form speaks of. */
  propose: () => Promise<Step[]>;
  /** Steps on these entities, suggested for one another. */
  stepsFor: (about: Pick<Step, 'system' | 'entity'>[]) => Promise<Step[]>;
}

/** Suggests for the plan as a whole; computed off the main thread. */
export function useSuggest(): Suggest {
  const learned = useLearned().data ?? NOTHING_LEARNED;
  const { document, samples, schemas, facts } = useDraft();
  const { fields, settings, source } = document;
  return useMemo(() => {
    // What is made up tells nothing of what visitors write.
    const sent = samples.filter(({ madeUp }) => !madeUp);
    const kept = keptBySystem(schemas, source);
    const inputFor = (steps: readonly Step[]): Omit<SuggestInput, 'newId'> => ({
      fields: fields
        .filter(({ name }) => !kept.has(name))
        .map((field) => ({ ...field, samples: saidUnder(field.name, sent) })),
      steps,
      schemas,
      learned,
      where: settings,
      weakKeys: weakKeysOf(facts ?? {}),
    });
    // On the record that is converted itself only what is made of it has to be noted: it has its own values already.
    const forStep = (steps: readonly Step[], step: Step | undefined) => {
      const input = inputFor(steps);
      const isOwn = step?.record?.by === 'field' && step.system === source.system && step.entity === source.entity;
      if (isOwn) return { ...input, fields: [] };
      return step ? withoutMade(input, [...steps, step]) : input;
    };
    return {
      rank: () => worker().rank(inputFor([])),
      propose: () => {
        const input = { ...inputFor([]), schemas: withoutConverted(schemas, source) };
        const plain = input.fields.filter(({ record, typed }) => !typed || !record);
        return worker().propose({ ...input, fields: plain });
      },
      stepsFor: (about) => worker().stepsFor(inputFor([]), about),
      withStep: (steps, fresh) => worker().withStep(forStep(steps, fresh), fresh),
      rest: (steps, only) =>
        worker().suggestSteps(
          forStep(
            steps,
            steps.find(({ id }) => id === only),
          ),
          only,
        ),
    };
  }, [fields, settings, source, samples, schemas, learned, facts]);
}
