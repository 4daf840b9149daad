import { callerAt, openStage, signInAt, type Json, type Stage } from '../testing/stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 5 });
});
afterAll(() => stage.close());
beforeEach(() => stage.db.$client.query('DELETE FROM sign_ins'));

const nobody = (): Stage['api'] => callerAt(stage.address, '');
const PASSWORD = 'a field of clover in june';
let made = 0;
/** Somebody with access, who has set their password by the link that was made for them. */
async function newcomer(role = 'viewer') {
  made += 1;
  const person = { name: `Person ${made}`, email: `Person${made}@cloverhollow.example`, role };
  const { status, body } = await stage.api('POST', '/people', person);
  expect(status).toBe(201);
  const token = body.link.split('#')[1] as string;
  return { ...person, id: body.id as string, token };
}
async function settled(role = 'viewer') {
  const person = await newcomer(role);
  const { body } = await nobody()('POST', '/session/set-password', { token: person.token, password: PASSWORD });
  expect(body).toEqual({ email: person.email.toLowerCase() });
  return { ...person, cookie: await signInAt(stage.address, person.email, PASSWORD) };
}

describe('guessing', () => {
  const guess = (email: string, from: number, password = 'nothing of the kind') =>
    fetch(`${stage.address}/api/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'X-Forwarded-For': `203.0.113.${from}` },
      body: JSON.stringify({ email, password }),
    });

  it('one account from many addresses is limited, however the address of the account is written', async () => {
    const { email } = await settled();
    const answers = await Promise.all(
      Array.from({ length: 40 }, (_, at) => guess(at % 2 === 0 ? email.toUpperCase() : ` ${email}`, at)),
    );
    const tally = answers.filter(({ status }) => status === 429).length;
    expect(tally).toBeGreaterThanOrEqual(25);
    expect((await guess(email, 99, PASSWORD)).status).toBe(429);
    expect((await guess('somebody.else@cloverhollow.example', 99)).status).toBe(401);
  });

  it('counts in all processes alike: it is the database that remembers', async () => {
    const { email } = await settled();
    for (let at = 0; at < 13; at += 1) await guess(email, 1);
    const [rows] = await stage.db.$client.query('SELECT COUNT(*) AS count FROM sign_ins WHERE NOT succeeded');
    expect(Number((rows as { count: number }[])[0]!.count)).toBe(13);
  });

  it('and coming in stand on record, with who and from where', async () => {
    const { name, email } = await settled();
    await guess(email, 7);
    await guess('nobody@cloverhollow.example', 8);
    const { signIns } = (await stage.api('GET', '/sign-ins')).body;
    expect(signIns.slice(0, 3)).toMatchObject([
      { name: null, address: '203.0.113.8', succeeded: false },
      { name, address: '203.0.113.7', succeeded: false },
      { name, succeeded: true },
    ]);
    expect(JSON.stringify(signIns)).not.toContain('nobody@');
  });
});

describe('a password', () => {
  it('is set once by a link, by nobody else, and by none that has run out', async () => {
    const person = await newcomer();
    const set = (token: string) => nobody()('POST', '/session/set-password', { token, password: PASSWORD });
    expect((await set('made-up')).status).toBe(422);
    expect((await set(person.token)).status).toBe(200);
    expect((await set(person.token)).status).toBe(422);
    const { body } = await stage.api('POST', `/people/${person.id}/password-link`);
    await stage.db.$client.query('UPDATE password_links SET expires_at = ?', [new Date(Date.now() - 1)]);
    expect((await set(body.link.split('#')[1])).status).toBe(422);
    expect((await stage.db.$client.query('SELECT token_hash FROM password_links'))[0]).not.toEqual(
      expect.arrayContaining([expect.objectContaining({ token_hash: body.link.split('#')[1] })]),
    );
  });

  it.each([
    'short',
    '1234567890',
    'qwertyuiop',
    'aaaaaaaaaaaaaaa',
    'password123',
    'cloverhollow.example',
    'Person Persona',
  ])('that is “%s” is refused, naming the field', async (password) => {
    const { token } = await newcomer();
    const { status, body } = await nobody()('POST', '/session/set-password', { token, password });
    expect({ status, errors: body.errors }).toMatchObject({ status: 422, errors: [{ field: 'password' }] });
    const entry = { name: 'Person Weak', email: `weak${made}@cloverhollow.example`, role: 'viewer', password };
    expect((await stage.api('POST', '/people', entry)).status).toBe(422);
  });

  it('is changed by whoever knows the present one; every other session of theirs ends', async () => {
    const { email, cookie } = await settled();
    const other = callerAt(stage.address, await signInAt(stage.address, email, PASSWORD));
    const mine = callerAt(stage.address, cookie);
    const next = 'another field, of buckwheat';
    expect((await mine('PUT', '/session/password', { current: 'wrong', password: next })).body.errors).toMatchObject([
      { field: 'current' },
    ]);
    expect((await mine('PUT', '/session/password', { current: PASSWORD, password: next })).status).toBe(204);
    expect((await mine('GET', '/session')).status).toBe(200);
    expect((await other('GET', '/session')).status).toBe(401);
    await expect(signInAt(stage.address, email, PASSWORD)).rejects.toThrow('401');
    expect(await signInAt(stage.address, email, next)).toBeTruthy();
  });

  it('link is made for those who have access only, and by administrators', async () => {
    const { id } = await settled();
    await stage.api('PATCH', `/people/${id}`, { active: false });
    expect((await stage.api('POST', `/people/${id}/password-link`)).status).toBe(409);
  });
});

it('what a session listens to ends with it: by signing out, by losing access, by a new password', async () => {
  const listening = async (cookie: string) => {
    const response = await fetch(`${stage.address}/api/live`, { headers: { cookie } });
    const reader = response.body!.getReader();
    return {
      async ended(): Promise<boolean> {
        for (;;) if ((await reader.read()).done) return true;
      },
    };
  };
  const [one, other, third] = [await settled(), await settled(), await settled()];
  const feeds = [await listening(one.cookie), await listening(other.cookie), await listening(third.cookie)];
  await callerAt(stage.address, one.cookie)('DELETE', '/session');
  await stage.api('PATCH', `/people/${other.id}`, { active: false });
  const { body } = await stage.api('POST', `/people/${third.id}/password-link`);
  await nobody()('POST', '/session/set-password', {
    token: body.link.split('#')[1],
    password: 'a third field, of rape',
  });
  expect(await Promise.all(feeds.map((feed) => feed.ended()))).toEqual([true, true, true]);
});

describe('an installation that nobody has access to', () => {
  it('gets its first administrator by a link, once', async () => {
    const { makeFirstLink } = await import('../access/index.ts');
    expect(await makeFirstLink(stage.db)).toBeUndefined();
    const [kept] = await stage.db.$client.query('SELECT * FROM users');
    await stage.db.$client.query('DELETE FROM users');
    try {
      const token = (await makeFirstLink(stage.db))!;
      expect(await makeFirstLink(stage.db)).toBeUndefined();
      const entry = { token, name: 'First', email: 'First@cloverhollow.example', password: PASSWORD };
      const become = (change: Json = {}) => nobody()('POST', '/session/first-administrator', { ...entry, ...change });
      expect((await become({ token: 'made-up' })).status).toBe(422);
      expect((await become({ password: '1234567890' })).status).toBe(422);
      const both = await Promise.all([become(), become({ email: 'second@cloverhollow.example' })]);
      expect(both.map(({ status }) => status).sort()).toEqual([200, 422]);
      expect(await makeFirstLink(stage.db)).toBeUndefined();
    } finally {
      await stage.db.$client.query('DELETE FROM users');
      for (const user of kept as Json[]) await stage.db.$client.query('INSERT INTO users SET ?', [user]);
    }
  });
});
