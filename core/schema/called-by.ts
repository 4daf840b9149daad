import { isWritable, type Entity } from './model.ts';

/** The field by which people call a record of an entity: one that is unique and a text, one named so, else the first needed text. */
export function calledBy(entity: Entity): string | undefined {
  const texts = entity.fields.filter(({ type, rights }) => rights !== 'none' && (type === 'text' || type === 'email'));
  const named = texts.find(({ name }) => ['name', 'title', 'label'].includes(name.toLowerCase()));
  const unique = texts.find((field) => field.unique && isWritable(field));
  return (named ?? unique ?? texts.find(({ required }) => required) ?? texts[0])?.name;
}
