import type { Result } from '../scripts/bench.ts';
import { atCrm } from '../server/testing/panels.ts';
import type { Stage } from '../server/testing/stage.ts';
import { away, AWAY_MS, openBench, percentile, type Bench } from './stage.ts';

const OPENINGS = 100;
const WARM_UP = 50;

/**
 * Opening a panel, from the signed context to the first byte of the page, against the system's own reading of that
 * record. A fresh context each time; the person's token and rights are known from the first one, as in a day's work.
 */
export async function bench(): Promise<Result[]> {
  const stage = await openBench();
  try {
    return [
      await opening(stage, 'opening a panel, the system beside us'),
      await away(stage, () => opening(stage, `opening a panel, the system ${AWAY_MS} ms away`)),
    ];
  } finally {
    await stage.close();
  }
}

async function opening(stage: Bench, what: string): Promise<Result> {
  const inspector = await atCrm({ standins: stage.standins, address: stage.address } as Stage, 'inspector');
  const odata = `${stage.standins}/crm/odata/People`;
  const headers = { Authorization: 'Bearer demo-integration' };
  const people = (await (await fetch(`${odata}?$top=50&$select=id`, { headers })).json()) as {
    value: { id: string }[];
  };
  const own: number[] = [];
  const ours: number[] = [];
  for (let at = 0; at < WARM_UP + OPENINGS; at += 1) {
    const { id } = people.value[at % people.value.length]!;
    const context = await inspector.context('People', id);
    const read = await timed(() => fetch(`${odata}('${id}')`, { headers }));
    const opened = await timed(() =>
      fetch(`${stage.address}/f/apiary-inspection/panel?in=${encodeURIComponent(stage.standins)}`, {
        method: 'POST',
        body: new URLSearchParams({ context }),
        headers: { Origin: stage.standins, Accept: 'text/html' },
      }),
    );
    if (at < WARM_UP) continue;
    own.push(read);
    ours.push(opened);
  }
  for (const list of [own, ours]) list.sort((a, b) => a - b);
  const [yardstick, measured] = [percentile(own, 0.95), percentile(ours, 0.95)];
  const unit = 'ms to the first byte, p95';
  const notes = `median ${percentile(ours, 0.5).toFixed(1)} ms against ${percentile(own, 0.5).toFixed(1)} ms`;
  return { what, unit, yardstick, ours: measured, ratio: measured / yardstick, aim: '≤ 1.5', notes };
}
/** Milliseconds to the first byte; the rest is read as well. */
async function timed(work: () => Promise<Response>): Promise<number> {
  const started = performance.now();
  const response = await work();
  const ms = performance.now() - started;
  const text = await response.text();
  if (!response.ok) throw new Error(`answered ${response.status}: ${text.slice(0, 400)}`);
  return ms;
}
