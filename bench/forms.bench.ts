import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { get as ask, type Agent } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { formOf, item } from '../core/testing/hosted.ts';
import type { Result } from '../scripts/bench.ts';
import { freePort } from '../scripts/testing/setup.ts';
import { callerOf, load, openBench, percentile } from './stage.ts';

const ROUNDS = 3;
const SECONDS = 5;
const CONNECTIONS = 32;
const QUESTIONS = 30;

/** Showing a form of ours with 30 questions, against a bare handler that sends the same bytes under the same load. */
export async function bench(): Promise<Result[]> {
  const stage = await openBench(['web']);
  const folder = mkdtempSync(join(tmpdir(), 'zusammen-bench-forms-'));
  try {
    const ours = await published(stage.address);
    const bytes = join(folder, 'page.html');
    writeFileSync(bytes, await (await fetch(ours)).text());
    const port = await freePort();
    const yardstick = spawn(process.execPath, ['--import', 'tsx', 'bench/yardstick-forms.ts'], {
      env: { ...process.env, BYTES: bytes, PORT: String(port) },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    await new Promise<void>((resolve) => yardstick.stdout.once('data', () => resolve()));
    const run = (url: string) => load(CONNECTIONS, SECONDS, (agent) => page(agent, url));
    const rates: { bare: number[]; ours: number[] } = { bare: [], ours: [] };
    let times: number[] = [];
    let bareTimes: number[] = [];
    // Taking turns, so that a slow minute of the machine hits both; the first round warms up.
    for (let round = 0; round <= ROUNDS; round += 1) {
      const first = await run(`http://127.0.0.1:${port}/f`);
      const second = await run(ours);
      if (round === 0) continue;
      rates.bare.push(first.rate);
      rates.ours.push(second.rate);
      [times, bareTimes] = [second.times, first.times];
    }
    yardstick.kill();
    const mean = (list: number[]): number => list.reduce((sum, each) => sum + each, 0) / list.length;
    return [
      {
        what: `a form of ours with ${QUESTIONS} questions`,
        unit: `pages/s, ${CONNECTIONS} connections`,
        yardstick: mean(rates.bare),
        ours: mean(rates.ours),
        ratio: mean(rates.ours) / mean(rates.bare),
        aim: '≥ 0.5',
        notes: `p99 ${percentile(times, 0.99).toFixed(1)} ms against ${percentile(bareTimes, 0.99).toFixed(1)} ms`,
      },
    ];
  } finally {
    await stage.close();
    rmSync(folder, { recursive: true });
  }
}

/** Makes and publishes the form. @returns its address */
async function published(address: string): Promise<string> {
  const api = await callerOf(address);
  const { intakes } = (await api('GET', '/intakes')) as { intakes: { id: string; key: string }[] };
  const { id: like } = intakes.find(({ key }) => key === 'pollination-enquiry')!;
  const { intake } = (await api('GET', `/intakes/${like}`)) as { intake: { draft: Draft } };
  const kinds = ['text', 'long text', 'email', 'one of', 'several of', 'date', 'number', 'yes/no'] as const;
  const options = ['a', 'b', 'c', 'd'].map((value) => ({ value, label: { en: `Option ${value}` } }));
  const questions = Array.from({ length: QUESTIONS }, (_, at) => {
    const kind = kinds[at % kinds.length]!;
    const isChoice = kind === 'one of' || kind === 'several of';
    return item(kind, at === 0 ? 'contact_last' : `question${at}`, {
      label: { en: `What about number ${at}?` },
      help: { en: 'As far as you know it today.' },
      ...(isChoice ? { options } : {}),
      ...(at > 20
        ? { shown: { match: 'all' as const, parts: [{ field: 'question7', test: 'is' as const, value: 'yes' }] } }
        : {}),
    });
  });
  const steps = intake.draft.plan.steps.map((step) => ({
    ...step,
    lines: step.lines.filter(({ from }) => from.every((name) => name === 'contact_last')),
    recognise: [],
  }));
  const document = {
    ...intake.draft,
    ...{ name: 'Measured', source: { kind: 'ours' }, form: formOf(questions), fields: [], plan: { steps } },
    // Whoever measures comes from one address.
    settings: { perMinute: 100_000 },
  };
  const made = (await api('POST', '/intakes', { key: 'measured', document })) as { intake: { id: string } };
  await api('POST', `/intakes/${made.intake.id}/publish`, { revision: 1, accept: true });
  return `${address}/f/measured`;
}

interface Draft {
  plan: { steps: { lines: { from: string[] }[] }[] };
}

function page(agent: Agent, url: string): Promise<void> {
  return new Promise((resolve, reject) => {
    ask(url, { agent }, (response) => {
      if (response.statusCode !== 200) reject(new Error(`answered ${response.statusCode}`));
      response.resume();
      response.once('end', resolve);
    }).once('error', reject);
  });
}
