import type { Response } from 'express';
import { wordsIn } from '@zusammen/core/forms/hosted';
import { element, type Markup } from '@zusammen/core/forms/hosted/view';
import { conversionOf, type IntakeDocument, type IntakeSettings } from '@zusammen/core/intake';
import { entityOf, type Schema, type Value } from '@zusammen/core/schema';
import { cameToAnEnd, toldOf } from '../../engine/index.ts';
import { pagesOfRecords, type Submission } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { addressIn, thanksPage, type PageOf } from './form-page.ts';
import { sealPaper } from './paper.ts';

/** What is said to somebody who has sent a form, and what came of it, where the intake says so. */

/** How long a page waits for the outcome, in milliseconds; then it looks again by itself, so often. */
const WAIT_MS = 2_500;
const LOOK_AGAIN_S = 3;
const MOST_LOOKS = 20;
const MOST_WORDS = 300;
const STOPPED = new Set(['asked', 'refused', 'failed', 'stopped']);

export interface Thanking {
  of: PageOf;
  document: Pick<IntakeDocument, 'form' | 'plan' | 'source'> & { settings: IntakeSettings };
  submission: Pick<Submission, 'id'>;
  /** It was sent from the page of a record, where what comes of it is awaited. */
  inPanel?: boolean;
  /** How often it was looked already. */
  looks: number;
  /** Where it is looked again: a path beside the page's, without its query. */
  path: string;
  query: Record<string, string>;
}

export async function sendThanks(context: Context, response: Response, thanking: Thanking): Promise<void> {
  const { of, submission, looks, path, query, inPanel = false } = thanking;
  const paper = new URLSearchParams({ s: sealPaper(context.sealer, submission.id), lang: of.language });
  const came = await (inPanel ? outcomeInPanel(context, thanking) : outcomeOf(context, thanking));
  if (came === 'not yet' && looks < MOST_LOOKS) {
    const again = new URLSearchParams({ ...query, looks: String(looks + 1) });
    response.set('Refresh', `${LOOK_AGAIN_S}; url=${path}?${again.toString()}`);
  }
  const still = inPanel ? [said(wordsIn(of.language).waitsHere)] : [];
  const outcome = typeof came === 'string' ? still : came;
  // Of a record that is converted nobody has filled anything in.
  const filled = conversionOf(thanking.document) ? {} : { paper: `filled?${paper.toString()}` };
  response.type('text/html').send(thanksPage(of, { ...filled, outcome }));
}

/** What came of it, as far as it is told; 'not yet' while that is to be waited for. */
async function outcomeOf(
  { db, live, systems }: Context,
  { of, document: { form, settings, plan }, submission, looks }: Thanking,
): Promise<Markup[] | 'not yet'> {
  const told = settings.told ?? [];
  if (told.length === 0 && form?.refusals === undefined) return [];
  const words = wordsIn(of.language);
  const end = await cameToAnEnd(db, submission.id, looks === 0 ? WAIT_MS : 0).catch(() => undefined);
  if (!end) return 'not yet';
  if (end.state === 'in review') return form?.refusals ? [said(words.refusedPolitely)] : [];
  if (end.state === 'refused' || end.state === 'failed') {
    if (!form?.refusals) return [];
    const stopped = (end.course?.steps ?? []).filter(({ outcome }) => outcome === 'refused' || outcome === 'failed');
    const told = stopped.flatMap(({ why }) => (why === undefined ? [] : [why]));
    if (form.refusals === 'sentence' || told.length === 0) return [said(words.refusedPolitely)];
    return [said(words.refusedBySystem), ...told.map((each) => element('p', {}, each.slice(0, MOST_WORDS)))];
  }
  if (end.state !== 'applied' || !end.course || told.length === 0) return [];
  const schemas = await live.allSchemas();
  const values = await toldOf({ settings }, end.course, systems, schemas).catch(() => undefined);
  if (!values) return [];
  const rows = told.flatMap(({ name, step, field }) => {
    const value = values[name];
    if (value === null || value === undefined || value === '') return [];
    return [element('dt', {}, labelOf(schemas, plan, step, field) ?? name), element('dd', {}, shown(value))];
  });
  return rows.length === 0 ? [] : [said(words.made), element('dl', { class: 'told' }, rows)];
}

/** What came of a panel, as those are told who work with the system: the records, or why there are none. */
async function outcomeInPanel(
  context: Context,
  { of, document, submission, looks }: Thanking,
): Promise<Markup[] | 'not yet'> {
  const { db, live } = context;
  const words = wordsIn(of.language);
  const again = conversionOf(document)
    ? ''
    : element('p', {}, element('a', { href: addressIn(of), class: 'more' }, words.anotherOne));
  const end = await cameToAnEnd(db, submission.id, looks === 0 ? WAIT_MS : 0).catch(() => undefined);
  if (!end) return 'not yet';
  const steps = end.course?.steps ?? [];
  if (end.state !== 'applied') {
    const why = steps.flatMap((step) => (step.why !== undefined && STOPPED.has(step.outcome) ? [step.why] : []));
    const told = why.map((each) => element('p', {}, each.slice(0, MOST_WORDS)));
    return end.state === 'in review' || told.length === 0
      ? [said(words.refusedPolitely), ...told, again]
      : [said(words.refusedBySystem), ...told, again];
  }
  const made = steps.filter(({ outcome, record }) => record && (outcome === 'created' || outcome === 'updated'));
  const schemas = await live.allSchemas();
  const pageOf = await pagesOfRecords(db);
  const rows = made.map(({ system, entity, record }) => {
    const label = entityOf(schemas.get(system) ?? { entities: [] }, entity)?.label ?? entity;
    const page = pageOf(system, entity, record!.id);
    return element(
      'li',
      {},
      `${label} `,
      page === undefined ? record!.id : element('a', { href: page, target: '_blank', rel: 'noopener' }, record!.id),
    );
  });
  const records = made.map(({ entity, record }) => ({ entity, id: record!.id }));
  return [
    ...(rows.length === 0 ? [] : [said(words.made), element('ul', { class: 'told' }, rows)]),
    // The page's script tells the page around it.
    element('p', { id: 'done', hidden: true, 'data-records': JSON.stringify(records) }),
    again,
  ];
}

const said = (text: string): Markup => element('p', { role: 'status' }, text);

const shown = (value: Value): string => [value].flat().map(String).join(', ').slice(0, MOST_WORDS);

/** What a value that is told is called: the field, or the entity whose id it is. */
function labelOf(
  schemas: ReadonlyMap<string, Schema>,
  { steps }: IntakeDocument['plan'],
  step: string,
  field: string | undefined,
): string | undefined {
  const found = steps.find(({ id }) => id === step);
  const entity = found && entityOf(schemas.get(found.system) ?? { entities: [] }, found.entity);
  return field === undefined ? entity?.label : entity?.fields.find(({ name }) => name === field)?.label;
}
