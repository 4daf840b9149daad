import type { Request, Response } from 'express';
import { amountText, languageFor, say, toPay, wordsIn, type HostedForm } from '@zusammen/core/forms/hosted';
import { element, type Markup } from '@zusammen/core/forms/hosted/view';
import { THANK_YOU } from '@zusammen/core/intake';
import type { LiveIntake } from '../../engine/index.ts';
import { intakeById, noteSession, paymentOf, submissionById, type Payment } from '../../store/index.ts';
import { isSystemTrouble } from '../../systems/index.ts';
import type { Context } from '../context.ts';
import { Problem } from '../problem.ts';
import { plainFormPage } from './form-page.ts';
import { mayBeFramed } from './secured.ts';
import { sendThanks } from './thanks.ts';

/** The page between a form that was sent and the payment service's: what is to be paid, and how the payment stands. */

/** Its address is good as long as it may be paid, and a day more. */
const GOOD_FOR_MS = 48 * 3_600_000;
const ABOUT = 'a payment';
/** Seconds after which it looks again whether a payment is confirmed, and how often. */
const LOOK_AGAIN_S = 3;
const MOST_LOOKS = 40;
/** So many looks after somebody came back, what was told before they went may be out of date. */
const SETTLES_WITHIN = 2;

/** Where on our own site what was sent is paid, by whoever has this address. */
export function payAddress(
  { sealer }: Pick<Context, 'sealer'>,
  { intake }: Pick<LiveIntake, 'intake'>,
  submission: string,
  language: string,
): string {
  const query = new URLSearchParams({
    s: sealer.seal(JSON.stringify([submission, Date.now()]), ABOUT),
    lang: language,
  });
  return `/f/${intake.key}/pay?${query.toString()}`;
}

function readAddress({ sealer }: Pick<Context, 'sealer'>, sealed: unknown): string | undefined {
  if (typeof sealed !== 'string' || sealed.length > 400) return undefined;
  try {
    const [id, at] = JSON.parse(sealer.open(sealed, ABOUT)) as [string, number];
    return Date.now() - at > GOOD_FOR_MS ? undefined : id;
  } catch {
    return undefined;
  }
}

/** `GET /f/:intake/pay`. @throws Problem 404 where there is nothing to be paid, or no more */
export async function showPay(context: Context, request: Request, response: Response): Promise<void> {
  const { db, live } = context;
  const id = readAddress(context, request.query['s']);
  const submission = id === undefined ? undefined : await submissionById(db, id);
  const payment = submission && (await paymentOf(db, submission.id));
  const intake = submission && (await intakeById(db, submission.intakeId));
  const { form, settings, plan, source } = submission
    ? await live.document(submission.intakeId, submission.version)
    : {};
  if (!submission || !payment || !intake || !form?.fee || submission.forgottenAt !== null)
    throw new Problem(404, 'Not there', 'There is nothing to be paid here, or no more.');
  const asked = request.query['lang'];
  const language = languageFor(form.languages, typeof asked === 'string' ? asked : undefined, '');
  const of = { form, language, key: intake.key };
  mayBeFramed(response, settings?.allowedOrigins);
  response.set({ 'Cache-Control': 'no-store' });
  const words = wordsIn(language);
  if (payment.state === 'paid' || payment.state === 'refunded') {
    const { thankYou } = settings ?? {};
    if (thankYou !== undefined && THANK_YOU.test(thankYou)) return response.redirect(303, thankYou);
    const looks = Number(request.query['looks'] ?? 0) || 0;
    const query = { s: String(request.query['s']), lang: language };
    const thanking = {
      document: { form, settings: settings!, plan: plan!, source: source! },
      submission,
      looks,
      path: 'pay',
      query,
    };
    return sendThanks(context, response, { of: { ...of, test: payment.test }, ...thanking });
  }
  const isOpen = payment.state === 'due' || payment.state === 'refused';
  const mayPay = isOpen && submission.state === 'unpaid';
  const looks = Number(request.query['back'] ?? NaN);
  const isBack = Number.isInteger(looks) && looks >= 0;
  const again = new URLSearchParams({ s: String(request.query['s']), lang: language, back: String(looks + 1) });
  if (mayPay && isBack && looks < MOST_LOOKS) response.set('Refresh', `${LOOK_AGAIN_S}; url=pay?${again.toString()}`);
  const said =
    payment.state === 'lapsed' || (isOpen && !mayPay)
      ? words.payLapsed
      : payment.state === 'differs'
        ? words.refusedPolitely
        : payment.state === 'refused' && !(isBack && looks < SETTLES_WITHIN)
          ? words.payRefused
          : isBack
            ? words.payConfirming
            : words.payElsewhere;
  const page = mayPay ? await pageFor(context, of, payment, String(request.query['s'])) : undefined;
  const sums = sumsOf(form, payment, submission.values as Record<string, string | string[]>, language);
  response
    .type('text/html')
    .send(
      plainFormPage(
        of,
        payment.test && element('p', { class: 'test' }, words.testMode),
        element('p', { role: 'status' }, mayPay && page === undefined ? words.payLater : said),
        payment.state === 'refused' && payment.words !== null && element('p', {}, payment.words),
        element('h2', {}, words.toPay),
        sums,
        page !== undefined &&
          element('p', { class: 'send' }, element('a', { class: 'button', href: page, target: '_top' }, words.pay)),
      ),
    );
}

/** Where it is paid at the service; undefined while that can't be reached. */
async function pageFor(
  { db, payments, settings }: Context,
  { form, language, key }: { form: HostedForm; language: string; key: string },
  payment: Payment,
  sealed: string,
): Promise<string | undefined> {
  if (payment.page !== null) return payment.page;
  try {
    const service = await payments.service(payment.serviceId);
    const back = new URLSearchParams({ s: sealed, lang: language, back: '0' });
    const begun = await service?.begin({
      reference: payment.id,
      minor: payment.minor,
      currency: payment.currency,
      description: say(form.title, language, form.languages).slice(0, 200),
      back: `${settings.publicAddress}/f/${key}/pay?${back.toString()}`,
    });
    if (begun) await noteSession(db, payment.id, begun.session, begun.page);
    return begun?.page;
  } catch (error) {
    if (!isSystemTrouble(error)) throw error;
    return undefined;
  }
}

/** What it is made up of, as a table. */
function sumsOf(
  form: HostedForm,
  { minor, currency }: Payment,
  values: Record<string, string | string[]>,
  language: string,
): Markup {
  const come = toPay(form.fee!, form, values, { language: 'en' });
  const parts = come.ok && come.minor === minor ? come.parts : [];
  const [only, ...more] = parts;
  const words = wordsIn(language);
  const row = (tag: string, label: string, sum: number): Markup =>
    element(
      'tr',
      {},
      element('th', { scope: 'row' }, label),
      element('td', {}, element(tag, {}, amountText(sum, currency, language))),
    );
  return element(
    'table',
    { class: 'sums' },
    more.length === 0
      ? row('b', only ? say(only.charge.label, language, form.languages) : words.toPay, minor)
      : [
          parts.map((part) => row('span', say(part.charge.label, language, form.languages), part.minor)),
          row('b', words.toPay, minor),
        ],
  );
}
