import { freshPairing, type Pairing } from '@zusammen/core/pairing';
import { watchConnections } from '../store/index.ts';
import { openStage, type Json, type Stage } from './stage.ts';
import { until } from './until.ts';

/** A stage with what tests of pairings do to the subscribers of Letters and the people of the CRM, again and again. */
export interface TwoSystems {
  stage: Stage;
  /** Ids of the two systems. */
  letters: string;
  crm: string;
  subscriber(id: string): Promise<Json>;
  changeSubscriber(id: string, values: object): Promise<Json>;
  person(id: string): Promise<Json>;
  changePerson(id: string, values: object): Promise<Json>;
  rowsOf(text: string, values?: unknown[]): Promise<Json[]>;
  /** A pairing of subscribers with people, without a line. */
  fresh(name: string): Pairing;
  /** Makes a pairing, starts it and waits until it is at rest. @returns its id */
  started(document: Pairing): Promise<string>;
  detail(id: string): Promise<Json>;
  atRest(id: string): Promise<void>;
  /** Ids of pairs of two records, the first first. */
  pairsOf(id: string): Promise<Json[]>;
  remove(id: string): Promise<void>;
}

/** Opens it before the tests of a file and closes it after them; what it gives may be used within tests. */
export function withTwoSystems(people = 60): TwoSystems {
  const stage = (): Stage => two.stage;
  const two: TwoSystems = {
    stage: undefined as never,
    ...{ letters: '', crm: '' },
    subscriber: (id) => stage().letters(`subscribers/${id}`),
    changeSubscriber: async (id, values) => {
      const { version } = await two.subscriber(id);
      return stage().letters(`subscribers/${id}`, 'PATCH', { ...values, version });
    },
    person: (id) => stage().crm(`People('${id}')`),
    changePerson: (id, values) =>
      stage().crm(`People('${id}')`, { method: 'PATCH', body: JSON.stringify(values), headers: { 'If-Match': '*' } }),
    rowsOf: async (text, values = []) => (await stage().db.$client.query(text, values))[0] as Json[],
    fresh: (name) =>
      freshPairing(name, { system: two.letters, entity: 'subscribers' }, { system: two.crm, entity: 'People' }),
    started: async (document) => {
      const made = await stage().api('POST', '/pairings', { document });
      expect(made.body).toMatchObject({ id: expect.any(String) });
      const { id } = made.body;
      const start = await stage().api('POST', `/pairings/${id}/start`, { revision: 1, accept: true });
      expect(start).toMatchObject({ status: 200, body: { version: 1 } });
      await two.atRest(id);
      return id;
    },
    detail: async (id) => (await stage().api('GET', `/pairings/${id}`)).body.pairing,
    atRest: (id) =>
      until('nothing is on the way', async () => {
        const { filled, states } = await two.detail(id);
        return filled && states.onTheWay === 0;
      }),
    pairsOf: (id) =>
      two.rowsOf(
        'SELECT id, left_id AS l, right_id AS r, state FROM pairs WHERE pairing_id = ? AND left_id IS NOT NULL AND right_id IS NOT NULL ORDER BY id',
        [id],
      ),
    remove: async (id) => {
      expect((await stage().api('DELETE', `/pairings/${id}`)).status).toBe(204);
    },
  };
  // What keeps pairs in step has many transactions at once.
  watchConnections();
  beforeAll(async () => {
    two.stage = await openStage({ people });
    const { systems } = (await stage().api('GET', '/systems')).body;
    const named = (name: string): string => systems.find((each: Json) => each.name === name).id;
    Object.assign(two, { letters: named('Co-op Letters'), crm: named('Co-op CRM') });
  });
  afterAll(() => stage().close());
  return two;
}
