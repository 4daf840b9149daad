import { startFrom, STARTING_POINTS } from './core/asking/index.ts';
import { standingsOf, troublesOf } from './core/forms/hosted/index.ts';
import { signInAt, callerAt } from './server/testing/stage.ts';
const cookie = await signInAt('http://localhost:4600', 'mara@cloverhollow.example');
const stage = { api: callerAt('http://localhost:4600', cookie) };
const { systems } = (await stage.api('GET', '/systems')).body;
const schemas = new Map();
for (const s of systems) schemas.set(s.id, (await stage.api('GET', `/systems/${s.id}`)).body.schema);
for (const point of STARTING_POINTS) {
  let n = 0;
  const t = Date.now();
  const started = startFrom(point, {
    schemas,
    learned: [],
    where: { country: 'DE', locale: 'en' },
    newId: () => `n${(n += 1)}`,
  });
  console.log(
    '==',
    point.name,
    Date.now() - t,
    'ms left',
    started.left,
    'added',
    started.added,
    'missing',
    started.missing,
    troublesOf(started.document.form!),
  );
  for (const { item, name } of standingsOf(started.document.form!))
    console.log('  ', name, '|', item.kind, '|', item.label.en, item.required ? '*' : '', item.options?.length ?? '');
  for (const s of started.document.plan.steps)
    console.log(
      '   >',
      s.entity,
      s.repeat ?? '',
      JSON.stringify(s.recognise),
      s.lines
        .map((l) => `${l.from.join('+') || l.fromStep?.step}->${l.field}[${l.treatments.map((t) => t.kind)}]`)
        .join(' '),
    );
}
process.exit(0);
