import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import formats from 'ajv-formats';
import { execFile, spawnSync } from 'node:child_process';
import { promisify } from 'node:util';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { enquiry, openStage, type Json, type Stage } from '../testing/stage.ts';

/** What the published document says of our API holds, judged by programs that nobody here wrote. */
let stage: Stage;
let described: Json;
const folder = resolve('test-results', 'contract');
beforeAll(async () => {
  stage = await openStage({ people: 5, past: 40 });
  described = (await stage.api('GET', '/openapi.json')).body;
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
});
afterAll(() => stage.close());

/** The validator of an operation's answer. */
function answerOf(method: string, path: string): ValidateFunction {
  const ajv = new Ajv2020({ strict: false, allErrors: true });
  formats.default(ajv);
  ajv.addSchema({ $id: 'api', ...described });
  const pointer = path.replaceAll('~', '~0').replaceAll('/', '~1');
  const at = `/paths/${pointer}/${method}/responses/200/content/application~1json/schema`;
  return ajv.compile({ $ref: `api#${at.split('/').map(encodeURIComponent).join('/')}` });
}

it('is up to date with the types it is generated from', () => {
  const program =
    "import('./scripts/bootstrap.mjs').then(({ bootstrap }) => bootstrap({ database: false })).then(() => import('./scripts/contract.ts')).then(({ contractText }) => process.stdout.write(contractText()))";
  const { stdout, stderr } = spawnSync(process.execPath, ['-e', program], { encoding: 'utf8', maxBuffer: 64 << 20 });
  expect(stderr).toBe('');
  const kept: unknown = JSON.parse(readFileSync('server/http/contract.json', 'utf8'));
  // Where they differ: npm run contract.
  expect(kept).toEqual(JSON.parse(stdout));
});

it('publishes the schemas of documents, each of which holds by itself: an adapter is one', async () => {
  const { body } = await stage.api('GET', '/schemas.json');
  const ajv = new Ajv2020({ strict: false, allErrors: true });
  formats.default(ajv);
  ajv.addSchema({ $id: 'documents', ...body });
  const holds = ajv.compile({ $ref: 'documents#/$defs/AdapterDocument' });
  const letters = (await stage.api('GET', '/systems')).body.systems.find(({ kind }: Json) => kind === 'json');
  const { document } = (await stage.api('GET', `/systems/${letters.id}/adapter`)).body;
  expect(holds(document) || holds.errors).toBe(true);
  expect(holds({ ...document, entities: [{ ...document.entities[0], key: [] }] })).toBe(false);
  expect(holds({ ...document, signIn: { kind: 'by magic' } })).toBe(false);
});

it('describes every operation: its parameters, its body and its answer', () => {
  const operations = Object.entries<Json>(described.paths).flatMap(([path, methods]) =>
    Object.entries<Json>(methods).map(([method, operation]) => ({ path, method, operation })),
  );
  expect(operations.length).toBeGreaterThan(70);
  for (const { path, method, operation } of operations.filter(({ path: at }) => at.startsWith('/api'))) {
    const at = `${method} ${path}`;
    const answers = Object.entries<Json>(operation.responses).filter(([status]) => status !== 'default');
    expect([at, answers.length]).toEqual([at, expect.any(Number)]);
    for (const [status, { content }] of answers)
      expect([at, status === '204' || content !== undefined]).toEqual([at, true]);
    const named = [...path.matchAll(/{(\w+)}/g)].map(([, name]) => name);
    const inPath = (operation.parameters ?? [])
      .filter((each: Json) => each.in === 'path')
      .map((each: Json) => each.name);
    expect([at, inPath]).toEqual([at, named]);
  }
  const files = described.paths['/api/files'].post;
  expect(files.requestBody.content).toHaveProperty('application/octet-stream');
  expect(files.parameters).toMatchObject([{ name: 'name', in: 'query', required: true }]);
  expect(described.paths['/api/ledger'].get.parameters.map(({ name }: Json) => name)).toEqual(
    expect.arrayContaining(['text', 'record', 'from', 'before', 'limit']),
  );
});

it('what is answered is what the document says', async () => {
  await stage.submit('pollination-enquiry', enquiry());
  await stage.settled();
  const { intakes } = (await stage.api('GET', '/intakes')).body;
  const { systems } = (await stage.api('GET', '/systems')).body;
  const { submissions } = (await stage.api('GET', '/submissions')).body;
  const [intake] = intakes;
  const entity = `/systems/${systems[0].id}/entities/People`;
  const paths: [path: string, actual: string][] = [
    ['/health', '/health'],
    ['/session', '/session'],
    ['/systems', '/systems'],
    ['/systems/{id}', `/systems/${systems[0].id}`],
    ['/intakes', '/intakes'],
    ['/submissions', '/submissions?limit=20'],
    ['/ledger', '/ledger?limit=50'],
    ['/today', '/today?range=7d'],
    ['/find', '/find?text=mail'],
    ['/reach', `/reach?system=${systems[0].id}&entity=People`],
    ['/people', '/people'],
    ['/changes', '/changes'],
    ['/sign-ins', '/sign-ins'],
    ['/mapping/learned', '/mapping/learned'],
    ['/recognitions', '/recognitions'],
    ['/systems/{id}/entities/{entity}/recognition', `${entity}/recognition`],
    ['/systems/{id}/entities/{entity}/doubles', `${entity}/doubles`],
    ...intakes.flatMap(({ id }: Json): [string, string][] => [
      ['/intakes/{id}', `/intakes/${id}`],
      ['/intakes/{id}/versions/{number}', `/intakes/${id}/versions/1`],
      ['/intakes/{id}/samples', `/intakes/${id}/samples`],
      ['/intakes/{id}/past', `/intakes/${id}/past?limit=5`],
      ['/intakes/{id}/facts', `/intakes/${id}/facts`],
      ['/intakes/{id}/imports', `/intakes/${id}/imports`],
      ['/intakes/{id}/secrets', `/intakes/${id}/secrets`],
    ]),
    ...submissions.slice(0, 12).flatMap(({ id }: Json): [string, string][] => [
      ['/submissions/{id}', `/submissions/${id}`],
      ['/submissions/{id}/alike', `/submissions/${id}/alike`],
    ]),
  ];
  expect(intake).toBeDefined();
  for (const [path, actual] of paths) {
    const { status, body } = await stage.api('GET', actual);
    const valid = answerOf('get', `/api${path}`);
    valid(body);
    expect([actual, status, valid.errors]).toEqual([actual, 200, null]);
  }
});

it('a client made from it by a general tool compiles, and works', async () => {
  writeFileSync(join(folder, 'openapi.json'), JSON.stringify(described));
  const make = spawnSync(
    process.execPath,
    ['node_modules/openapi-typescript/bin/cli.js', join(folder, 'openapi.json'), '--output', join(folder, 'api.ts')],
    { encoding: 'utf8' },
  );
  expect([make.status, make.stderr]).toEqual([0, expect.any(String)]);
  writeFileSync(join(folder, 'client.ts'), CLIENT);
  writeFileSync(
    join(folder, 'tsconfig.json'),
    JSON.stringify({
      compilerOptions: {
        ...{ strict: true, noEmit: true, module: 'NodeNext', target: 'ES2022', skipLibCheck: false, types: ['node'] },
        ...{ allowImportingTsExtensions: true, lib: ['ES2023', 'DOM', 'DOM.Iterable'] },
      },
      files: ['client.ts'],
    }),
  );
  const compile = spawnSync(process.execPath, ['node_modules/typescript7/bin/tsc', '-p', folder], { encoding: 'utf8' });
  expect([compile.status, compile.stdout]).toEqual([0, '']);
  // It asks the server that runs in this very process, which must not be held up meanwhile.
  const run = await promisify(execFile)(process.execPath, [
    ...['--import', 'tsx', join(folder, 'client.ts')],
    ...[stage.address, stage.cookie],
  ]);
  const { length } = (await stage.api('GET', '/intakes')).body.intakes;
  const told = `mara@cloverhollow.example, ${length} intakes, 1 sample, 404 for none`;
  expect([run.stderr, run.stdout.trim()]).toEqual(['', told]);
});

/** A program of somebody who knows the document only; its types are checked against it. */
const CLIENT = `
import createClient from 'openapi-fetch';
import type { components, paths } from './api.ts';

const [address, cookie] = process.argv.slice(2) as [string, string];
const client = createClient<paths>({ baseUrl: address, headers: { cookie } });
const { data: session } = await client.GET('/api/session');
const { data: listed } = await client.GET('/api/intakes');
const intakes = listed!.intakes;
const first: components['schemas']['IntakeLine'] = intakes[0]!;
const path = { id: first.id };
const { data: detail } = await client.GET('/api/intakes/{id}', { params: { path } });
const names: string[] = detail!.intake.draft.fields.map(({ name }) => name);
const { data: kept } = await client.POST('/api/intakes/{id}/samples', {
  params: { path },
  body: { values: { [names[0]!]: 'a value' } },
});
const { data: rehearsed } = await client.POST('/api/intakes/{id}/rehearse', {
  params: { path },
  body: { document: detail!.intake.draft, of: [kept!.sample.id] },
});
const { data: changes } = await client.GET('/api/ledger', { params: { query: { limit: '5', state: 'written' } } });
if (changes!.changes.some(({ state }) => state !== 'written')) throw new Error('The search is not heard.');
const { response, error } = await client.GET('/api/submissions/{id}', { params: { path: { id: 'none' } } });
const refused: string | undefined = error?.title;
if (refused === undefined) throw new Error('A problem has a title.');
console.log(
  session!.user.email + ', ' + intakes.length + ' intakes, ' + rehearsed!.results.length + ' sample, ' + response.status + ' for none',
);
`;
