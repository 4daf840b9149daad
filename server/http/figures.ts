import type { Figures, Range, Today } from '@zusammen/core/api';
import type { Database } from '../store/index.ts';
import type { Unsent } from './route.ts';

export type IntakeFigures = Omit<Figures, 'last'> & { last: Date | null };

const DAYS = 14;

/** How each intake is doing, by intake id. Days are those of UTC. */
export async function intakeFigures(db: Database): Promise<Map<string, IntakeFigures>> {
  const [rows] = await db.$client.query(
    `SELECT intake_id AS id, DATE(received_at) AS day, COUNT(*) AS arrived,
       SUM(state = 'refused' OR state = 'failed') AS refused, SUM(state = 'in review') AS in_review,
       SUM(state IN ('applied', 'taken back')) AS applied,
       SUM(state IN ('applied', 'taken back') AND json_value(course, '$.steps[0].verdict') = 'one') AS recognised,
       MAX(received_at) AS last
     FROM submissions WHERE received_at >= ? GROUP BY intake_id, DATE(received_at)`,
    [new Date(Date.now() - 30 * 86_400_000)],
  );
  const today = Math.floor(Date.now() / 86_400_000);
  const figures = new Map<string, IntakeFigures>();
  for (const row of rows as Record<string, unknown>[]) {
    const id = row['id'] as string;
    const found = figures.get(id) ?? {
      perDay: new Array<number>(DAYS).fill(0),
      today: 0,
      recognised: 0,
      applied: 0,
      refused: 0,
      inReview: 0,
      last: null,
    };
    const ago = today - Math.floor((row['day'] as Date).getTime() / 86_400_000);
    if (ago >= 0 && ago < DAYS) found.perDay[DAYS - 1 - ago] = Number(row['arrived']);
    if (ago === 0) found.today = Number(row['arrived']);
    found.refused += Number(row['refused']);
    found.inReview += Number(row['in_review']);
    found.applied += Number(row['applied']);
    found.recognised += Number(row['recognised']);
    const last = row['last'] as Date;
    if (!found.last || last > found.last) found.last = last;
    figures.set(id, found);
  }
  return figures;
}

export const RANGES = { '24h': 86_400_000, '7d': 7 * 86_400_000, '30d': 30 * 86_400_000 } satisfies Record<
  Range,
  number
>;
const STEP: Record<Range, number> = { '24h': 3_600_000, '7d': 6 * 3_600_000, '30d': 86_400_000 };

/** Among more than these, the newest tell how long it took. */
const MOST_DELAYS = 50_000;

/** What was put away or deleted doesn't count. */
const IN_SIGHT = 'intake_id NOT IN (SELECT id FROM intakes WHERE put_away_at IS NOT NULL OR deleted_at IS NOT NULL)';

type TodayFigures = Unsent<Omit<Today, 'withoutKey'>>;

/** What arrived in a range up to now, and what came of it. */
export async function todayFigures(db: Database, range: Range, now: Date): Promise<TodayFigures> {
  const step = STEP[range];
  const end = Math.ceil(now.getTime() / step) * step;
  const start = end - RANGES[range];
  const [rows] = await db.$client.query(
    `SELECT FLOOR(TIMESTAMPDIFF(SECOND, ?, received_at) / ?) AS slot, state,
       json_value(course, '$.steps[0].outcome') AS outcome, COUNT(*) AS count
     FROM submissions WHERE received_at >= ? AND received_at < ? AND ${IN_SIGHT} GROUP BY slot, state, outcome`,
    [new Date(start), step / 1000, new Date(start), new Date(end)],
  );
  const bars = Array.from({ length: RANGES[range] / step }, (_, at) => ({
    at: new Date(start + at * step),
    created: 0,
    updated: 0,
    other: 0,
    review: 0,
    refused: 0,
  }));
  const today = {
    arrived: 0,
    arrivedBefore: 0,
    created: 0,
    updated: 0,
    systems: 0,
    median: null as number | null,
    p95: null as number | null,
    bars,
    needs: [] as TodayFigures['needs'],
  };
  for (const row of rows as Record<string, unknown>[]) {
    const bar = bars[Number(row['slot'])];
    const count = Number(row['count']);
    if (!bar) continue;
    today.arrived += count;
    if (row['state'] === 'in review') bar.review += count;
    else if (row['state'] === 'refused' || row['state'] === 'failed') bar.refused += count;
    else if (row['outcome'] === 'created') bar.created += count;
    else if (row['outcome'] === 'updated' || row['outcome'] === 'unchanged') bar.updated += count;
    else bar.other += count;
  }
  today.created = bars.reduce((sum, bar) => sum + bar.created, 0);
  today.updated = bars.reduce((sum, bar) => sum + bar.updated, 0);
  const [before] = await db.$client.query(
    `SELECT COUNT(*) AS count FROM submissions WHERE received_at >= ? AND received_at < ? AND ${IN_SIGHT}`,
    [new Date(start - RANGES[range]), new Date(start)],
  );
  today.arrivedBefore = Number((before as { count: number }[])[0]!.count);
  const [written] = await db.$client.query(
    "SELECT COUNT(DISTINCT system_id) AS count FROM ledger WHERE state = 'written' AND action = 'create' AND intended_at >= ?",
    [new Date(start)],
  );
  today.systems = Number((written as { count: number }[])[0]!.count);
  const [delays] = await db.$client.query(
    `SELECT TIMESTAMPDIFF(MICROSECOND, received_at, settled_at) / 1000 AS ms FROM submissions
     WHERE state = 'applied' AND received_at >= ? AND ${IN_SIGHT} ORDER BY seq DESC LIMIT ?`,
    [new Date(start), MOST_DELAYS],
  );
  const ms = (delays as { ms: number }[]).map((row) => Number(row.ms)).sort((a, b) => a - b);
  if (ms.length > 0) {
    today.median = ms[Math.floor(ms.length / 2)]!;
    today.p95 = ms[Math.min(ms.length - 1, Math.floor(ms.length * 0.95))]!;
  }
  // Questions are of many kinds and answered one by one in the same place; refusals that are alike are mended alike.
  const [needs] = await db.$client.query(
    `SELECT state, intake_id AS intakeId, IF(state = 'in review', NULL, words) AS words, COUNT(*) AS count, MIN(received_at) AS oldest
     FROM submissions
     WHERE (state IN ('in review', 'refused', 'failed') OR (state = 'received' AND attempts > 0)) AND ${IN_SIGHT}
     GROUP BY 1, 2, 3 ORDER BY count DESC LIMIT 12`,
  );
  today.needs = (needs as Record<string, unknown>[]).map((row) => ({
    ...row,
    count: Number(row['count']),
  })) as unknown as TodayFigures['needs'];
  return today;
}
