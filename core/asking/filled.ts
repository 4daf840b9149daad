import { standingsOf, type HostedForm, type Item, type Reads } from '../forms/hosted/index.ts';
import { meaningsOf, tellingWords } from '../mapping/index.ts';
import type { Step } from '../plans/index.ts';
import { calledBy, entityOf, type Entity, type Field, type Schema } from '../schema/index.ts';

export interface Asking {
  schemas: ReadonlyMap<string, Schema>;
  newId: () => string;
}

/** What fills a field of a step's record. */
export type Filled =
  | { by: 'question'; item: Item; at: number }
  /** Of several questions, or one with more to it; or something that nobody is asked for. */
  | { by: 'questions' | 'otherwise' };

/** What fills each field of a step's record, by the field's name. `at` counts the form's questions from 1. */
export function filledBy(form: HostedForm, { lines }: Pick<Step, 'lines'>): ReadonlyMap<string, Filled> {
  const asked = new Map<string, { item: Item; at: number }>();
  for (const { item, name } of standingsOf(form)) if (name !== '') asked.set(name, { item, at: asked.size + 1 });
  const filled = new Map<string, Filled>();
  for (const { from, field } of lines) {
    const [only, ...more] = from;
    const question = only === undefined ? undefined : asked.get(only);
    if (question && more.length === 0) filled.set(field, { by: 'question', ...question });
    else filled.set(field, { by: from.some((name) => asked.has(name)) ? 'questions' : 'otherwise' });
  }
  return filled;
}

/** Records of the entity that a reference leads to, shown by what they are called by and what tells one from another. */
export function readsFor(system: string, schema: Schema, { relation }: Pick<Field, 'relation'>): Reads | undefined {
  const entity = relation === undefined ? undefined : entityOf(schema, relation);
  return entity?.rights.read ? readsOf(system, entity) : undefined;
}

export function readsOf(system: string, entity: Entity): Reads | undefined {
  const by = calledBy(entity);
  const shown = by ?? entity.fields.find(({ type, rights }) => type === 'text' && rights !== 'none')?.name;
  if (shown === undefined) return undefined;
  // Two of one name are told apart by where they are.
  const place = entity.fields.find(
    ({ name, label, rights }) => name !== shown && rights !== 'none' && [label, name].some((each) => isPlace(each)),
  );
  const shows = place ? [shown, place.name] : [shown];
  return { system, entity: entity.name, shows, letters: 3, order: [{ field: shown }] };
}

const isPlace = (text: string): boolean => meaningsOf(tellingWords(text))[0]?.meaning === 'city';
