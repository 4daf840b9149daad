import { makeEntity, makeField } from '../../../core/testing/world.ts';
import type { RecordState } from '@zusammen/core/schema';
import type { System } from '../../systems/index.ts';
import type { Claimed } from '../claim.ts';
import type { LiveView } from '../live.ts';
import { ReadAhead } from './ahead.ts';

const entity = makeEntity('Enquiries', [makeField('id', { type: 'id' })]);
const live = { allSchemas: async () => new Map([['crm', { entities: [entity] }]]) } as unknown as LiveView;
const claimed = (seq: number, more: object = {}): Claimed =>
  ({ seq, ofRecord: { system: 'crm', entity: 'Enquiries', id: `E-${seq}` }, ...more }) as unknown as Claimed;

let asked: string[][];
let gone: string[];
let works: boolean;
const several = async (_entity: unknown, ids: readonly string[]): Promise<RecordState[]> => {
  asked.push([...ids]);
  if (!works) throw new Error('It is down.');
  return ids.filter((id) => !gone.includes(id)).map((id) => ({ id, values: {}, etag: 'one' }));
};
const ahead = (system: Partial<System> = { several }): ReadAhead =>
  new ReadAhead({ client: async () => system as System }, live);
beforeEach(() => {
  asked = [];
  gone = [];
  works = true;
});
afterEach(() => jest.useRealTimers());

describe('reading ahead', () => {
  it('reads those that are carried out next by one request, twenty at most', async () => {
    const reading = ahead();
    reading.expect(Array.from({ length: 30 }, (_, at) => claimed(at + 1)));
    for (let seq = 1; seq <= 30; seq += 1) expect(await reading.take(seq)).toMatchObject({ id: `E-${seq}` });
    expect(asked.map(({ length }) => length)).toEqual([20, 10]);
  });
  it('reads again what was read more than a second ago', async () => {
    jest.useFakeTimers({ now: 1_000_000 });
    const reading = ahead();
    reading.expect([claimed(1), claimed(2), claimed(3)]);
    await reading.take(1);
    jest.setSystemTime(1_001_001);
    expect(await reading.take(2)).toMatchObject({ id: 'E-2' });
    expect(asked).toEqual([
      ['E-1', 'E-2', 'E-3'],
      ['E-2', 'E-3'],
    ]);
    // A last one by itself is read by whoever needs it.
    jest.setSystemTime(1_003_000);
    expect(await reading.take(3)).toBeUndefined();
    expect(asked).toHaveLength(2);
  });
  it('leaves to reading singly what isn’t given, what is another’s, and all where there is trouble', async () => {
    gone = ['E-2'];
    const reading = ahead();
    const other = claimed(3, { acting: { system: 'crm', person: 'ines', name: 'Ines' } });
    reading.expect([claimed(1), claimed(2), other]);
    expect(await reading.take(1)).toMatchObject({ id: 'E-1' });
    expect([await reading.take(2), await reading.take(3), await reading.take(9)]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
    works = false;
    reading.expect([claimed(4), claimed(5)]);
    expect(await reading.take(4)).toBeUndefined();
    const unable = ahead({});
    unable.expect([claimed(1), claimed(2)]);
    expect(await unable.take(1)).toBeUndefined();
  });
});
