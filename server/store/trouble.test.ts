import mysql from 'mysql2/promise';
import { DrizzleQueryError } from 'drizzle-orm/errors';
import { isDatabaseAway, loggable } from './trouble.ts';

const lost = Object.assign(new Error('Connection lost'), { code: 'PROTOCOL_CONNECTION_LOST', fatal: true });

describe('what of an error is logged', () => {
  it('never holds the values of a query', () => {
    const failed = new DrizzleQueryError('select * from people where email = ?', ['kathi@biene.example'], lost);
    const duplicate = Object.assign(new Error("Duplicate entry 'kathi@biene.example' for key 'x'"), {
      code: 'ER_DUP_ENTRY',
      sqlMessage: "Duplicate entry 'kathi@biene.example'",
      sql: "insert 'kathi@biene.example'",
    });
    for (const error of [failed, duplicate]) expect(JSON.stringify(loggable(error))).not.toContain('kathi');
    expect(loggable(failed).error).toContain('PROTOCOL_CONNECTION_LOST');
    expect(loggable(duplicate).error).toContain('ER_DUP_ENTRY');
  });
  it('holds the words and the frames of others', () => {
    const told = loggable(new Error('a bug'));
    expect(told.error).toBe('a bug');
    expect(told.frames).toMatch(/^\s+at /);
  });
});

it('tells a database that is away from a query that is wrong', () => {
  expect(isDatabaseAway(lost)).toBe(true);
  expect(isDatabaseAway(new DrizzleQueryError('x', [], lost))).toBe(true);
  expect(
    isDatabaseAway(new DrizzleQueryError('x', [], Object.assign(new Error('no'), { code: 'ER_PARSE_ERROR' }))),
  ).toBe(false);
  expect(isDatabaseAway(new Error('a bug'))).toBe(false);
});

it('knows a connection that is killed, and one that has come to its end, as the database and the package word it', async () => {
  const connection = await mysql.createConnection(process.env['TEST_DATABASE_URL']!);
  const killed = await connection.query('KILL CONNECTION_ID()').catch((error: unknown) => error);
  expect(isDatabaseAway(killed)).toBe(true);
  const asked = await connection.query('SELECT 1').catch((error: unknown) => error);
  expect(isDatabaseAway(asked)).toBe(true);
  expect(isDatabaseAway(new DrizzleQueryError('x', [], asked as Error))).toBe(true);
});
