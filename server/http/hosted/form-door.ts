import express, {
  type ErrorRequestHandler,
  type NextFunction,
  type Request,
  type Response,
  type Router,
} from 'express';
import { languageFor, wordsIn, type AnswerTrouble, type HostedForm } from '@zusammen/core/forms/hosted';
import { TRAP } from '@zusammen/core/forms/hosted/view';
import type { SubmittedValues } from '@zusammen/core/forms';
import { conversionOf, formOfConversion } from '@zusammen/core/intake';
import { beyondBounds } from '@zusammen/core/plans';
import { KeyUsedOtherwise } from '../../engine/index.ts';
import { isSystemTrouble } from '../../systems/index.ts';
import { asProblem } from '../as-problem.ts';
import { readSubmission } from '../body.ts';
import type { SentFile } from '../form-body.ts';
import type { Context } from '../context.ts';
import { limitedBy } from '../limited.ts';
import { Problem } from '../problem.ts';
import { isVisitor, notThere, sorryPage } from '../visitor-page.ts';
import { Answering, asPage, ISSUED, openedWith, pageOf, type LiveForm } from './answering.ts';
import { BEGUN, beginningWith, keptOfBegun, sealBegun } from './begun.ts';
import { draftOf } from './draft.ts';
import { formPage, lookSheet, thanksPage } from './form-page.ts';
import { convertInPanel } from './conversion-panel.ts';
import { asAnswers, todayIn } from './answers-of.ts';
import { enterUpload, fileNames, filesAsked, keepFile } from './files.ts';
import { takeFile } from './file-door.ts';
import { payAddress, showPay } from './pay-page.ts';
import { mayBeFramed, secured } from './secured.ts';
import { takenOf } from './taken.ts';
import { sendThanks } from './thanks.ts';
import { PROOF, Work } from './work.ts';
import { issue, readIssued } from './issued.ts';
import { Pages } from './pages.ts';
import { openPanel, panelPage } from './panel.ts';
import { readPass } from './panel-pass.ts';
import type { ActingIn, FormReading } from './reading.ts';
import { readPaper, sealPaper, sendPaper } from './paper.ts';
import { readForForm } from './read-door.ts';

interface FormRequest extends Request {
  of?: LiveForm;
}

/** Pages of one form a minute and address, at least; and for each that may be sent, so many may be looked at. */
const SHOWN_A_MINUTE = 240;
const SHOWN_FOR_EACH = 4;
const PAPERS_A_MINUTE = 30;
/** Somebody who has paid looks again every few seconds. */
const PAYING_A_MINUTE = 120;
/** Files of one form a minute and address, at least; and for each submission that may be sent. */
const FILES_A_MINUTE = 30;
const FILES_FOR_EACH = 2;
/** And so often may be looked up. */
const READ_FOR_EACH = 12;

/** Paths of a form that tell nothing of a record. */
const UNASKED = /\/(?:look\.css|thanks|panel)$/;

/** Forms of ours: `GET /f/:intake` shows one, `POST /f/:intake` takes what was filled in. */
export function formDoor(context: Context): Router {
  const { live, acceptor, acting, sealer, settings, formReading, links } = context;
  const router = express.Router();
  const pages = new Pages();
  const work = new Work(sealer);
  const known = async (request: FormRequest, _response: Response, next: NextFunction): Promise<void> => {
    const key = String(request.params['intake']);
    const by = /^\/draft(?:\/|$)/.test(request.path) ? String(request.query['by'] ?? '') : undefined;
    const found = by === undefined ? await live.intake(key) : ((await draftOf(context, key, by)) ?? 'unknown');
    if (found === 'closed') throw new Problem(410, 'Closed', 'This form takes nothing at present.');
    const form = found === 'unknown' ? undefined : (found.document.form ?? formOfConversion(found.document));
    if (found === 'unknown' || !form) throw new Problem(404, 'Not found', 'There is no such form.');
    const asked = request.query['lang'];
    const language = languageFor(
      form.languages,
      typeof asked === 'string' ? asked : undefined,
      request.get('Accept-Language') ?? '',
    );
    const today = todayIn(found.document.settings.zone);
    request.of = { live: found, form, language, today };
    if (by !== undefined) request.of.draft = by;
    if (form.panel && request.query['panel'] !== undefined) {
      const token = String(request.query['panel']);
      const pass = readPass(sealer, found.intake.id, token);
      if (!pass) throw new Problem(403, 'Opened too long ago', 'The page around this form has to be opened anew.');
      request.of.panel = { ...pass, token };
    }
    if (form.fee) request.of.test = await context.payments.isTest(form.fee.service);
    if (form.link && !request.of.panel && !UNASKED.test(request.path))
      await opened(request.of, form.link.required, request.query['link']);
    next();
  };
  /** Who acts in the panel, by a token that still holds; null: nobody any more. Undefined: it is no panel. */
  const actingIn = async ({ form, panel }: LiveForm): Promise<ActingIn | null | undefined> => {
    if (!panel || !form.link) return undefined;
    const { system } = form.link;
    const held = await acting.tokenOf(system, panel.person);
    return held ? { ...held, system } : null;
  };
  /** What is read, by whoever acts where somebody does. @throws Problem where they have no token any more */
  const readingOf = async (of: LiveForm): Promise<FormReading> => {
    const by = await actingIn(of);
    if (by === null) throw new Problem(403, 'Signed out', wordsIn(of.language).signedOut);
    return by ? formReading.as(by) : formReading;
  };
  /** A form that a link opens: what that says of the record. */
  const opened = async (of: LiveForm, required: boolean, token: unknown): Promise<void> => {
    if (typeof token === 'string') of.link = { token, ...(await links.read(token, of.live.intake.key)) };
    else if (required && of.draft === undefined)
      throw new Problem(
        403,
        'By a link only',
        of.form.panel
          ? 'This form is opened on the page of a record.'
          : 'This form is opened by a link that was sent to you.',
      );
  };
  // What was sent is to be had also when the form takes nothing more.
  router.get(
    '/:intake/filled',
    secured,
    limitedBy(() => PAPERS_A_MINUTE),
    (request, response) => sendPaper(context, request, response),
  );
  router.get(
    '/:intake/pay',
    secured,
    limitedBy(() => PAYING_A_MINUTE),
    (request, response) => showPay(context, request, response),
  );
  router.use('/:intake', secured, known, (request: FormRequest, response, next) => {
    mayBeFramed(response, request.of!.live.document.settings.allowedOrigins);
    next();
  });

  router.get(
    ['/:intake', '/:intake/draft'],
    limitedBy(({ of }: FormRequest) => Math.max(SHOWN_A_MINUTE, SHOWN_FOR_EACH * of!.live.document.settings.perMinute)),
    async (request: FormRequest, response) => {
      const { live: found, form, language, today, draft, link } = request.of!;
      if (request.of!.panel) return againInPanel(request.of!, response);
      const { answers, byAddress } = beginningOf(form, request.query);
      const begun = link && (await orNotNow(beginningWith(formReading, request.of!), language));
      if (begun) Object.assign(answers, begun.shown, begun.unseen);
      const sealed = begun ? sealBegun(sealer, request.of!, begun) : {};
      const fresh = (): string =>
        formPage(pageOf(request.of!), { today, answers, fresh: true, along: { [ISSUED]: Pages.PLACE, ...sealed } });
      // With nothing of the address in it, it is the same for everybody but for what is issued.
      const page =
        byAddress || draft !== undefined || link !== undefined
          ? pages.split(fresh())
          : pages.of(`${found.intake.id} ${found.version} ${language} ${today} ${request.of!.test === true}`, fresh);
      asPage(response, language).send(pages.filled(page, issue(sealer, found.intake.id)));
    },
  );

  const panelLimit = limitedBy(({ of }: FormRequest) =>
    Math.max(SHOWN_A_MINUTE, SHOWN_FOR_EACH * of!.live.document.settings.perMinute),
  );
  router.post('/:intake/panel', panelLimit, (request: FormRequest, response) =>
    openPanel(context, request.of!, request, response),
  );
  /** One more, on the same page of the same record. */
  const againInPanel = async (of: LiveForm, response: Response): Promise<void> => {
    const by = await actingIn(of);
    if (!by) throw new Problem(403, 'Signed out', wordsIn(of.language).signedOut);
    const page = await orNotNow(panelPage(context, of, by), of.language);
    asPage(response, of.language).send(page);
  };

  router.get(['/:intake/look.css', '/:intake/draft/look.css'], (request: FormRequest, response) =>
    response.set('Cache-Control', 'public, max-age=300').type('text/css').send(lookSheet(request.of!.form)),
  );

  router.get(
    ['/:intake/thanks', '/:intake/draft/thanks'],
    limitedBy(() => PAYING_A_MINUTE),
    async (request: FormRequest, response) => {
      const of = request.of!;
      const { s: sealed, lang = '', looks = 0 } = request.query;
      const id = readPaper(sealer, sealed);
      asPage(response, of.language);
      if (id === undefined) return void response.send(thanksPage(pageOf(of)));
      const { document } = of.live;
      const query = { s: String(sealed), lang: String(lang), ...(of.panel ? { panel: of.panel.token } : {}) };
      const at = {
        submission: { id },
        looks: Number(looks) || 0,
        path: 'thanks',
        query,
        inPanel: of.panel !== undefined,
      };
      await sendThanks(context, response, { of: pageOf(of), document, ...at });
    },
  );

  router.post(
    ['/:intake/file', '/:intake/draft/file'],
    limitedBy(({ of }: FormRequest) => Math.max(FILES_A_MINUTE, FILES_FOR_EACH * of!.live.document.settings.perMinute)),
    fromHere,
    async (request: FormRequest, response) => takeFile(context, request.of!, request, response),
  );

  router.post(
    ['/:intake/read', '/:intake/draft/read'],
    limitedBy(({ of }: FormRequest) => Math.max(SHOWN_A_MINUTE, READ_FOR_EACH * of!.live.document.settings.perMinute)),
    fromHere,
    async (request: FormRequest, response) =>
      readForForm(context, await readingOf(request.of!), request.of!, request, response),
  );

  router.post(
    ['/:intake', '/:intake/draft'],
    limitedBy(({ of }: FormRequest) => of!.live.document.settings.perMinute),
    fromHere,
    async (request: FormRequest, response) => {
      const of = request.of!;
      const { live: found, form, language } = of;
      if (conversionOf(found.document))
        return orNotNow(convertInPanel(context, of, await actingIn(of), request, response), language);
      const { said, more, less, trapped, issued, proof, begun, wrong } = await submitted(request, of);
      const shown = readIssued(sealer, found.intake.id, issued);
      const fresh = (): string => issue(sealer, found.intake.id);
      const answers = asAnswers(said);
      const names = fileNames(context, found.intake.id, answers);
      const along = {
        [ISSUED]: shown ? String(issued) : fresh(),
        ...(typeof begun === 'string' ? { [BEGUN]: begun } : {}),
      };
      const answer = new Answering(response, of, isVisitor(request), answers, along, names);
      // Without a script, a row more or less is asked for here, and nothing is sent yet.
      if (typeof more === 'string') return answer.page(200, { more });
      if (typeof less === 'string') return answer.page(200, { answers: withoutRow(answers, less) });
      // Whoever fills in what nobody sees is thanked as everybody is, and learns nothing by it. In a panel nobody is
      // anonymous: the system has said who it is, and what is begun for them may well be sent in a second.
      const { trap, leastSeconds } = of.panel ? { trap: false, leastSeconds: 0 } : form.guard;
      if (trap && typeof trapped === 'string' && trapped !== '') return answer.sent();
      if (leastSeconds > 0 && (!shown || Date.now() - shown.at < leastSeconds * 1000)) return answer.tooSoon();
      const isAsked = work.isNeeded(found.intake.id, form.guard, found.document.settings.perMinute);
      if (isAsked && of.draft === undefined && !of.panel && !(await work.isDone(found.intake.id, proof)))
        return answer.workFirst(await work.challenge(found.intake.id));
      if (wrong.length > 0) return answer.refused(wrong);
      const person = await actingIn(of);
      const goesOn = form.panel?.whenGone === 'connection';
      if (person === null && !goesOn) return answer.signedOut();
      const reading = person ? formReading.as(person) : formReading;
      const kept = await orNotNow(keptOfBegun(sealer, reading, of, begun), language);
      const by = { form, language, page: String(issued ?? ''), opened: openedWith(of), begun: kept };
      const taken = await takenOf({ ...context, formReading: reading }, found, said, by);
      if (!taken.ok) return answer.refused(taken.errors);
      const { ok: _, ...arriving } = taken;
      if (Object.keys(arriving.values).length === 0) return answer.nothing();
      const beyond = beyondBounds(arriving.values, found.document.fields, found.document.plan);
      if (beyond) return answer.refused([{ field: beyond.field, message: beyond.reason }]);
      // Of a draft it is known by now that it would be taken.
      if (of.draft !== undefined) return answer.sent();
      const once = of.link?.once;
      const key = once === undefined ? (shown?.key ?? request.get('Idempotency-Key')?.slice(0, 200)) : `link ${once}`;
      try {
        const { id } = await acceptor.accept(found, {
          ...{ ...arriving, via: of.panel ? 'panel' : 'form', receivedAt: new Date() },
          ...(of.panel && form.link
            ? { acting: { system: form.link.system, person: of.panel.person, name: of.panel.name } }
            : {}),
          ...(key === undefined ? {} : { idempotencyKey: key }),
        });
        const pay = arriving.payment && payAddress(context, found, id, language);
        answer.sent(id, sealPaper(sealer, id), pay);
      } catch (error) {
        // It was sent, gone back to, changed and sent again: both may be meant.
        if (error instanceof KeyUsedOtherwise && once !== undefined) return answer.linkUsed();
        if (error instanceof KeyUsedOtherwise && shown) return answer.sentBefore(fresh());
        throw error;
      }
    },
  );
  router.use(inWords);
  return router;

  /** What was sent: answers, with what speaks for files in the place of those; and files that aren't taken. */
  async function submitted(request: FormRequest, { live: found, form, language }: LiveForm): Promise<Submitted> {
    const asking = filesAsked(form);
    const came = new Map<string, SentFile>();
    const leave = asking.size > 0 && isMultipart(request) ? enterUpload(String(request.ip)) : undefined;
    try {
      const { values } = await readSubmission(request, asking.size > 0 ? { fileFields: asking, files: came } : {});
      const { [ISSUED]: issued, [TRAP]: trapped, [PROOF]: proof, [BEGUN]: begun, ...rest } = values;
      const { _more: more, _less: less, ...said } = rest;
      const wrong: AnswerTrouble[] = [];
      for (const [name, file] of came) {
        const by = { language, page: String(issued ?? ''), by: String(request.ip) };
        const kept = await keepFile(context, found.intake.id, asking.of(name)!, file, by);
        delete said[name];
        if (typeof kept === 'string') wrong.push({ field: name, message: kept });
        else said[name] = kept.token;
      }
      return { said, issued, trapped, proof, begun, more, less, wrong };
    } finally {
      leave?.();
    }
  }

  /** Pages of others have no business sending here: the form is shown by us, also where it is embedded. */
  function fromHere(request: Request, _response: Response, next: NextFunction): void {
    const origin = request.get('Origin');
    const own = [new URL(settings.publicAddress).host, request.get('Host')];
    if (origin !== undefined && (!URL.canParse(origin) || !own.includes(new URL(origin).host)))
      throw new Problem(403, 'Not from there', 'This form is sent from its own page only.');
    next();
  }
}

interface Submitted {
  said: SubmittedValues;
  issued: unknown;
  trapped: unknown;
  proof: unknown;
  begun: unknown;
  more: unknown;
  less: unknown;
  wrong: AnswerTrouble[];
}

const isMultipart = (request: Request): boolean => /^multipart\//i.test(request.get('Content-Type') ?? '');

/** Answers without those of a row. */
const withoutRow = (answers: Record<string, string | string[]>, row: string): Record<string, string | string[]> =>
  Object.fromEntries(Object.entries(answers).filter(([name]) => !name.startsWith(`${row}[`)));

/** What questions begin with: constants, and what stands in the address. */
function beginningOf(
  form: HostedForm,
  query: Request['query'],
): { answers: Record<string, string>; byAddress: boolean } {
  const answers: Record<string, string> = {};
  let byAddress = false;
  for (const { items } of form.pages)
    for (const { name, begins } of items) {
      if (name === undefined || !begins || begins.with === 'record' || begins.with === 'person') continue;
      const said = begins.with === 'constant' ? begins.value : query[begins.value];
      if (typeof said !== 'string' || said === '') continue;
      byAddress ||= begins.with === 'parameter';
      answers[name] = said.slice(0, MOST_BEGUN);
    }
  return { answers, byAddress };
}
const MOST_BEGUN = 2000;

/** What a system doesn't tell just now, in words for whoever waits for it. */
const orNotNow = <T>(work: Promise<T>, language: string): Promise<T> =>
  work.catch((error: unknown) => {
    if (!isSystemTrouble(error)) throw error;
    throw new Problem(503, 'Not just now', wordsIn(language).notLookedUp, [], { 'Retry-After': '5' });
  });

/** A visitor sees a page in words; the page's script gets a problem to read. */
const inWords: ErrorRequestHandler = (error: unknown, request, response, next) => {
  const problem = asProblem(error);
  if (response.headersSent || !isVisitor(request) || (problem.status >= 500 && !(error instanceof Problem)))
    return next(error);
  const page = request.method === 'GET' ? notThere(problem) : sorryPage(problem);
  response.status(problem.status).set(problem.headers).type('text/html').send(page);
};
