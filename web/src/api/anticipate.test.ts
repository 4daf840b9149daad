/** @jest-environment @happy-dom/jest-environment */
import { QueryClient } from '@tanstack/react-query';
import { anticipate } from './anticipate.ts';
import { intakeQuery, meQuery, systemQuery } from './hooks.ts';

const ID = '01a21860-428b-7506-a61e-35f86ffaf596';

/** What is asked when a page at this address is opened, answered as said; 401 where nothing is. */
async function opened(path: string, answers: Record<string, unknown>) {
  const asked: string[] = [];
  globalThis.fetch = (async (to: string) => {
    const at = new URL(to, 'http://here.example').pathname.replace('/api', '');
    asked.push(at);
    return answers[at] === undefined
      ? new Response('{"title":"Sign in"}', { status: 401 })
      : new Response(JSON.stringify(answers[at]));
  }) as typeof fetch;
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  anticipate(client, path);
  while (client.isFetching() > 0) await new Promise((resolve) => setTimeout(resolve, 5));
  return { client, asked: asked.sort() };
}
const intake = { intake: { id: ID, draft: { plan: { steps: [{ system: 'crm' }, { system: 'crm' }] } } } };

it('an intake’s page is asked for with the systems its plan writes to, each once', async () => {
  const answers = {
    ...{ '/session': { user: { name: 'Mara' } }, '/systems': { systems: [] } },
    ...{ [`/intakes/${ID}`]: intake, '/systems/crm': { schema: { entities: [] } } },
  };
  const { client, asked } = await opened(`/intakes/${ID}/plan`, answers);
  expect(asked).toEqual([`/intakes/${ID}`, '/session', '/systems', '/systems/crm']);
  expect(client.getQueryData(meQuery.queryKey)).toEqual({ name: 'Mara' });
  expect(client.getQueryData(intakeQuery(ID).queryKey)).toEqual(intake);
  expect(client.getQueryData(systemQuery('crm').queryKey)).toEqual({ schema: { entities: [] } });
});

it.each(['/', '/intakes', '/intakes/new', '/review'])('of %s only who is signed in', async (path) => {
  expect((await opened(path, {})).asked).toEqual(['/session']);
});

it('whoever isn’t signed in is told so by the page, not by this', async () => {
  const { client, asked } = await opened(`/intakes/${ID}/plan`, {});
  expect(asked).toEqual([`/intakes/${ID}`, '/session', '/systems']);
  expect(client.getQueryData(intakeQuery(ID).queryKey)).toBeUndefined();
});
