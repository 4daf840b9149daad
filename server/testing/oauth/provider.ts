import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';

/** The authorization server of a package (oidc-provider), running by itself. */
export interface OAuthProvider {
  address: string;
  /** How often a token was asked for. */
  fetched(): Promise<number>;
  /** Signs in at the address, and agrees, as a person does in a browser. @returns where that leads back to */
  signInAt(address: string): Promise<URL>;
  close(): Promise<void>;
}

/** @param lasts seconds a token holds; @param redirect where people are sent back to */
export async function oauthProvider(
  lasts = 300,
  redirect = 'http://127.0.0.1:1/systems/signed-in',
): Promise<OAuthProvider> {
  const program = join(process.cwd(), 'server/testing/oauth/provider.mjs');
  const child: ChildProcess = spawn(process.execPath, [program, String(lasts), redirect], {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, NODE_OPTIONS: '' },
  });
  let said = '';
  const port = await new Promise<string>((resolve, reject) => {
    child.stdout!.on('data', (chunk: Buffer) => {
      said += chunk.toString();
      const found = /listening on (\d+)/.exec(said)?.[1];
      if (found !== undefined) resolve(found);
    });
    child.stderr!.on('data', (chunk: Buffer) => (said += chunk.toString()));
    child.once('exit', () => reject(new Error(said)));
  });
  const address = `http://127.0.0.1:${port}`;
  return {
    address,
    fetched: async () => Number(await (await fetch(`${address}/fetched`)).text()),
    signInAt: (from) => signIn(from, address),
    close: async () => {
      child.kill();
      await once(child, 'exit');
    },
  };
}

/** Follows the pages of the server with a cookie jar: signs in, agrees, and stops where it leads out of the server. */
async function signIn(from: string, origin: string): Promise<URL> {
  const jar = new Map<string, string>();
  const go = async (to: string, body?: URLSearchParams): Promise<Response> => {
    const response = await fetch(to, {
      method: body ? 'POST' : 'GET',
      redirect: 'manual',
      headers: { cookie: [...jar].map(([name, value]) => `${name}=${value}`).join('; ') },
      ...(body ? { body } : {}),
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [pair = ''] = cookie.split(';');
      jar.set(pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1));
    }
    return response;
  };
  let at = from;
  let response = await go(at);
  for (let step = 0; step < 20; step += 1) {
    const location = response.headers.get('location');
    if (location !== null) {
      const next = new URL(location, at);
      if (next.origin !== origin) return next;
      at = next.href;
      response = await go(at);
      continue;
    }
    const page = await response.text();
    const action = /<form[^>]*action="([^"]+)"/.exec(page)?.[1];
    const prompt = /name="prompt" value="([^"]+)"/.exec(page)?.[1];
    if (action === undefined || prompt === undefined) throw new Error(page.slice(0, 2_000));
    at = new URL(action, at).href;
    response = await go(
      at,
      new URLSearchParams(prompt === 'login' ? { prompt, login: 'mara', password: 'x' } : { prompt }),
    );
  }
  throw new Error('It leads in circles.');
}
