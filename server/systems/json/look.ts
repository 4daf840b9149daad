import type { AdapterSignIn, Inferred } from '@zusammen/core/adapters';
import type { Dispatcher } from 'undici';
import { overHttp, withPatience, withRetry, type Send } from '../http.ts';
import { isSystemTrouble, NotUnderstood, TokenRefused } from '../system.ts';
import { looksDescribed, MOST_ELSEWHERE, type DescriptionReader } from '../description/index.ts';
import { inferFromList } from './seen.ts';
import { withSignIn } from './sign-in.ts';
import { fetchToken, ownToken, type SignInSecrets } from './tokens.ts';

const TIMEOUT_MS = 20_000;

/** A description says too little without documents that stand elsewhere, and that nobody has allowed to be fetched. */
export class LeadsElsewhere extends NotUnderstood {
  constructor(
    message: string,
    readonly elsewhere: string[],
  ) {
    super(message);
  }
}

/** What stands at an address, or in a description that came as a file. */
export interface LookedAt extends Inferred {
  by: 'openapi' | 'samples';
  elsewhere: string[];
}

export interface Look {
  address?: string | undefined;
  /** A description that came as a file. */
  text?: string | undefined;
  signIn?: AdapterSignIn | undefined;
  secrets?: SignInSecrets | undefined;
  /** Documents elsewhere that it refers to may be fetched. */
  follow?: boolean | undefined;
}

/** How requests go out that are sent before a system is connected. */
export function lookingSend(signIn: AdapterSignIn, secrets: SignInSecrets, dispatcher: Dispatcher): Send {
  const tokens = ownToken(() => fetchToken(signIn, secrets, dispatcher));
  const once = withPatience(withSignIn(overHttp(TIMEOUT_MS, dispatcher), signIn, secrets, tokens));
  return withRetry(once, { attempts: 3, pauseMs: 100, longestWaitMs: 2_000 });
}

/**
 * Looks at what an address is: the description of an API, or a list of records. @throws SystemTrouble when it is neither
 */
export async function lookAt(
  { address, text, signIn = { kind: 'none' }, secrets = {}, follow = false }: Look,
  dispatcher: Dispatcher,
  read: DescriptionReader,
): Promise<LookedAt> {
  const send = lookingSend(signIn, secrets, dispatcher);
  if (text !== undefined) return described(text, address, dispatcher, read, follow);
  if (address === undefined) throw new NotUnderstood('An address or a description is needed.');
  const response = await send({
    method: 'GET',
    url: address,
    headers: { Accept: 'application/json, application/vnd.oai.openapi+json, application/yaml;q=0.9, */*;q=0.5' },
    repeatable: true,
  });
  if (response.status === 401 || response.status === 403)
    throw new TokenRefused(
      `It answers ${response.status}: say how to sign in, or give the address of its description.`,
    );
  if (response.status >= 300) throw new NotUnderstood(`It answers ${response.status}.`);
  if (looksDescribed(response.text)) return described(response.text, address, dispatcher, read, follow);
  if (/^\s*</.test(response.text))
    throw new NotUnderstood('There is a page at this address, and no description of an API or list of records.');
  return { ...(await inferFromList(address, send, read)), by: 'samples', elsewhere: [] };
}

async function described(
  text: string,
  at: string | undefined,
  dispatcher: Dispatcher,
  read: DescriptionReader,
  follow: boolean,
): Promise<LookedAt> {
  const others: Record<string, string> = {};
  // Sign-ins go nowhere but to the API itself.
  const plain = withPatience(overHttp(TIMEOUT_MS, dispatcher));
  for (;;) {
    const found = await read({ text, at, others });
    const missing = (found.elsewhere ?? []).filter((each) => !Object.hasOwn(others, each));
    if (!follow || missing.length === 0 || Object.keys(others).length >= MOST_ELSEWHERE) {
      if (!found.ok)
        throw missing.length > 0 ? new LeadsElsewhere(found.reason, missing) : new NotUnderstood(found.reason);
      const { ok: _, ...rest } = found;
      return { ...rest, by: 'openapi' };
    }
    for (const each of missing) others[each] = await textAt(each, plain);
  }
}

/** A document elsewhere; one that can't be had is as if it were empty, and what needs it is said to be missing. */
async function textAt(address: string, send: Send): Promise<string> {
  if (!/^https?:/.test(address)) return '{}';
  try {
    const { status, text } = await send({ method: 'GET', url: address, headers: {}, repeatable: true });
    return status === 200 ? text : '{}';
  } catch (error) {
    if (isSystemTrouble(error)) return '{}';
    throw error;
  }
}
