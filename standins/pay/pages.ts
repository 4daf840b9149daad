import type { RowDataPacket } from 'mysql2';
import type { TestCard } from '../cards.ts';
import { escapeHtml } from '../html.ts';
import type { Session } from './pay.ts';

const sumOf = ({ amount, currency }: Session): string => {
  const format = new Intl.NumberFormat('en', { style: 'currency', currency });
  return format.format(amount / 10 ** (format.resolvedOptions().maximumFractionDigits ?? 2));
};

/** The page on which a card is given. */
export function cardPage(session: Session, cards: readonly TestCard[], trouble?: string): string {
  const list = cards.map(({ number, words }) => `<li><code>${number}</code> ${escapeHtml(words)}</li>`).join('');
  return frame(
    `Pay ${sumOf(session)}`,
    `<p>${escapeHtml(session.description)}</p>
    ${trouble === undefined ? '' : `<p class="trouble" role="alert">${escapeHtml(trouble)}</p>`}
    <form method="post"><p><label for="card">Card number</label> <input id="card" name="card" inputmode="numeric" autocomplete="off" required></p>
    <p><button>Pay ${sumOf(session)}</button></p></form>
    <p>Test cards:</p><ul>${list}</ul>
    <p><a href="${escapeHtml(session.return_address)}">Back without paying</a></p>`,
  );
}

/** The second step: a code that the card's owner has been told. */
export function codePage(session: Session, card: string, trouble?: string): string {
  return frame(
    'One step more',
    `${trouble === undefined ? '' : `<p class="trouble" role="alert">${escapeHtml(trouble)}</p>`}
    <form method="post"><input type="hidden" name="card" value="${escapeHtml(card)}">
    <p><label for="code">The code you were sent (424)</label> <input id="code" name="code" inputmode="numeric" autocomplete="one-time-code" required></p>
    <p><button>Pay ${sumOf(session)}</button></p></form>`,
  );
}

export const plainPage = (words: string, session?: Session): string =>
  frame(
    'Payments',
    `<p>${escapeHtml(words)}</p>${session ? `<p><a href="${escapeHtml(session.return_address)}">Back</a></p>` : ''}`,
  );

export function officePage(
  sessions: readonly Session[],
  settings: { address: string; secret: string } | undefined,
  events: readonly RowDataPacket[],
): string {
  const rows = sessions.map(
    (session) =>
      `<tr><td>${escapeHtml(session.description)}</td><td>${sumOf(session)}</td><td>${session.status}</td><td>${session.status === 'paid' ? `<form method="post" action="/pay/office/${session.id}/refund"><button>Pay back</button></form>` : ''}</td></tr>`,
  );
  const eventRows = events.map(
    (event) =>
      `<tr><td>${escapeHtml(String(event['type']))}</td><td>${event['delivered_at'] ? 'delivered' : `attempt ${String(event['attempts'])}`}</td><td>${escapeHtml(String(event['words'] ?? ''))}</td></tr>`,
  );
  return frame(
    'The payments’ office',
    `<h2>Events go to</h2><form method="post" action="/pay/feed"><p><label>Address <input name="address" size="60" value="${escapeHtml(settings?.address ?? '')}"></label></p>
    <p><label>Key <input name="secret" size="60" type="password" placeholder="whsec_…"></label></p><button>Set</button></form>
    <h2>Payments</h2><table>${rows.join('')}</table><h2>Events</h2><table>${eventRows.join('')}</table>`,
  );
}

function frame(title: string, body: string): string {
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${escapeHtml(title)}</title>
<style>body{font:17px/1.6 Georgia,serif;max-width:34rem;margin:2rem auto;padding:0 1rem;background:#f3f6f9;color:#1f2b38}main{overflow-wrap:anywhere}td{padding:.2rem .8rem .2rem 0}label{display:block}input,button{font:inherit;max-width:100%;padding:.35rem .5rem}.test{border:2px solid #8a5a00;padding:.3rem .6rem}.trouble{color:#9d2018;font-weight:bold}code{white-space:nowrap}</style>
</head><body><main><p class="test">Test mode: no money is moved.</p><h1>${escapeHtml(title)}</h1>
${body}
</main></body></html>`;
}
