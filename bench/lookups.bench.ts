import { setMaxListeners } from 'node:events';
import { Agent } from 'node:http';
import type { Result } from '../scripts/bench.ts';
import { openBench, percentile, post, formBody, load, callerOf } from './stage.ts';

const LOOKS = 400;
const ROUNDS = 3;
const SECONDS = 5;
const CONNECTIONS = 32;
const VISITORS = 1000;
/** Each visitor types for so long before they look again, in milliseconds. */
const PAUSE_MS = 30_000;
/** How far away a system usually is, in milliseconds; the stand-in is on the machine itself. */
const AWAY_MS = 30;
const SYLLABLES = 'obst hof kir gart lind brook end mar lane ost win hol low fru wis dei cid qui bio gut'.split(' ');

/**
 * Looking records up in a form of ours, against asking the system itself for the same; and taking submissions in while a
 * thousand visitors look things up.
 */
export async function bench(): Promise<Result[]> {
  const stage = await openBench(['web', 'worker']);
  const agent = new Agent({ keepAlive: true, maxSockets: 8 });
  try {
    await raised(stage.address, ['contract-change', 'pollination-enquiry']);
    const system = `${stage.standins}/crm/odata/Organisations`;
    const ask = async (text: string): Promise<void> => {
      const query = new URLSearchParams({
        $filter: `contains(tolower(name),'${text}')`,
        $select: 'id,name,city',
        $orderby: 'name',
        $top: '10',
      });
      const response = await fetch(`${system}?${query.toString().replaceAll('+', '%20')}`, {
        headers: { Authorization: 'Bearer demo-integration' },
      });
      if (!response.ok) throw new Error(`the system answered ${response.status}`);
      await response.text();
    };
    const look = async (text: string, by = agent): Promise<number> =>
      post(
        by,
        `${stage.address}/f/contract-change/read`,
        new URLSearchParams({ _question: 'organisation', _text: text }).toString(),
      );
    /** Takes turns, so that a slow minute of the machine hits both. @returns the 95th of 100, and ours in the middle */
    const measured = async (marks: string): Promise<{ theirs: number; own: number; middle: number }> => {
      const [direct, ours]: [number[], number[]] = [[], []];
      const taken = async (work: () => Promise<unknown>, times: number[]): Promise<void> => {
        const begun = performance.now();
        await work();
        times.push(performance.now() - begun);
      };
      for (let at = 0; at < LOOKS; at += 1) {
        // Each text is new: what was answered a moment ago is remembered, and would flatter.
        const text = `${SYLLABLES[at % SYLLABLES.length]}${at < SYLLABLES.length ? '' : at.toString(36)}${marks}`;
        await taken(() => ask(text), direct);
        await taken(async () => {
          const status = await look(text);
          if (status !== 200) throw new Error(`a look-up answered ${status}`);
        }, ours);
      }
      const [theirs, own] = [direct, ours].map((times) => times.slice(20).sort((a, b) => a - b)) as [
        number[],
        number[],
      ];
      return { theirs: percentile(theirs, 0.95), own: percentile(own, 0.95), middle: percentile(own, 0.5) };
    };
    const here = await measured('');
    await fetch(`${stage.standins}/faults`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ system: 'crm', kind: 'slow', share: 1, ms: AWAY_MS }),
    });
    const away = await measured('s');
    await fetch(`${stage.standins}/faults`, { method: 'DELETE' });

    const accepting = async (): Promise<number> =>
      (
        await load(CONNECTIONS, SECONDS, async (by) => {
          const status = await post(
            by,
            `${stage.address}/in/pollination-enquiry`,
            formBody(Math.floor(Math.random() * 1e9)),
          );
          if (status !== 202) throw new Error(`answered ${status}`);
        })
      ).rate;
    const [alone, beside]: [number[], number[]] = [[], []];
    const answered: Record<string, number> = {};
    for (let round = 0; round <= ROUNDS; round += 1) {
      const first = await accepting();
      const visitors = new AbortController();
      setMaxListeners(VISITORS * 2, visitors.signal);
      const by = new Agent({ keepAlive: true, maxSockets: 64 });
      const looking = Array.from({ length: VISITORS }, async (_, at) => {
        await paused(Math.random() * PAUSE_MS, visitors.signal);
        while (!visitors.signal.aborted) {
          const status = await look(
            `${SYLLABLES[at % SYLLABLES.length]}${Math.floor(Math.random() * 1e6).toString(36)}`,
            by,
          ).catch(() => 0);
          answered[status] = (answered[status] ?? 0) + 1;
          await paused(PAUSE_MS, visitors.signal);
        }
      });
      const second = await accepting();
      visitors.abort();
      await Promise.all(looking);
      by.destroy();
      if (round === 0) continue;
      alone.push(first);
      beside.push(second);
    }
    const mean = (list: number[]): number => list.reduce((sum, each) => sum + each, 0) / list.length;
    return [
      {
        ...{ what: `looking a record up, the system ${AWAY_MS} ms away`, unit: 'ms, p95', aim: '≤ 1.2' },
        ...{ yardstick: away.theirs, ours: away.own, ratio: away.own / away.theirs },
        notes: `median ${away.middle.toFixed(1)} ms; the yardstick is the system's own answer to the same`,
      },
      {
        ...{ what: 'looking a record up, the system on the same machine', unit: 'ms, p95', aim: 'for comparison' },
        ...{ yardstick: here.theirs, ours: here.own, ratio: here.own / here.theirs },
        notes: `median ${here.middle.toFixed(1)} ms`,
      },
      {
        ...{
          what: `accepting while ${VISITORS} visitors look records up`,
          unit: `submissions/s, ${CONNECTIONS} connections`,
        },
        ...{ yardstick: mean(alone), ours: mean(beside), ratio: mean(beside) / mean(alone), aim: '≥ 0.9' },
        notes: `each looks every ${PAUSE_MS / 1000} s; answers ${JSON.stringify(answered)}`,
      },
    ];
  } finally {
    agent.destroy();
    await stage.close();
  }
}

const paused = (ms: number, signal: AbortSignal): Promise<void> =>
  new Promise((resolve) => {
    if (signal.aborted) return resolve();
    const timer = setTimeout(resolve, ms);
    signal.addEventListener('abort', () => (clearTimeout(timer), resolve()), { once: true });
  });

/** Whoever measures comes from one address. */
async function raised(address: string, keys: readonly string[]): Promise<void> {
  const api = await callerOf(address);
  const { intakes } = (await api('GET', '/intakes')) as { intakes: { id: string; key: string }[] };
  for (const { id } of intakes.filter(({ key }) => keys.includes(key))) {
    const { intake } = (await api('GET', `/intakes/${id}`)) as {
      intake: { revision: number; draft: { settings: object } };
    };
    const document = { ...intake.draft, settings: { ...intake.draft.settings, perMinute: 100_000 } };
    await api('PUT', `/intakes/${id}/draft`, { document, revision: intake.revision });
    await api('POST', `/intakes/${id}/publish`, { revision: intake.revision + 1, accept: true });
  }
}
