import type { Response } from 'express';
import { wordsIn, type AnswerTrouble, type HostedForm } from '@zusammen/core/forms/hosted';
import { THANK_YOU } from '@zusammen/core/intake';
import type { LiveIntake } from '../../engine/index.ts';
import { hashed } from '../../store/index.ts';
import { addressIn, formPage, type PageOf } from './form-page.ts';
import { formProblem } from './held.ts';
import type { ReadLink } from './links.ts';
import type { PanelPass } from './panel-pass.ts';

/** What goes along with a form unseen: that it was shown, and when. */
export const ISSUED = '_shown';

/** A form of ours that is open, as whoever asks sees it. */
export interface LiveForm {
  live: LiveIntake;
  form: HostedForm;
  language: string;
  /** The day where the form is at home. */
  today: string;
  /** What speaks for whoever looks at a draft: what they send is looked at, and not kept. */
  draft?: string;
  /** The signed link it was opened with, and what that says. */
  link?: ReadLink & { token: string };
  /** The page of a record around it, and who is signed in there. */
  panel?: PanelPass & { token: string };
  /** What is paid with it moves no money. */
  test?: boolean;
}

/** The record that a form was opened with. */
export function openedWith({
  form,
  link,
  panel,
}: Pick<LiveForm, 'form' | 'link' | 'panel'>): { entity: string; record: string } | undefined {
  if (panel) return { entity: panel.entity, record: panel.record };
  return link && form.link && { entity: link.entity ?? form.link.entity, record: link.record };
}

/** What a page is made of, for a form that somebody looks at. */
export const pageOf = ({ live, form, language, draft, link, panel, test = false }: LiveForm): PageOf => ({
  ...{ form, language, key: live.intake.key },
  ...aboutOf({ form, link, panel }),
  ...(draft === undefined ? {} : { draft }),
  ...(link === undefined ? {} : { link: link.token }),
  ...(panel === undefined ? {} : { panel: panel.token }),
  test,
});

/** Tells what was filled in for one record, or as one person, from the same for others. */
function aboutOf(of: Pick<LiveForm, 'form' | 'link' | 'panel'>): Pick<PageOf, 'about'> {
  const opened = openedWith(of);
  if (!opened) return {};
  const text = JSON.stringify([opened, of.panel?.person ?? '']);
  return { about: hashed(text).toString('base64url').slice(0, 12) };
}

/** HTML of a form: it belongs to one visitor, and to their language. */
export const asPage = (response: Response, language: string): Response =>
  response
    .set({ 'Cache-Control': 'no-store', Vary: 'Accept-Language', 'Content-Language': language })
    .type('text/html');

/** Answers whoever has sent a form: a browser without a script by pages, the page's own script by JSON. */
export class Answering {
  private readonly words;

  constructor(
    private readonly response: Response,
    private readonly of: LiveForm,
    /** Whether a page is wanted. */
    private readonly byPage: boolean,
    private readonly answers: Readonly<Record<string, string | string[]>>,
    /** What goes along with the page that is sent back, unseen. */
    private readonly along: Readonly<Record<string, string>>,
    /** What files in the answers are called, by what speaks for them. */
    private readonly files: Readonly<Record<string, string>> = {},
  ) {
    this.words = wordsIn(of.language);
  }

  /** The form once more, with what was filled in. */
  page(status: number, more: Partial<Parameters<typeof formPage>[1]>): void {
    const { language, today } = this.of;
    const view = { today, answers: this.answers, files: this.files, along: this.along, ...more };
    asPage(this.response.status(status), language).send(formPage(pageOf(this.of), view));
  }

  refused(errors: AnswerTrouble[]): void {
    if (this.byPage) return this.page(422, { errors });
    this.problem(422, formProblem(this.words.errors(errors.length), errors));
  }

  tooSoon(): void {
    this.refused([{ field: ISSUED, message: this.words.tooSoon }]);
  }

  /** So many are sent that a small sum has to be done first. @param work what is to be solved; without a script, later */
  workFirst(work: object): void {
    const errors = [{ field: ISSUED, message: this.words.needsWork }];
    if (this.byPage) return this.page(503, { errors });
    this.problem(428, { ...formProblem(this.words.needsWork, errors), status: 428, work });
  }

  /** Whoever acts has no token any more: nothing is kept, and what is filled in stays where it is. */
  signedOut(): void {
    const errors = [{ field: ISSUED, message: this.words.signedOut }];
    if (this.byPage) return this.page(403, { errors });
    this.problem(403, { ...formProblem(this.words.signedOut, errors), status: 403 });
  }

  linkUsed(): void {
    this.refused([{ field: ISSUED, message: this.words.linkUsed }]);
  }

  nothing(): void {
    this.refused([{ field: '', message: this.words.required }]);
  }

  /** The same page was sent before with other answers. @param anew what makes it another submission */
  sentBefore(anew: string): void {
    const errors = [{ field: ISSUED, message: this.words.sentBefore }];
    if (this.byPage) return this.page(409, { errors, along: { ...this.along, [ISSUED]: anew } });
    this.problem(409, { ...formProblem(this.words.sentBefore, errors), status: 409, shown: anew });
  }

  /**
   * @param submission undefined where nothing was kept, and nobody is to see that
   * @param paper speaks for whoever wants what was sent as a PDF
   * @param pay where it is paid, before thanks are due
   */
  sent(submission?: string, paper?: string, pay?: string): void {
    const thanks = pay ?? thanksOf(this.of, paper);
    if (this.byPage) return this.response.redirect(303, thanks);
    this.response.status(202).json({ ...(submission === undefined ? {} : { submission }), thanks });
  }

  private problem(status: number, problem: object): void {
    this.response.status(status).type('application/problem+json').send(JSON.stringify(problem));
  }
}

/** Where somebody goes who has sent the form: as the intake says, else to a page of ours. */
function thanksOf(of: LiveForm, paper: string | undefined): string {
  const { thankYou } = of.live.document.settings;
  const isOurs = of.draft !== undefined || of.panel !== undefined;
  if (thankYou !== undefined && THANK_YOU.test(thankYou) && !isOurs) return thankYou;
  const own = addressIn(pageOf(of), '/thanks');
  return paper === undefined ? own : `${own}&${new URLSearchParams({ s: paper }).toString()}`;
}
