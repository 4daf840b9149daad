import { Housekeeper, LiveView } from '../engine/index.ts';
import { openStage, type Json, type Stage } from '../testing/stage.ts';
import { until } from '../testing/until.ts';
import { addImport } from './files.ts';
import { setJobState } from './jobs.ts';
import { PERSONAL } from './personal.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
});
afterAll(() => stage.close());

const MARK = 'Vergißmeinnicht';
const tell = async (text: string): Promise<Json[]> => (await stage.db.$client.query(text))[0] as Json[];
/** Every place of the database in which a text stands: as `table.column`. */
async function placesOf(text: string): Promise<string[]> {
  const columns = await tell(
    'SELECT table_name AS t, column_name AS c FROM information_schema.columns WHERE table_schema = DATABASE()',
  );
  const found: string[] = [];
  for (const { t, c } of columns) {
    const [rows] = await stage.db.$client.query(
      `SELECT 1 FROM \`${t}\` WHERE INSTR(LOWER(CONVERT(CAST(\`${c}\` AS CHAR(16777215)) USING utf8mb4)), LOWER(?)) > 0 LIMIT 1`,
      [text],
    );
    if ((rows as unknown[]).length > 0) found.push(`${t}.${c}`);
  }
  return found.sort();
}

it('every table is in the register of where personal values are, or said to hold none', async () => {
  const tables = (
    await tell('SELECT table_name AS t FROM information_schema.tables WHERE table_schema = DATABASE()')
  ).map(({ t }) => t as string);
  const registered = Object.keys(PERSONAL);
  expect(
    tables.filter((table) => !registered.includes(table) && !/^(__drizzle_migrations|migration_guard)$/.test(table)),
  ).toEqual([]);
  expect(registered.filter((table) => !tables.includes(table))).toEqual([]);
  for (const [table, { columns }] of Object.entries(PERSONAL)) {
    const known = (
      await tell(
        `SELECT column_name AS c FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = '${table}'`,
      )
    ).map(({ c }) => c as string);
    expect(columns.filter((column) => !known.includes(column))).toEqual([]);
  }
});

it('what somebody sent stands only where the register says, and after its time nowhere', async () => {
  const intakes = (await stage.api('GET', '/intakes')).body.intakes as Json[];
  const { id } = intakes.find(({ key }) => key === 'pollination-enquiry');
  const values = {
    ...{ contact_first: MARK, contact_last: MARK, contact_email: `${MARK}@biene.example`, orchard: MARK, plz: '21614' },
    ...{ message: MARK, street: MARK, town: MARK },
  };
  // Sent, put right, set aside with a reason, kept as a sample, uploaded as a file and taken in, searched for, taken along.
  const sent = await stage.submit('pollination-enquiry', values, {
    'Idempotency-Key': `key-${encodeURIComponent(MARK)}`,
  });
  const { submission } = (await sent.json()) as Json;
  const keyed = await stage.submit('pollination-enquiry', { ...values, _key: `${MARK}@biene.example` });
  const { submission: refused } = (await keyed.json()) as Json;
  await stage.settled();
  await stage.db.$client.query("UPDATE submissions SET state = 'refused', words = ? WHERE id = ?", [MARK, refused]);
  expect(
    (await stage.api('POST', `/submissions/${refused}/again`, { values: { message: `${MARK} again` } })).status,
  ).toBe(200);
  await stage.settled();
  await stage.db.$client.query("UPDATE submissions SET state = 'refused' WHERE id = ?", [refused]);
  await stage.api('POST', `/submissions/${refused}/set-aside`, { reason: `${MARK} asked us to` });
  await stage.api('POST', `/intakes/${id}/samples`, { values });
  const uploaded = await fetch(`${stage.address}/api/files?name=${encodeURIComponent(`${MARK}.csv`)}`, {
    method: 'POST',
    headers: { cookie: stage.cookie },
    body: `contact_last;contact_first;contact_email;plz\n${MARK};${MARK};${MARK}@biene.example;21614\n${MARK};too;many;cells;here\n`,
  });
  const { file } = (await uploaded.json()) as Json;
  const job = (await stage.api('POST', `/intakes/${id}/imports`, { file: file.id })).body.import;
  await until('the file is taken in', async () => {
    const { body } = await stage.api('GET', `/intakes/${id}/imports`);
    return body.imports.find((each: Json) => each.id === job.id).state === 'done';
  });
  await stage.settled();
  await stage.api('GET', `/submissions?text=${encodeURIComponent(MARK)}`);
  await stage.api('GET', `/ledger/export?format=csv&text=${encodeURIComponent(MARK)}`);
  expect((await stage.api('DELETE', `/files/${file.id}`)).status).toBe(204);
  expect((await placesOf(MARK)).filter((place) => /^files?(_parts)?\./.test(place))).toEqual([]);

  const registered = Object.entries(PERSONAL).flatMap(([table, { columns }]) =>
    columns.map((column) => `${table}.${column}`),
  );
  const before = await placesOf(MARK);
  expect(before).toEqual(
    expect.arrayContaining([
      'submissions.submitted',
      'submissions.reason',
      'ledger.after_values',
      'samples.sample_values',
      'submissions.idempotency_key',
    ]),
  );
  expect(before.filter((place) => !registered.includes(place))).toEqual([]);

  const { intake } = (await stage.api('GET', `/intakes/${id}`)).body;
  const document = { ...intake.draft, settings: { ...intake.draft.settings, keepDays: 30 } };
  const saved = await stage.api('PUT', `/intakes/${id}/draft`, { revision: intake.revision, document });
  await stage.api('POST', `/intakes/${id}/publish`, { revision: saved.body.revision, accept: true });
  const keeper = new Housekeeper(stage.db, { client: () => Promise.reject() }, new LiveView(stage.db), () => {});
  await keeper.index();
  await keeper.forget(new Date(Date.now() + 31 * 86_400_000));
  const mirrors = Object.entries(PERSONAL)
    .filter(([, { leaves }]) => leaves === 'with the record in its system')
    .map(([table]) => table);
  const left = (await placesOf(MARK)).filter((place) => !mirrors.includes(place.split('.')[0]!));
  expect(left).toEqual([]);
  expect((await stage.api('GET', `/submissions/${submission}`)).body).toMatchObject({
    state: 'applied',
    submission: { values: {} },
  });
});

it('a file on its way isn’t removed; one that is gone is gone', async () => {
  const upload = await fetch(`${stage.address}/api/files?name=old.csv`, {
    method: 'POST',
    headers: { cookie: stage.cookie },
    body: 'contact_last;plz\nA;1\n',
  });
  const { file } = (await upload.json()) as Json;
  const job = await addImport(stage.db, '0192f0c1-0000-7000-8000-000000000001', file, 'x');
  await setJobState(stage.db, job.id, ['running'], 'paused');
  expect((await stage.api('DELETE', `/files/${file.id}`)).status).toBe(409);
  await setJobState(stage.db, job.id, ['paused'], 'cancelled');
  expect((await stage.api('DELETE', `/files/${file.id}`)).status).toBe(204);
  expect((await stage.api('DELETE', `/files/${file.id}`)).status).toBe(404);
});
