import type { Request, Response } from 'express';
import { say, wordsIn, type Words } from '@zusammen/core/forms/hosted';
import { element, type Markup } from '@zusammen/core/forms/hosted/view';
import { conversionOf, valuesOfRecord } from '@zusammen/core/intake';
import type { StepReport } from '@zusammen/core/plans';
import { entityOf, type Schema, type Value } from '@zusammen/core/schema';
import { convertedEntity, convertRecords, rehearse } from '../../engine/index.ts';
import type { Systems } from '../../systems/index.ts';
import type { Context } from '../context.ts';
import { Problem } from '../problem.ts';
import { asPage, pageOf, type LiveForm } from './answering.ts';
import { addressIn, plainFormPage, thanksPage } from './form-page.ts';
import { sealPaper } from './paper.ts';
import type { ActingIn } from './reading.ts';

/** A conversion on the page of its record: what would come of it for whoever is signed in there, and a button. */

/** The record's values go into so many fields that are shown; the others are counted. */
const MOST_SHOWN = 40;
const MOST_WORDS = 300;

/** @throws SystemTrouble */
export async function conversionPage(
  context: Context,
  of: LiveForm,
  acting: ActingIn,
  about: readonly Markup[],
): Promise<string> {
  const { live, heavy, systems, formReading } = context;
  const words = wordsIn(of.language);
  const { document } = of.live;
  const conversion = conversionOf(document)!;
  const entity = await convertedEntity(live, conversion);
  const record = await formReading.as(acting).opened(conversion, conversion.entity, of.panel!.record);
  const values = valuesOfRecord(document.fields, entity, record);
  const own: Pick<Systems, 'client'> = {
    client: (id) => (id === acting.system ? systems.client(id, acting) : systems.client(id)),
  };
  const [rehearsed] = await rehearse({ heavy, systems: own, live }, document, [values], { by: acting.person });
  const schemas = await live.allSchemas();
  const steps = rehearsed?.course?.steps ?? [];
  const told =
    rehearsed?.trouble !== undefined || steps.length === 0
      ? [element('p', { role: 'alert', class: 'refused' }, rehearsed?.trouble ?? words.notLookedUp)]
      : [element('p', {}, words.wouldCome), ...steps.map((step) => stepTold(step, steps, schemas, words))];
  const button = element(
    'form',
    { method: 'post', action: addressIn(pageOf(of)) },
    element('p', { class: 'send' }, element('button', { type: 'submit', class: 'strong' }, words.convert)),
  );
  const intro = say(of.form.intro, of.language, of.form.languages);
  const before = intro === '' ? [] : [element('p', { class: 'intro' }, intro)];
  return plainFormPage(pageOf(of), ...before, ...about, ...told, button);
}

/** What a step would do, and each value it would write; what would be lost on the way is marked. */
function stepTold(
  step: StepReport,
  steps: readonly StepReport[],
  schemas: ReadonlyMap<string, Schema>,
  words: Words,
): Markup {
  const labelOf = ({ system, entity }: StepReport): string =>
    entityOf(schemas.get(system) ?? { entities: [] }, entity)?.label ?? entity;
  const label = labelOf(step);
  // A record that is made by then has no id yet.
  const made = new Map(steps.filter(isNew).map((each) => [each.record!.id, words.wouldCreate(labelOf(each))]));
  const outcome =
    step.outcome === 'created'
      ? words.wouldCreate(label)
      : step.outcome === 'updated'
        ? words.wouldChange(label)
        : step.outcome === 'unchanged' || step.outcome === 'left'
          ? words.wouldKeep(label)
          : `${label}: ${step.why ?? step.outcome}`;
  const written = step.changes.filter(({ kept }) => kept === undefined).slice(0, MOST_SHOWN);
  const rows = written.flatMap(({ label: field, after, losses }) => [
    element('dt', {}, field),
    element(
      'dd',
      {},
      made.get(String(after)) ?? shown(after),
      ...losses.map((loss) => element('span', { class: 'loss' }, ` ${loss.slice(0, MOST_WORDS)}`)),
    ),
  ]);
  return element(
    'section',
    { class: 'would' },
    element('h2', {}, step.record && !isNew(step) ? `${outcome} (${step.record.id})` : outcome),
    rows.length > 0 && element('dl', { class: 'told' }, rows),
  );
}

const isNew = ({ record }: StepReport): boolean => record?.id.startsWith('new ') === true;

const shown = (value: Value): string => [value ?? ''].flat().map(String).join(', ').slice(0, MOST_WORDS);

/** Converts the record whose page it is, as whoever is signed in there. */
export async function convertInPanel(
  context: Context,
  of: LiveForm,
  acting: ActingIn | null | undefined,
  _request: Request,
  response: Response,
): Promise<void> {
  const { db, live, systems, acceptor, queued, sealer } = context;
  if (!of.panel) throw new Problem(403, 'Opened elsewhere', 'This is converted on the page of a record.');
  if (!acting) {
    const page = plainFormPage(
      pageOf(of),
      element('p', { role: 'alert', class: 'refused' }, wordsIn(of.language).signedOut),
    );
    return void asPage(response.status(403), of.language).send(page);
  }
  const by = { system: acting.system, person: acting.person, name: of.panel.name, token: acting };
  const [done] = await convertRecords({ db, systems, live, acceptor }, of.live, [of.panel.record], { acting: by });
  if (!done || 'why' in done) {
    const why = done?.why ?? wordsIn(of.language).nothingThere;
    const page = thanksPage(pageOf(of), { outcome: [element('p', { role: 'alert', class: 'refused' }, why)] });
    return void asPage(response.status(422), of.language).send(page);
  }
  queued();
  const at = addressIn(pageOf(of), '/thanks');
  response.redirect(303, `${at}&${new URLSearchParams({ s: sealPaper(sealer, done.submission) }).toString()}`);
}
