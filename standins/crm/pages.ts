import express, { type Router } from 'express';
import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import { escapeHtml } from '../html.ts';
import { allProperties, ENTITY_TYPES, idOf, numberOf, type EntityType } from './definition.ts';
import type { Panels } from './panels.ts';
import { personCalled, type SignIn } from './people.ts';
import { rowOf } from './records.ts';
import { toEntity, type Row } from './tables.ts';

/** Pages on which the co-operative's record keepers look at records. */
export function crmPages(pool: Pool, panels: Panels): Router {
  const router = express.Router();
  router.use(panels.routes(page));
  router.get('/', (request, response) => {
    response.send(
      page(
        'Records',
        `<ul>${ENTITY_TYPES.map(({ set }) => `<li><a href="/crm/${set}">${set}</a></li>`).join('')}</ul>`,
        panels.who(request),
      ),
    );
  });
  router.get('/:set', async (request, response) => {
    const entity = ENTITY_TYPES.find((each) => each.set === request.params.set);
    if (!entity) return void response.status(404).send(page('Not here', '<p>There is no such list.</p>'));
    const wanted = String(request.query['q'] ?? '').slice(0, 80);
    const columns = [...entity.title, 'email', 'changed_at'].filter((name) =>
      allProperties(entity).some((each) => each.name === name),
    );
    const where = wanted === '' ? 'TRUE' : `(${columns.map((name) => `\`${name}\` LIKE ?`).join(' OR ')})`;
    const like = `%${wanted.replace(/[\\%_]/g, '\\$&')}%`;
    const [rows] = await pool.query<(RowDataPacket & Row)[]>(
      `SELECT * FROM \`${entity.set}\` WHERE ${where} ORDER BY changed_at DESC, n DESC LIMIT 100`,
      wanted === '' ? [] : columns.map(() => like),
    );
    const lines = rows.map(
      (row) =>
        `<tr><td><a href="/crm/${entity.set}/${idOf(entity, row.n)}">${idOf(entity, row.n)}</a></td>${columns.map((name) => `<td>${cell(row[name])}</td>`).join('')}</tr>`,
    );
    response.send(
      page(
        entity.set,
        `<form><input name="q" aria-label="Search" value="${escapeHtml(wanted)}"> <button>Search</button></form><table><tr><th>Id</th>${columns.map((name) => `<th>${name}</th>`).join('')}</tr>${lines.join('')}</table>`,
        panels.who(request),
      ),
    );
  });
  router.get('/:set/:id', async (request, response) => {
    const entity = ENTITY_TYPES.find((each) => each.set === request.params.set);
    const n = entity && numberOf(entity, request.params.id);
    const row = entity && n !== undefined ? await rowOf(pool, entity, n) : undefined;
    if (!entity || !row) return void response.status(404).send(page('Not here', '<p>There is no such record.</p>'));
    const who = panels.who(request);
    const parts = [
      recordHtml(entity, row, who),
      await panels.panelHtml(entity, row.n, who),
      `<div id="related">${await relatedHtml(pool, entity, row.n)}</div>`,
      `<div id="history">${await historyHtml(pool, entity, row.n)}</div>`,
      SHOWN_ANEW,
    ];
    response.send(page(`${entity.type} ${idOf(entity, row.n)}`, parts.join(''), who));
  });
  return router;
}

/** When a panel tells that something was made, what leads here and the history are shown anew. */
const SHOWN_ANEW = `<script>addEventListener('formdone', async () => {
  const fresh = new DOMParser().parseFromString(await (await fetch(location.href)).text(), 'text/html');
  for (const id of ['related', 'history']) document.getElementById(id).replaceWith(fresh.getElementById(id));
});</script>`;

/** Records that lead to one, the newest of each kind. */
async function relatedHtml(pool: Pool, entity: EntityType, n: number): Promise<string> {
  if (entity.type === 'User') return '';
  const lists: string[] = [];
  for (const other of ENTITY_TYPES) {
    const by = other.properties.filter((property) => property.refers?.type === entity.type);
    if (by.length === 0) continue;
    const [rows] = await pool.query<(RowDataPacket & Row)[]>(
      `SELECT * FROM \`${other.set}\` WHERE ${by.map(({ name }) => `\`${name}\` = ?`).join(' OR ')} ORDER BY n DESC LIMIT 12`,
      by.map(() => idOf(entity, n)),
    );
    if (rows.length === 0) continue;
    const lines = rows.map((row) => {
      const id = idOf(other, row.n);
      const title = other.title.map((name) => cell(row[name])).join(' ');
      return `<li><a href="/crm/${other.set}/${id}">${id}</a> ${title}, by ${cell(row['created_by'])}</li>`;
    });
    lists.push(`<h3>${other.set}</h3><ul>${lines.join('')}</ul>`);
  }
  return lists.join('');
}

const cell = (value: unknown): string =>
  escapeHtml(
    value instanceof Date
      ? value.toISOString().slice(0, 19).replace('T', ' ')
      : Array.isArray(value)
        ? value.join(', ')
        : value,
  );

/** A record as somebody sees it who is signed in; to others all of it is shown. */
function recordHtml(entity: EntityType, row: Row, who: SignIn | undefined): string {
  const caller = who && personCalled(who.login, new Map());
  const values = toEntity(
    entity,
    row,
    allProperties(entity).map((each) => each.name),
  );
  const title = entity.title
    .map((name) => values[name])
    .filter(Boolean)
    .join(' ');
  const seen = allProperties(entity).filter(({ name }) => caller?.property(entity, name) !== 'none');
  const lines = seen.map((property) => {
    const value = values[property.name];
    const target = property.refers && ENTITY_TYPES.find((each) => each.type === property.refers!.type);
    const shown =
      target && value ? `<a href="/crm/${target.set}/${escapeHtml(value)}">${escapeHtml(value)}</a>` : cell(value);
    return `<tr><th scope="row">${escapeHtml(property.label)}</th><td data-field="${property.name}">${shown}</td></tr>`;
  });
  return `<h2>${escapeHtml(title)}</h2><table>${lines.join('')}</table>`;
}

async function historyHtml(pool: Pool, entity: EntityType, n: number): Promise<string> {
  const [rows] = await pool.query<RowDataPacket[]>(
    'SELECT * FROM history WHERE entity = ? AND n = ? ORDER BY seq DESC LIMIT 50',
    [entity.type, n],
  );
  const lines = rows.flatMap((row) => {
    const changes = (typeof row['changes'] === 'string' ? JSON.parse(row['changes']) : row['changes']) as Record<
      string,
      { before?: unknown; after?: unknown }
    >;
    const what = Object.entries(changes).map(
      ([name, { before, after }]) =>
        `${escapeHtml(name)}: ${before === undefined ? '' : `<del>${cell(before)}</del> `}${cell(after)}`,
    );
    return `<tr><td>${cell(row['changed_at'])}</td><td>${cell(row['changed_by'])}</td><td>${cell(row['action'])}</td><td>${what.join('<br>')}</td></tr>`;
  });
  return `<h3>History</h3><table><tr><th>At</th><th>By</th><th>What</th><th>Values</th></tr>${lines.join('')}</table>`;
}

function page(title: string, body: string, who?: SignIn): string {
  const signed = who
    ? `<form method="post" action="/crm/sign-out"><b>${escapeHtml(who.name)}</b>, ${escapeHtml(who.does)} · <a href="/crm/panels">panels</a> <button>Sign out</button></form>`
    : '<a href="/crm/sign-in">Sign in</a>';
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeHtml(title)} – Co-op CRM</title>
<style>body{font:15px/1.5 Georgia,serif;max-width:60rem;margin:1.5rem auto;padding:0 1rem;color:#222}table{border-collapse:collapse;margin:1rem 0}td,th{text-align:left;padding:.2rem .9rem .2rem 0;border-bottom:1px solid #ccc;vertical-align:top;font-weight:normal}th{color:#555}del{color:#933}nav{display:flex;justify-content:space-between;gap:1rem}section[aria-label=Panel]{border:1px solid #bbb;margin:1rem 0}</style>
<nav><a href="/crm/">Co-op CRM</a>${signed}</nav><h1>${escapeHtml(title)}</h1>${body}</html>`;
}
