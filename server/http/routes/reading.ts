import { INPUT_TYPES } from '@zusammen/core/forms';
import type { SourceField, TargetEntity } from '@zusammen/core/mapping';
import { learnedOf } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { ReadFormsBody, SuggestBody } from '@zusammen/core/api';
import { badField } from '../problem.ts';
import { route, type Route } from '../route.ts';

const PAGE_LIMIT = 6 * 1024 * 1024;
/** Fields that lines are suggested towards at once: some hundred entities. */
const MOST_TARGETS = 5_000;

const SUGGEST_LIMIT = 4 * 1024 * 1024;

/** Reading forms out of pages, and suggesting lines: computation only, nothing is kept. */
export const readingRoutes = ({ db, heavy }: Context): Route[] => [
  route({
    method: 'post',
    path: '/forms/read',
    summary: 'The forms of a page and their fields',
    role: 'viewer',
    body: ReadFormsBody,
    limit: PAGE_LIMIT,
    heavy: true,
    work: async ({ body, wanted }) => ({ forms: await heavy.run('readForms', { html: body.html }, wanted) }),
  }),
  route({
    method: 'post',
    path: '/mapping/suggest',
    summary: "Lines from a form's fields to records' fields",
    role: 'viewer',
    body: SuggestBody,
    limit: SUGGEST_LIMIT,
    heavy: true,
    work: async ({ body, wanted }) => {
      const most = body.entities.reduce((sum, { fields }) => sum + fields.length, 0);
      if (most > MOST_TARGETS) throw badField('entities', `have ${most} fields in all, more than ${MOST_TARGETS}`);
      const task = {
        fields: body.fields.map((field, at) => sourceField(field, `fields.${at}`)),
        entities: body.entities.map(
          (entity, at): TargetEntity => ({
            name: entity.name,
            label: entity.label ?? entity.name,
            fields: entity.fields.map((field, index) => sourceField(field, `entities.${at}.fields.${index}`)),
          }),
        ),
        learned: await learnedOf(db),
      };
      return { lines: await heavy.run('suggest', task, wanted) };
    },
  }),
  route({
    method: 'get',
    path: '/mapping/learned',
    summary: 'What was chosen and passed over before, which counts in suggestions',
    role: 'viewer',
    work: async () => ({ learned: await learnedOf(db) }),
  }),
];

/** Some of what was sent under a name, as texts. */
const samplesOf = (samples: unknown): string[] =>
  Array.isArray(samples) ? samples.filter((each) => typeof each === 'string').slice(0, 50) : [];

/** A field as somebody else describes it: only its name is needed, unknown types are taken as text. */
function sourceField(field: Record<string, unknown>, path: string): SourceField {
  const { name, label, type, required, options, autocomplete, samples } = field;
  if (typeof name !== 'string' || name === '' || name.length > 500)
    throw badField(`${path}.name`, 'must be a text of 1 to 500 characters');
  if (label !== undefined && typeof label !== 'string') throw badField(`${path}.label`, 'must be a text');
  if (options !== undefined && options !== null && !Array.isArray(options))
    throw badField(`${path}.options`, 'must be a list');
  const read: SourceField = {
    name,
    label: typeof label === 'string' && label !== '' ? label.slice(0, 2000) : name,
    type: typeof type === 'string' ? type : INPUT_TYPES[0],
    required: required === true,
  };
  if (typeof autocomplete === 'string') read.autocomplete = autocomplete;
  if (samplesOf(samples).length > 0) read.samples = samplesOf(samples);
  if (Array.isArray(options) && options.length > 0) {
    read.options = options.slice(0, 5000).flatMap((option: unknown): (string | { value: string; label: string })[] => {
      if (typeof option === 'string' || typeof option === 'number') return [String(option)];
      const { value, label: said } = (option ?? {}) as { value?: unknown; label?: unknown };
      return value === undefined ? [] : [{ value: String(value), label: String(said ?? value) }];
    });
  }
  return read;
}
