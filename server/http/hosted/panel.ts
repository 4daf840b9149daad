import type { Request, Response } from 'express';
import { mayNot, type MayNot } from '@zusammen/core/checks';
import { linkedEntities, wordsIn, type Words } from '@zusammen/core/forms/hosted';
import { element, type Markup } from '@zusammen/core/forms/hosted/view';
import { ContextRefused } from '../../acting/index.ts';
import { conversionOf } from '@zusammen/core/intake';
import { resumeOf } from '../../engine/index.ts';
import { notePanelSight } from '../../store/index.ts';
import { isSystemTrouble, TokenRefused } from '../../systems/index.ts';
import { readSubmission } from '../body.ts';
import type { Context } from '../context.ts';
import { Problem } from '../problem.ts';
import { asPage, ISSUED, pageOf, type LiveForm } from './answering.ts';
import { beginningWith, sealBegun } from './begun.ts';
import { conversionPage } from './conversion-panel.ts';
import { formPage, plainFormPage } from './form-page.ts';
import { issue } from './issued.ts';
import { sealPass } from './panel-pass.ts';
import type { ActingIn } from './reading.ts';

/** A form on a record's page: who has come, what they may, and what the form begins with. */

/** Refusals of one form are noted once a second at most: anybody can cause them. */
const NOTED_EVERY_MS = 1_000;
/** That it was seen is noted again after so long, by the same person. */
const SEEN_EVERY_MS = 30_000;
const MOST_NOTED = 1_000;
const noted = new Map<string, number>();
const lastSeen = new Map<string, string>();

/** The address of a form's panel: for it a context has to be signed. */
export const panelAddress = ({ publicAddress }: Context['settings'], key: string): string =>
  `${publicAddress}/f/${key}/panel`;

/** `POST /f/:intake/panel`: a page of a record posts its signed context, and gets the form as a panel. */
export async function openPanel(context: Context, of: LiveForm, request: Request, response: Response): Promise<void> {
  const { db, acting, sealer, settings, live, queued } = context;
  const { intake, document } = of.live;
  const from = request.get('Origin') ?? 'nowhere';
  try {
    if (!of.form.panel || !of.form.link) throw new ContextRefused('This form stands on no record’s page.');
    const { allowedOrigins = [] } = document.settings;
    if (!allowedOrigins.includes(from) && from !== new URL(settings.publicAddress).origin)
      throw new ContextRefused(`Pages of ${from} may not show it; Open says which may.`);
    const { values } = await readSubmission(request);
    const { context: signed } = values;
    if (typeof signed !== 'string') throw new ContextRefused('There is no signed context with it.');
    const { system } = of.form.link;
    const arrived = await acting.arrive(system, signed, panelAddress(settings, intake.key));
    const { entity, record, person, name, email } = arrived.context;
    if (entity === undefined || record === undefined) throw new ContextRefused('It names no record.');
    if (!linkedEntities(of.form.link).some((each) => each.entity === entity))
      throw new ContextRefused(`It is for a record of ${entity.slice(0, 60)}, and this form isn’t for those.`);
    if (arrived.fresh && (await resumeOf({ db, live }, system, person)) > 0) queued();
    const pass = { entity, record, person, name, ...(email === undefined ? {} : { email }) };
    of.panel = { ...pass, token: sealPass(sealer, intake.id, pass) };
    const [page] = await Promise.all([panelPage(context, of, { ...arrived.acting, system }), arrived.once]);
    asPage(response, of.language).send(page);
    const seen = { seenAt: new Date(), seenBy: name, seenOn: `${entity} ${record}`.slice(0, 255) };
    // Somebody who opens one after the other is noted now and then; another person at once.
    if (lastSeen.get(intake.id) !== person || isDue(`${intake.id} seen`, SEEN_EVERY_MS)) {
      lastSeen.set(intake.id, person);
      await notePanelSight(db, intake.id, seen);
    }
  } catch (error) {
    const why = whyRefused(error);
    if (why === undefined) throw error;
    if (isDue(intake.id, NOTED_EVERY_MS)) {
      const refused = { refusedAt: new Date(), refusedWhy: why.slice(0, 400), refusedFrom: from.slice(0, 300) };
      await notePanelSight(db, intake.id, refused).catch(() => undefined);
    }
    const status = error instanceof ContextRefused ? 403 : error instanceof Problem ? error.status : 503;
    asPage(response.status(status), of.language).send(
      plainFormPage(pageOf(of), element('p', { role: 'alert', class: 'refused' }, `This can’t be opened here. ${why}`)),
    );
  }
}

/** Why a panel isn't shown, in words for whoever looks at the page; undefined: that is our own doing. */
function whyRefused(error: unknown): string | undefined {
  if (error instanceof ContextRefused) return error.message;
  if (error instanceof TokenRefused) return `The system gives no token for this person. ${error.message}`;
  if (isSystemTrouble(error)) return `The system doesn’t answer as it should. ${error.message}`;
  return error instanceof Problem && error.status < 500 ? error.detail : undefined;
}

/** The form with what it begins with, for whoever may do what it does; for others, what they may not. @throws SystemTrouble */
export async function panelPage(context: Context, of: LiveForm, acting: ActingIn): Promise<string> {
  const { sealer, formReading } = context;
  const words = wordsIn(of.language);
  const isConversion = conversionOf(of.live.document) !== undefined;
  const [begun, lacking] = await Promise.all([
    isConversion ? undefined : beginningWith(formReading.as(acting), of),
    lackingRights(context, of, acting),
  ]);
  const as = element('p', { class: 'acts' }, words.actsAs(of.panel!.name));
  if (lacking.some(({ surely }) => surely)) return plainFormPage(pageOf(of), as, listOf(words.mayNot, lacking, words));
  const about = lacking.length === 0 ? [as] : [as, listOf(words.leftOut, lacking, words)];
  if (!begun) return conversionPage(context, of, acting, about);
  const answers = { ...begun.shown, ...begun.unseen };
  const along = { [ISSUED]: issue(sealer, of.live.intake.id), ...sealBegun(sealer, of, begun) };
  return formPage(pageOf(of), { today: of.today, answers, fresh: true, along }, about);
}

/** What of the form's plan the person may not do, as far as the system tells it. */
async function lackingRights({ acting: people, live }: Context, of: LiveForm, acting: ActingIn): Promise<MayNot[]> {
  const { system } = acting;
  const theirs = await people.schemaFor(system, acting).catch((error: unknown) => {
    // What isn't told beforehand, the system says when it is sent.
    if (isSystemTrouble(error)) return undefined;
    throw error;
  });
  const own = (await live.allSchemas()).get(system);
  if (!theirs || !own) return [];
  const required = new Set(of.live.document.fields.filter((field) => field.required).map(({ name }) => name));
  return mayNot(of.live.document.plan, system, own, theirs).map((each) =>
    each.from.some((name) => required.has(name)) ? { ...each, surely: true } : each,
  );
}

function listOf(heading: string, lacking: readonly MayNot[], words: Words): Markup {
  const said = ({ what, entity, field }: MayNot): string =>
    what === 'write'
      ? words.mayNotWrite(field!, entity)
      : { read: words.mayNotRead, create: words.mayNotCreate, change: words.mayNotChange }[what](entity);
  return element(
    'div',
    { class: 'refused', role: 'alert' },
    element('p', {}, heading),
    element(
      'ul',
      {},
      lacking.map((each) => element('li', {}, said(each))),
    ),
  );
}

/** Whether something is noted again by now. */
function isDue(key: string, everyMs: number): boolean {
  const now = Date.now();
  if (now - (noted.get(key) ?? 0) < everyMs) return false;
  noted.delete(key);
  noted.set(key, now);
  if (noted.size > MOST_NOTED) noted.delete(noted.keys().next().value!);
  return true;
}
