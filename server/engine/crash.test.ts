import { freePort } from '../../scripts/testing/setup.ts';
import { startChild, type Child } from '../testing/children.ts';
import { enquiry, openStage, type Stage } from '../testing/stage.ts';

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

const start = async (role: 'all' | 'worker', port = 0): Promise<Child> => {
  const child = await startChild(stage.databaseUrl, stage.home, port, role);
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

it('kill -9 during 200 submissions: nothing that was accepted is lost, nothing is done twice', async () => {
  const port = await freePort();
  let server = await start('all', port);
  const all = Array.from({ length: 200 }, (_, at) =>
    enquiry(at % 4 === 3 ? { contact_email: `again${at % 8}@biene.example` } : {}),
  );
  const accepted: Record<string, string>[] = [];
  const send = async (values: Record<string, string>, at: number): Promise<void> => {
    for (let attempt = 0; ; attempt += 1) {
      try {
        const response = await fetch(`http://127.0.0.1:${port}/in/pollination-enquiry`, {
          method: 'POST',
          body: new URLSearchParams(values),
          headers: { 'Idempotency-Key': `crash-${at}` },
        });
        if (response.status === 202) return void accepted.push(values);
      } catch {
        // The server is down at this moment; a sender that got no answer sends again under the same key.
      }
      if (attempt > 200) throw new Error('never accepted');
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  };
  const sending = (async () => {
    for (let at = 0; at < all.length; at += 10)
      await Promise.all(all.slice(at, at + 10).map((values, index) => send(values, at + index)));
  })();
  for (let death = 0; death < 3; death += 1) {
    await new Promise((resolve) => setTimeout(resolve, 350));
    await server.kill();
    server = await start('all', port);
  }
  await sending;
  await stage.settled(120_000);
  expect(accepted).toHaveLength(200);
  await agree(all);
  await server.kill();
});

it('two workers, one of them killed -9 in the middle of its work: the other takes over', async () => {
  await stage.fault({ kind: 'slow', ms: 60 });
  const [first] = [await start('worker'), await start('worker')];
  const all = Array.from({ length: 60 }, () => enquiry());
  for (const values of all) expect((await stage.submit('pollination-enquiry', values)).status).toBe(202);
  await new Promise((resolve) => setTimeout(resolve, 200));
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
