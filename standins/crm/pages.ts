import express, { type Router } from 'express';
import type { RowDataPacket } from 'mysql2';
import type { Pool } from '../database.ts';
import { escapeHtml } from '../html.ts';
import { allProperties, ENTITY_TYPES, idOf, numberOf, type EntityType } from './definition.ts';
import { rowOf } from './records.ts';
import { toEntity, type Row } from './tables.ts';

/** Pages on which the co-operative's record keepers look at records. */
export function crmPages(pool: Pool): Router {
  const router = express.Router();
  router.get('/', (_request, response) => {
    response.send(
      page(
        'Records',
        `<ul>${ENTITY_TYPES.map(({ set }) => `<li><a href="/crm/${set}">${set}</a></li>`).join('')}</ul>`,
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
      ),
    );
  });
  router.get('/:set/:id', async (request, response) => {
    const entity = ENTITY_TYPES.find((each) => each.set === request.params.set);
    const n = entity && numberOf(entity, request.params.id);
    const row = entity && n !== undefined ? await rowOf(pool, entity, n) : undefined;
    if (!entity || !row) return void response.status(404).send(page('Not here', '<p>There is no such record.</p>'));
    response.send(
      page(`${entity.type} ${idOf(entity, row.n)}`, recordHtml(entity, row) + (await historyHtml(pool, entity, row.n))),
    );
  });
  return router;
}

const cell = (value: unknown): string =>
  escapeHtml(
    value instanceof Date
      ? value.toISOString().slice(0, 19).replace('T', ' ')
      : Array.isArray(value)
        ? value.join(', ')
        : value,
  );

function recordHtml(entity: EntityType, row: Row): string {
  const values = toEntity(
    entity,
    row,
    allProperties(entity).map((each) => each.name),
  );
  const title = entity.title
    .map((name) => values[name])
    .filter(Boolean)
    .join(' ');
  const lines = allProperties(entity).map((property) => {
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

function page(title: string, body: string): string {
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeHtml(title)} – Co-op CRM</title>
<style>body{font:15px/1.5 Georgia,serif;max-width:60rem;margin:1.5rem auto;padding:0 1rem;color:#222}table{border-collapse:collapse;margin:1rem 0}td,th{text-align:left;padding:.2rem .9rem .2rem 0;border-bottom:1px solid #ccc;vertical-align:top;font-weight:normal}th{color:#555}del{color:#933}</style>
<p><a href="/crm/">Co-op CRM</a></p><h1>${escapeHtml(title)}</h1>${body}</html>`;
}
