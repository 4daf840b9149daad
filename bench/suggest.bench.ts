import { existsSync } from 'node:fs';
import { readForms, type ReadForm } from '@zusammen/core/forms';
import { jaroWinkler, suggestLines, type SuggestedLine } from '@zusammen/core/mapping';
import type { Result } from '../scripts/bench.ts';
import { readFields } from '../core/mapping/reading/index.ts';
import { CACHE } from './corpus/fetch.ts';
import { realForms, type Half, type RealField, type RealForm } from './corpus/labelled.ts';
import { pageOf } from './corpus/pages.ts';
import { isRight, wanted } from './corpus/right.ts';
import { WORLDS, type KnownEntity } from './corpus/worlds.ts';
import { FORMS, HELD_OUT, type LabelledForm } from './labelled-forms.ts';

const worlds = Object.values<KnownEntity[]>(WORLDS);
const HALVES: readonly Half[] = ['training', 'held-out'];

/**
 * How forms that nobody here wrote are read, what lines are suggested for them towards six systems, and how right these
 * are; the same for forms written here; and how fast suggestions are computed.
 */
export async function bench(): Promise<Result[]> {
  return [
    ...HALVES.flatMap(reading),
    ...HALVES.flatMap(suggesting),
    ...written(FORMS, `${FORMS.length} forms written here`),
    ...written(HELD_OUT, `${HELD_OUT.length} written here, held out`),
    measureSpeed(),
  ];
}

// ——— reading

const short = (text: string, length: number): string =>
  text
    .replace(/[\s|]+/g, ' ')
    .trim()
    .slice(0, length);

/** Which controls of the pages are read with the label a person reads; needs `npm run corpus`. */
function reading(half: Half): Result[] {
  const forms = existsSync(CACHE) ? realForms(half) : [];
  let controls = 0;
  let read = 0;
  let named = 0;
  for (const form of forms) {
    const page = pageOf(form);
    if (page === undefined) continue;
    const found: ReadForm | undefined = readForms(page)[form.at];
    const left = [...(found?.fields ?? [])];
    for (const field of form.fields.filter(({ hidden }) => !hidden)) {
      controls += 1;
      const at = left.findIndex(
        ({ name, label }) => short(name, 60) === field.name && short(label, 80) === field.label,
      );
      if (at < 0) continue;
      const [match] = left.splice(at, 1);
      if (!field.misread) read += 1;
      if (!match!.byScript) named += 1;
    }
  }
  if (controls === 0) {
    console.log(`  how well pages are read isn't measured: \`npm run corpus\` fetches them first (${half})`);
    return [];
  }
  return [
    {
      what: `controls read with their label (${half})`,
      unit: 'share; yardstick: those with a name',
      yardstick: named / controls,
      ours: read / controls,
      ratio: read / Math.max(1, named),
      aim: '≥ 0.98',
      notes: `${read} of ${controls}`,
    },
  ];
}

// ——— suggesting

interface Told {
  form: RealForm;
  line: SuggestedLine;
  right: boolean;
}

function suggesting(half: Half): Result[] {
  const forms = realForms(half);
  const told: Told[] = [];
  const tally = new Map<string, { set: number; right: number; wanted: number; found: number }>();
  const count = (key: string, what: 'set' | 'right' | 'wanted' | 'found'): void => {
    const row = tally.get(key) ?? { set: 0, right: 0, wanted: 0, found: 0 };
    row[what] += 1;
    tally.set(key, row);
  };
  const bare = { wanted: 0, found: 0 };
  for (const form of forms) {
    const keys = ['', `language ${form.language}`, `form ${kindOf(form)}`];
    for (const entities of worlds) {
      const lines = suggestLines(form.fields, entities);
      for (const line of lines) {
        const right = isRight(line, form.fields, entities);
        told.push({ form, line, right });
        if (line.standing !== 'set') continue;
        for (const key of keys) {
          count(key, 'set');
          if (right) count(key, 'right');
        }
      }
      for (const { entity, field } of wanted(form.fields, entities)) {
        const found = lines.some(
          (line) => line.entity === entity && line.field === field && isRight(line, form.fields, entities),
        );
        for (const key of keys) {
          count(key, 'wanted');
          if (found) count(key, 'found');
        }
        bare.wanted += 1;
        if (form.fields.some(({ name }) => name === field)) bare.found += 1;
      }
    }
  }
  const all = tally.get('')!;
  console.table(
    [...tally]
      .filter(([key, { wanted: asked }]) => key !== '' && asked > 0)
      .sort(([a], [b]) => a.localeCompare(b))
      .map(([key, row]) => ({
        [half]: key,
        ...row,
        precision: share(row.right, row.set),
        'found of wanted': share(row.found, row.wanted),
      })),
  );
  printWrong(told);
  printConfusion(forms);
  const said = told.map(({ line, right }) => ({ confidence: line.confidence, right }));
  const agreed = told.filter(({ line, form }) => line.standing === 'set' && isConsent(form, line)).length;
  return [
    {
      what: `precision of set lines (${half})`,
      unit: 'share; yardstick: always right',
      yardstick: 1,
      ours: all.right / all.set,
      ratio: all.right / all.set,
      aim: '≥ 0.97',
      notes: `${all.right} of ${all.set}`,
    },
    {
      what: `wanted fields found, set or offered (${half})`,
      unit: 'share; yardstick: equal names',
      yardstick: bare.found / bare.wanted,
      ours: all.found / all.wanted,
      ratio: all.found / Math.max(1, bare.found),
      aim: '≥ 0.85',
      notes: `${all.found} of ${all.wanted}`,
    },
    {
      what: `calibration error (${half})`,
      unit: 'mean |said − right|, ten bins; yardstick: always sure',
      yardstick: said.filter(({ right }) => !right).length / said.length,
      ours: calibrationError(said),
      ratio: calibrationError(said),
      aim: 'small',
      notes: '',
    },
    {
      what: `consents that are set (${half})`,
      unit: 'lines',
      yardstick: 0,
      ours: agreed,
      ratio: agreed,
      aim: '0',
      notes: '',
    },
  ];
}

const share = (part: number, whole: number): string => (whole === 0 ? '–' : (part / whole).toFixed(3));

const CONSENTS = ['terms', 'privacy', 'newsletter', 'follow-up', 'consent'];
const isConsent = ({ fields }: RealForm, { from }: SuggestedLine): boolean =>
  from.some((name) => CONSENTS.includes(fields.find((field) => field.name === name)!.truth.meaning));

/** What sort of form it is, by what it asks. */
function kindOf({ fields }: RealForm): string {
  const asks = (...meanings: RealField['truth']['meaning'][]): boolean =>
    fields.some(({ truth }) => meanings.includes(truth.meaning));
  if (fields.some(({ truth }) => truth.whose === 'somebody else')) return 'to somebody else';
  if (asks('message')) return 'with a message';
  if (asks('username')) return 'for an account';
  if (asks('street', 'address', 'postcode')) return 'with an address';
  if (asks('newsletter')) return 'for news';
  return fields.every(({ truth }) => truth.meaning === 'nothing')
    ? 'that asks for nothing kept'
    : 'with names or e-mail';
}

function printWrong(told: readonly Told[]): void {
  const wrong = new Map<string, number>();
  for (const { form, line, right } of told) {
    if (right || line.standing !== 'set') continue;
    const { label, truth } = form.fields.find(({ name }) => name === line.from[0])!;
    const key = `${form.language} “${short(label, 40)}” (${truth.meaning}, ${truth.whose}) → ${line.entity}.${line.field}`;
    wrong.set(key, (wrong.get(key) ?? 0) + 1);
  }
  for (const [what, times] of wrong) console.log(`  wrongly set: ${what}${times > 1 ? ` ×${times}` : ''}`);
}

/** What fields are taken to mean, against what they mean: the twenty commonest confusions. */
function printConfusion(forms: readonly RealForm[]): void {
  const confused = new Map<string, number>();
  let right = 0;
  let fields = 0;
  for (const form of forms) {
    const readings = readFields(form.fields);
    form.fields.forEach(({ truth, hidden }, at) => {
      if (hidden) return;
      const [best] = [...readings[at]!.meanings].sort(([, a], [, b]) => b - a);
      const taken = best && best[1] > readings[at]!.nothing ? best[0] : 'nothing';
      fields += 1;
      if (taken === truth.meaning) right += 1;
      else confused.set(`${truth.meaning} → ${taken}`, (confused.get(`${truth.meaning} → ${taken}`) ?? 0) + 1);
    });
  }
  console.log(`  ${right} of ${fields} fields taken for what they mean; else:`);
  console.table(
    [...confused]
      .sort(([, a], [, b]) => b - a)
      .slice(0, 20)
      .map(([meaning, times]) => ({ 'meant → taken for': meaning, times })),
  );
}

function written(forms: readonly LabelledForm[], what: string): Result[] {
  let set = 0;
  let setRight = 0;
  let found = 0;
  let truths = 0;
  let byName = 0;
  for (const { fields, targets, language } of forms) {
    const truth = new Map(fields.map(({ name, truth: to }) => [name, to]));
    truths += fields.filter(({ truth: to }) => to !== '-').length;
    byName += fields.filter(({ name, truth: to }) => to !== '-' && to.split('.')[1] === name).length;
    for (const line of suggestLines(fields, WORLDS[targets])) {
      const to = `${line.entity}.${line.field}`;
      const right = line.from.length === 1 && truth.get(line.from[0]!) === to;
      if (right) found += 1;
      if (line.standing !== 'set') continue;
      set += 1;
      if (right) setRight += 1;
      else console.log(`  ${language} wrongly set: ${line.from.join('+')} → ${to} ${line.confidence}`);
    }
  }
  return [
    {
      what: `precision of set lines (${what})`,
      unit: 'share',
      yardstick: 1,
      ours: setRight / set,
      ratio: setRight / set,
      aim: '≥ 0.97',
      notes: `${setRight} of ${set}`,
    },
    {
      what: `wanted fields found (${what})`,
      unit: 'share; yardstick: equal names',
      yardstick: byName / truths,
      ours: found / truths,
      ratio: found / Math.max(1, byName),
      aim: '≥ 0.85',
      notes: `${found} of ${truths}`,
    },
  ];
}

/** Expected calibration error (Naeini, Cooper, Hauskrecht 2015): how far what is said is from how often it is right. */
function calibrationError(said: readonly { confidence: number; right: boolean }[]): number {
  let error = 0;
  for (let bin = 0; bin < 10; bin += 1) {
    const inBin = said.filter(({ confidence }) => Math.min(9, Math.floor(confidence * 10)) === bin);
    if (inBin.length === 0) continue;
    const mean = inBin.reduce((sum, { confidence }) => sum + confidence, 0) / inBin.length;
    const right = inBin.filter((each) => each.right).length / inBin.length;
    error += (Math.abs(mean - right) * inBin.length) / said.length;
  }
  return error;
}

// ——— speed

const field = (name: string, label: string) => ({ name, label, type: 'text' });

function measureSpeed(): Result {
  const words = FORMS.flatMap(({ fields }) => fields.map(({ label }) => label)).filter(Boolean);
  const sources = Array.from({ length: 300 }, (_, at) => field(`f${at}`, `${words[at % words.length]!} ${at % 9}`));
  const targets = Array.from({ length: 600 }, (_, at) =>
    field(`t${at}`, `${words[(at * 7) % words.length]!} ${at % 11}`),
  );
  const time = (work: () => void): number => {
    work();
    const started = performance.now();
    for (let round = 0; round < 3; round += 1) work();
    return (performance.now() - started) / 3;
  };
  let sum = 0;
  const yardstick = time(() => {
    for (const source of sources) for (const target of targets) sum += jaroWinkler(source.label, target.label);
  });
  const ours = time(() => void (sum += suggestLines(sources, [{ name: 'e', label: 'E', fields: targets }]).length));
  return {
    what: 'suggest lines, 300 × 600 fields',
    unit: 'ms',
    yardstick,
    ours,
    ratio: ours / yardstick,
    aim: '≤ 3',
    notes: sum > 0 ? '' : 'nothing computed',
  };
}
