import type { APIRequestContext, Page } from '@playwright/test';
import { address, expect, pick, standins } from './stage.ts';

export interface PairingNow {
  id: string;
  filled: boolean;
  causes: { words: string; count: number }[];
  states: { inStep: number; onTheWay: number; asked: number; refused: number };
}

export const pairing = async (page: Page, id: string): Promise<PairingNow> =>
  ((await (await page.request.get(`${address()}/api/pairings/${id}`)).json()) as { pairing: PairingNow }).pairing;

/** The CRM and Letters, asked directly, as somebody who works in them would change things. */
export async function outside(request: APIRequestContext) {
  const token = await request.post(`${standins()}/letters/oauth/token`, {
    form: { grant_type: 'client_credentials', client_id: 'demo', client_secret: 'demo-secret' },
  });
  const letters = { Authorization: `Bearer ${((await token.json()) as { access_token: string }).access_token}` };
  const crm = { Authorization: 'Bearer demo-administrator', 'If-Match': '*' };
  const subscriber = async (id: string) =>
    (await (await request.get(`${standins()}/letters/v1/subscribers/${id}`, { headers: letters })).json()) as Record<
      string,
      unknown
    >;
  return {
    subscriber,
    changeSubscriber: async (id: string, values: object) => {
      const { version } = await subscriber(id);
      await request.patch(`${standins()}/letters/v1/subscribers/${id}`, {
        headers: letters,
        data: { ...values, version },
      });
    },
    person: async (id: string) =>
      (await (await request.get(`${standins()}/crm/odata/People('${id}')`, { headers: crm })).json()) as Record<
        string,
        unknown
      >,
    subscribers: async () =>
      (
        (await (await request.get(`${standins()}/letters/v1/subscribers?limit=200`, { headers: letters })).json()) as {
          items: Record<string, unknown>[];
        }
      ).items,
    /** All records of an entity of the CRM. */
    lines: async (entity: string) => {
      const all: Record<string, unknown>[] = [];
      for (let next: string | undefined = `${standins()}/crm/odata/${entity}`; next; ) {
        const page = (await (await request.get(next, { headers: crm })).json()) as {
          value: Record<string, unknown>[];
          '@odata.nextLink'?: string;
        };
        all.push(...page.value);
        next = page['@odata.nextLink'] && new URL(page['@odata.nextLink'], `${standins()}/crm/odata/`).href;
      }
      return all;
    },
    /** Writes very many at once, in batches (OData JSON Format 4.01, 19). */
    batch: async (writes: (string | object)[][]) => {
      for (let at = 0; at < writes.length; at += 100) {
        const requests = writes.slice(at, at + 100).map(([method, url, body], index) => ({
          ...{ id: String(index), method, url, body },
          headers: { 'Content-Type': 'application/json', ...(method === 'PATCH' ? { 'If-Match': '*' } : {}) },
        }));
        const answer = await request.post(`${standins()}/crm/odata/$batch`, { headers: crm, data: { requests } });
        const { responses } = (await answer.json()) as { responses: { status: number; body?: unknown }[] };
        for (const { status, body } of responses) if (status >= 300) throw new Error(JSON.stringify(body));
      }
    },
    changePerson: (id: string, values: object) =>
      request.patch(`${standins()}/crm/odata/People('${id}')`, { headers: crm, data: values }),
  };
}

/** Everything was looked at, and nothing is on the way. */
export async function atRest(page: Page, id: string): Promise<void> {
  await expect.poll(async () => (await pairing(page, id)).filled, { timeout: 120_000 }).toBe(true);
  await expect.poll(async () => (await pairing(page, id)).states.onTheWay, { timeout: 60_000 }).toBe(0);
}

/** Makes a pairing of two entities as it is proposed. @param seen what is looked at before @returns its id */
export async function proposed(
  page: Page,
  left: string,
  right: string,
  seen: () => Promise<void> = async () => undefined,
): Promise<string> {
  await page.getByRole('link', { name: 'Pairings' }).click();
  await page.getByRole('button', { name: 'New pairing' }).click();
  await page.getByRole('button', { name: 'Left side' }).click();
  await pick(page, 'Find an entity', left);
  await page.getByRole('button', { name: 'Right side' }).click();
  await pick(page, 'Find an entity', right);
  await seen();
  await page.getByRole('button', { name: 'Make this pairing' }).click();
  await page.waitForURL(/\/pairings\/[0-9a-f-]{36}/);
  return page.url().split('/').at(-1)!.split('?')[0]!;
}
