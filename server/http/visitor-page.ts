import type { Request } from 'express';
import type { Problem } from './problem.ts';

const escape = (text: string): string => text.replace(/[&<>"']/g, (char) => `&#${char.charCodeAt(0)};`);

/** A page for visitors of somebody's site, who know nothing of us. */
const page = (title: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${title}</title>
<link rel="stylesheet" href="/public.css"></head>
<body><main>${body}</main></body></html>`;

/** What a visitor sees whose browser posted a plain form, where the intake names no page of its own. */
export const thankYouPage = (name: string): string =>
  page(
    'Thank you',
    `<h1>Thank you</h1><p>${name === '' ? 'What you sent' : `“${escape(name)}”`} has arrived.</p><p><small>You can close this page.</small></p>`,
  );

/** What a visitor sees whose form could not be taken: in words, with what can be done. */
export function sorryPage({ status, detail, errors }: Problem): string {
  const what =
    status >= 500 || status === 429
      ? 'Please go back and send the form again in a moment; what you entered should still be there.'
      : errors.length > 0
        ? 'Please go back, put it right, and send the form again.'
        : 'Please tell whoever runs the page that you came from.';
  return page('Not sent', `<h1>This was not sent</h1><p>${escape(detail)}</p><p>${what}</p>`);
}

/** What somebody sees who asked for something that isn't to be had. */
export const notThere = ({ title, detail }: Problem): string =>
  page(escape(title), `<h1>${escape(title)}</h1><p>${escape(detail)}</p>`);

/** Whether a browser is showing what we answer to a person, and no script is reading it. */
export const isVisitor = (request: Request): boolean =>
  /text\/html/.test(request.get('Accept') ?? '') && request.accepts(['application/json', 'text/html']) === 'text/html';
