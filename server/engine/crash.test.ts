import { addFile, addImport, importById } from '../store/index.ts';
import { startChild, type Child } from '../testing/children.ts';
import { enquiry, openStage, type Stage } from '../testing/stage.ts';
import { until } from '../testing/until.ts';

// Processes are started and killed here; on a busy machine that takes its time.
jest.setTimeout(240_000);

let stage: Stage;
const children: Child[] = [];
beforeAll(async () => {
  // Only the web half runs in this process; what carries out, and dies, runs in processes of its own.
  stage = await openStage({ role: 'web', people: 10 });
});
afterAll(async () => {
  for (const child of children) await child.kill();
  await stage.close();
});

const start = async (role: 'worker'): Promise<Child> => {
  const child = await startChild(stage.databaseUrl, stage.home, 0, role);
  children.push(child);
  return child;
};

/** The ledger and the CRM agree, value by value, and nobody is there twice. */
async function agree(sent: Record<string, string>[]): Promise<void> {
  const [rows] = await stage.db.$client.query(
    "SELECT record_id AS id, after_values AS after FROM ledger WHERE state = 'written' ORDER BY id",
  );
  const last = new Map<string, Record<string, unknown>>();
  for (const { id, after } of rows as { id: string; after: string | object }[]) {
    last.set(id, { ...last.get(id), ...(typeof after === 'string' ? JSON.parse(after) : after) });
  }
  for (const values of sent) {
    const found = await stage.people(values['contact_email']!);
    expect(found).toHaveLength(1);
    expect(found[0]).toMatchObject(last.get(found[0].id)!);
  }
  const [open] = await stage.db.$client.query("SELECT COUNT(*) AS count FROM ledger WHERE state = 'intended'");
  expect(Number((open as { count: number }[])[0]!.count)).toBe(0);
}

it('two workers, one of them killed -9 in the middle of its work: the other takes over', async () => {
  await stage.fault({ kind: 'slow', ms: 60 });
  const [first] = [await start('worker'), await start('worker')];
  const all = Array.from({ length: 60 }, () => enquiry());
  for (const values of all) expect((await stage.submit('pollination-enquiry', values)).status).toBe(202);
  await until('the first is at work', async () => {
    const [rows] = await stage.db.$client.query(
      'SELECT 1 FROM submissions WHERE claimed_by IS NOT NULL OR settled_at IS NOT NULL LIMIT 1',
    );
    return (rows as unknown[]).length > 0;
  });
  await first.kill();
  await stage.noFaults();
  await stage.settled(120_000);
  await agree(all);
});

it('two workers keep one person’s changes in the order of their arrival', async () => {
  await start('worker');
  const values = enquiry();
  for (let at = 0; at < 40; at += 1)
    await stage.submit('pollination-enquiry', { ...values, contact_phone: `030 23125 ${String(at).padStart(3, '0')}` });
  await stage.settled(120_000);
  expect(await stage.people(values['contact_email']!)).toMatchObject([{ phone: '+493023125039' }]);
  await agree([values]);
});

it('kill -9 while a file is taken in: it goes on where it stopped, and every row becomes one submission', async () => {
  const ROWS = 8000;
  const rows = Array.from({ length: ROWS }, (_, at) => `Zuza,Plik${at},plik${at}@pszczoly.example`);
  const { body: intakes } = await stage.api('GET', '/intakes');
  const { id } = intakes.intakes.find(({ key }: { key: string }) => key === 'pollination-enquiry');
  const file = await addFile(
    stage.db,
    {
      name: 'old.csv',
      rows: ROWS,
      columns: ['contact_first', 'contact_last', 'contact_email'],
      uploadedBy: 'the test',
    },
    Buffer.from(`contact_first,contact_last,contact_email\n${rows.join('\n')}\n`),
  );
  const job = await addImport(stage.db, id, file, 'the test');
  const done = async () => (await importById(stage.db, job.id))!;
  let kills = 0;
  for (let worker = await start('worker'); (await done()).state !== 'done'; ) {
    const before = (await done()).done;
    let now = await done();
    for (let waited = 0; waited < 1000 && now.state !== 'done'; waited += 1) {
      if (kills < 3 && now.done > before) break;
      await new Promise((resolve) => setTimeout(resolve, 5));
      now = await done();
    }
    // Killed at once after it was seen under way: a further look would give it the time to end.
    if (kills < 3 && now.state !== 'done') {
      await worker.kill();
      kills += 1;
      worker = await start('worker');
    }
  }
  expect(kills).toBeGreaterThan(0);
  expect(await done()).toMatchObject({ state: 'done', done: ROWS, problems: [] });
  const [counted] = await stage.db.$client.query(
    'SELECT COUNT(*) AS arrived, COUNT(DISTINCT idempotency_key) AS different FROM submissions WHERE idempotency_key LIKE ?',
    [`file:${job.id}:%`],
  );
  expect(counted).toMatchObject([{ arrived: ROWS, different: ROWS }]);
});
