import { openStage, signInAt, type Json, type Stage } from '../testing/stage.ts';

/** Every route × every role, as the API itself says who may. */
let stage: Stage;
const cookies: Record<string, string | undefined> = { nobody: undefined };
let routes: { method: string; path: string; role: string }[];
beforeAll(async () => {
  stage = await openStage({ people: 5 });
  cookies['administrator'] = stage.cookie;
  const [people] = await stage.db.$client.query('SELECT email, role FROM users');
  for (const { email, role } of people as { email: string; role: string }[])
    cookies[role] ??= await signInAt(stage.address, email);
  const { paths } = (await (await fetch(`${stage.address}/api/openapi.json`)).json()) as Json;
  routes = Object.entries(paths as Record<string, Record<string, Json>>).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, said]) => ({ method, path, role: said['x-role'] as string })),
  );
});
afterAll(() => stage.close());

const RANK = ['anyone', 'viewer', 'specialist', 'administrator'];
const NOTHING = '00000000-0000-0000-0000-000000000000';

it('nobody does more than the role of a route allows, and whoever has it gets past the door', async () => {
  expect(routes.length).toBeGreaterThan(60);
  const wrong: string[] = [];
  for (const { method, path, role } of routes) {
    // The door for submissions has no roles; what is listened to ends never.
    if (role === 'anyone' || path.startsWith('/in/') || path.endsWith('/live')) continue;
    for (const [who, cookie] of Object.entries(cookies)) {
      // A body that is no JSON, about what isn't there: who may gets as far as that, and nothing is changed.
      const response = await fetch(
        `${stage.address}/api${path.replace(/^\/api/, '').replaceAll(/\{\w+\}/g, NOTHING)}`,
        {
          method: method.toUpperCase(),
          headers: { ...(cookie ? { cookie } : {}), 'Content-Type': 'application/json' },
          ...(method === 'get' ? {} : { body: '{' }),
        },
      );
      await response.body?.cancel();
      const allowed = who !== 'nobody' && RANK.indexOf(who) >= RANK.indexOf(role);
      const turnedAway = response.status === 401 || response.status === 403;
      if (allowed === turnedAway || response.status >= 500)
        wrong.push(`${method} ${path} as ${who}: ${response.status}`);
    }
  }
  expect(wrong).toEqual([]);
});

it('a viewer causes no request to any system or page', () => {
  const asking = [
    '/pages/read',
    '/systems/try',
    'rehearse',
    'compare',
    'would',
    '/records',
    '/doubles/groups/{id}',
    '/read',
  ];
  const open = routes.filter(
    ({ path, role }) =>
      (role === 'viewer' || role === 'anyone') && asking.some((each) => path.endsWith(each)) && path !== '/forms/read',
  );
  expect(open.map(({ path }) => path).filter((path) => !path.endsWith('/forms/read'))).toEqual([]);
});

it('a viewer sees of doubles which records they are, and a specialist what is in them', async () => {
  const { body } = await stage.api('GET', '/systems');
  const at = `/systems/${body.systems[0].id}/entities/People/doubles`;
  const [[{ scope, id }]] = (await stage.db.$client.query(
    "SELECT r.scope, k.record_id AS id FROM recognitions r JOIN known_records k ON k.scope = r.scope WHERE r.entity = 'People' LIMIT 1",
  )) as never as [[{ scope: number; id: string }]];
  await stage.db.$client.query(
    `INSERT INTO double_groups (search_id, scope, members, weight_hundredths, verdict, state, merge_plan)
     VALUES (UUID(), ?, ?, 900, 'same', 'open', '{"survivor":"x","values":{"last_name":"Secret"},"others":[]}')`,
    [scope, JSON.stringify([id])],
  );
  const asked = async (who: string): Promise<Json> => {
    const response = await fetch(`${stage.address}/api${at}`, { headers: { cookie: cookies[who]! } });
    return ((await response.json()) as Json).groups[0];
  };
  expect(await asked('viewer')).toMatchObject({ names: [id], merge: null });
  const seen = await asked('specialist');
  expect(seen.names).not.toEqual([id]);
  expect(seen.merge.values).toEqual({ last_name: 'Secret' });
});
