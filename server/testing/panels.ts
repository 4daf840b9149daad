import type { Stage } from './stage.ts';

/** Somebody who is signed in to the pages of the CRM, and opens panels there as their browser would. */
export interface AtCrm {
  cookie: string;
  /** The page of a record. */
  page(set: string, id: string): Promise<string>;
  /** The context that the page of a record signs. */
  context(set: string, id: string): Promise<string>;
  /** Opens the panel on the page of a record. */
  panel(set: string, id: string, key?: string): Promise<{ status: number; html: string }>;
}

export async function atCrm(stage: Stage, login: string): Promise<AtCrm> {
  const signedIn = await fetch(`${stage.standins}/crm/sign-in`, {
    ...{ method: 'POST', body: new URLSearchParams({ login, password: 'clover-hollow' }), redirect: 'manual' },
  });
  const cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!;
  const at: AtCrm = {
    cookie,
    page: async (set, id) => (await fetch(`${stage.standins}/crm/${set}/${id}`, { headers: { cookie } })).text(),
    context: async (set, id) => /data-context="([^"]+)"/.exec(await at.page(set, id))![1]!,
    panel: async (set, id, key) => postContext(stage, await at.context(set, id), key ? { key } : {}),
  };
  return at;
}

/** Posts a signed context, as a browser does from a page of the CRM. */
export async function postContext(
  stage: Stage,
  context: string,
  { key = 'apiary-inspection', origin = stage.standins }: { key?: string; origin?: string } = {},
): Promise<{ status: number; html: string }> {
  const response = await fetch(`${stage.address}/f/${key}/panel?in=${encodeURIComponent(origin)}`, {
    method: 'POST',
    body: new URLSearchParams({ context }),
    headers: { Origin: origin, Accept: 'text/html' },
  });
  return { status: response.status, html: await response.text() };
}

/** The page of a form, as far as it is filled in and sent. */
export function formIn(html: string): { action: string; values: Record<string, string> } {
  const action = /<form[^>]+action="([^"]+)"/.exec(html)?.[1]?.replaceAll('&amp;', '&') ?? '';
  const values: Record<string, string> = {};
  for (const [tag] of html.replace(/<template[\s\S]*?<\/template>/g, '').matchAll(/<input[^>]*>/g)) {
    const name = /\sname="([^"]*)"/.exec(tag)?.[1];
    if (name !== undefined && !/type="(?:checkbox|radio|submit)"/.test(tag))
      values[name] = (/\svalue="([^"]*)"/.exec(tag)?.[1] ?? '').replaceAll('&amp;', '&').replaceAll('&quot;', '"');
  }
  return { action, values };
}

/** Sends a form that was opened, with more filled in, as the page's script does. */
export async function sendForm(
  stage: Stage,
  html: string,
  more: Record<string, string>,
): Promise<{
  status: number;
  body: { submission?: string; thanks?: string; detail?: string; errors?: { field: string; message: string }[] };
}> {
  const { action, values } = formIn(html);
  const response = await fetch(`${stage.address}${action}`, {
    method: 'POST',
    body: new URLSearchParams({ ...values, ...more }),
    headers: { Accept: 'application/json' },
  });
  return { status: response.status, body: (await response.json()) as never };
}
