import type { Entity, Field } from './model.ts';

/** The field in which a system notes when a record was last changed, by what it is called; undefined: none is seen. */
export const changedAtField = (entity: Entity): Field | undefined =>
  entity.fields.find((field) => field.type === 'date and time' && field.computed && CHANGED.test(said(field)));

/** The field in which a system notes when a record was made; undefined: none is seen. */
export const madeAtField = (entity: Entity): Field | undefined =>
  entity.fields.find(
    (field) =>
      field.type === 'date and time' &&
      (field.computed || field.defaulted || field.immutable) &&
      MADE.test(said(field)),
  );

const CHANGED = /chang|modif|updat|geändert|zmien/i;
const MADE = /creat|made|insert|added|enter|angelegt|erstellt|utworz/i;
const said = ({ name, label }: Field): string => `${name} ${label}`;
