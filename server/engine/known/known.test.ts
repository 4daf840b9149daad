import { METHOD, suggestRecognition } from '@zusammen/core/recognition';
import { makeEntity, makeField } from '../../../core/testing/world.ts';
import { recognitionOfEntity, removeSystem, saveRecognition } from '../../store/index.ts';
import { SystemUnavailable, type From, type Page, type System } from '../../systems/index.ts';
import { openStage, type Json, type Stage } from '../../testing/stage.ts';
import { until } from '../../testing/until.ts';
import { LiveView } from '../live.ts';
import { Feeds } from '../feeds/index.ts';
import { Jobs } from '../jobs.ts';
import { knownListener } from './listener.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await openStage({ people: 80 });
});
afterAll(() => stage.close());

/** Somebody into the CRM, as its own users would enter them. */
const enter = (person: Record<string, unknown>): Promise<Json> =>
  stage.crm('People', { method: 'POST', body: JSON.stringify(person) });

const report = (reporter: string, phone: string): Promise<Response> =>
  stage.submit('swarm-report', { where: 'Pear tree', reporter, reporter_tel: phone, height: '2' });

const stateOf = async (response: Response): Promise<Json> => {
  const { submission } = (await response.json()) as { submission: string };
  await stage.settled();
  return (await stage.api('GET', `/submissions/${submission}`)).body;
};

/** Resolves when the index holds a record, or holds it no more, as the feed's next turn brings it. */
const known = (id: string, isKnown = true): Promise<void> =>
  until(`${id} is ${isKnown ? '' : 'no longer '}known`, async () => {
    await stage.db.$client.query("UPDATE jobs SET due_at = NOW(3) WHERE kind = 'feed'");
    const [rows] = await stage.db.$client.query('SELECT 1 FROM known_records WHERE record_id = ?', [id]);
    return (rows as unknown[]).length > 0 === isKnown;
  });

/** One turn at what a system tells; nobody else's. */
async function readOnce(
  systemId: string,
  client: System,
  view: LiveView,
  feeds = new Feeds(stage.db, { client: async () => client }, view, [knownListener(stage.db, view.known)]),
): Promise<void> {
  const [due] = await stage.db.$client.query(
    "SELECT j.id FROM jobs j JOIN feeds f ON f.id = j.subject WHERE j.kind = 'feed' AND f.system_id = ?",
    [systemId],
  );
  const [{ id }] = due as [{ id: string }];
  await stage.db.$client.query('UPDATE jobs SET due_at = NOW(3) - INTERVAL 1 SECOND WHERE id = ?', [id]);
  const jobs = new Jobs(stage.db, { feed: feeds.work }, { name: 'test', pollMs: 1000, log: () => undefined });
  for (let due = true; due; ) due = (await jobs.here(id, 'feed', 10_000))!.dueAt.getTime() <= Date.now();
  await jobs.stop();
}

describe('the index of known records', () => {
  it('holds all people of the CRM once the demo is loaded', async () => {
    const [rows] = await stage.db.$client.query(
      "SELECT known, filled_at IS NOT NULL AS filled, counted_over FROM recognitions JOIN feeds USING (system_id, entity) WHERE entity = 'People'",
    );
    const { '@odata.count': count } = await stage.crm('People?$count=true&$top=1');
    expect(rows).toEqual([{ known: count, filled: 1, counted_over: count }]);
  });

  it('hears of who is entered, changed and removed in the CRM itself', async () => {
    const { id } = await enter({ first_name: 'Gesche', last_name: 'Quakenbrück', phone: '+493023125901' });
    await known(id);
    const [rows] = await stage.db.$client.query('SELECT packed FROM known_records WHERE record_id = ?', [id]);
    expect((rows as { packed: string }[])[0]!.packed).toContain('493023125901');
    await stage.crm(`People('${id}')`, { method: 'DELETE', headers: { 'If-Match': '*' } });
    await known(id, false);
  });
});

describe('recognised by evidence', () => {
  it('a known person is found under another spelling, and nobody is made anew', async () => {
    const { id } = await enter({ first_name: 'Wilhelmine', last_name: 'Żurawska', phone: '+493023125902' });
    await known(id);
    const told = await stateOf(await report('Wilhelmine Zurawska', '030 23125 902'));
    expect(told.state).toBe('applied');
    expect(told.steps[0]).toMatchObject({ verdict: 'one', record: { id } });
    expect(told.steps[0].weighed[0].evidence.map(({ about }: Json) => about)).toContain('telephone');
    expect((await stage.crm(`Visits?$filter=person_id eq '${id}'`)).value).toHaveLength(1);
  });

  it('who may be somebody known is asked about, and either answer is carried out', async () => {
    const { id } = await enter({ first_name: 'Gundula', last_name: 'Ostermoor', phone: '+493023125903' });
    await known(id);
    const asked = await stateOf(await report('G. Ostermoor', '030 23125 777'));
    expect(asked.state).toBe('in review');
    expect(asked.steps[0]).toMatchObject({ verdict: 'unsure', outcome: 'asked' });
    expect(asked.steps[0].candidates.map((each: Json) => each.id)).toEqual([id]);
    const answer = (body: object, of: Json) =>
      stage.api('POST', `/submissions/${of.submission.id}/answers`, { step: 'reporter', ...body });
    expect((await answer({ record: id }, asked)).status).toBe(200);
    await stage.settled();
    const again = await stateOf(await report('G. Ostermoor', '030 23125 778'));
    expect(again.state).toBe('in review');
    expect((await answer({ anew: true }, again)).status).toBe(200);
    await stage.settled();
    const people = await stage.crm("People?$filter=last_name eq 'Ostermoor'");
    expect(people.value).toHaveLength(2);
    const [decided] = await stage.db.$client.query('SELECT b, same FROM decided_pairs ORDER BY id');
    expect((decided as Json[]).map(({ same }) => same)).toEqual([1, 0]);
  });

  it('several at once: of each the record that the evidence speaks for most, seen beforehand', async () => {
    const names = [
      ['Tjorven', 'Ahrensbök', '911'],
      ['Levke', 'Dithmarsen', '912'],
    ];
    const ids: string[] = [];
    for (const [first_name, last_name, end] of names) {
      const { id } = await enter({ first_name, last_name, phone: `+493023125${end}` });
      await known(id);
      ids.push(id);
    }
    const asked: Json[] = [];
    for (const [first, last, end] of names)
      asked.push(await stateOf(await report(`${first![0]}. ${last}`, `030 23125 77${end![2]}`)));
    expect(asked.map(({ state }) => state)).toEqual(['in review', 'in review']);
    const [first] = asked;
    const at = `/submissions/${first!.submission.id}`;
    const { alike } = (await stage.api('GET', `${at}/alike`)).body;
    expect(alike.map((each: Json) => each.asked.best.id)).toEqual(ids);
    expect(alike[1].asked.best.values).toMatchObject({ last_name: 'Dithmarsen' });
    const both = { step: 'reporter', best: true, anew: true };
    expect((await stage.api('POST', `${at}/answers`, both)).body.errors[0].field).toBe('record');
    const { body } = await stage.api('POST', `${at}/answers`, { step: 'reporter', best: true, alike: true });
    expect(body.decided).toEqual(asked.map(({ submission }) => ({ submission: submission.id, step: 'reporter' })));
    await stage.settled();
    for (const id of ids) expect((await stage.crm(`Visits?$filter=person_id eq '${id}'`)).value).toHaveLength(1);
    // Undone after the records have changed: nobody is made anew unasked, and it is asked among the records of then.
    await stage.crm(`People('${ids[0]}')`, {
      method: 'PATCH',
      headers: { 'If-Match': '*' },
      body: JSON.stringify({ first_name: 'Zoe', last_name: 'Underhill' }),
    });
    await until('the index has heard of it', async () => {
      await stage.db.$client.query("UPDATE jobs SET due_at = NOW(3) WHERE kind = 'feed'");
      const [rows] = await stage.db.$client.query('SELECT packed FROM known_records WHERE record_id = ?', [ids[0]]);
      return (rows as { packed: string }[])[0]!.packed.includes('underhill');
    });
    expect((await stage.api('POST', `${at}/unanswer`, { step: 'reporter' })).body).toMatchObject({
      results: [{ done: true }],
    });
    await stage.settled();
    const again = (await stage.api('GET', at)).body;
    expect(again.state).toBe('in review');
    expect(again.steps[0]).toMatchObject({ outcome: 'asked', why: 'the decision was undone' });
    expect(again.steps[0].candidates.map((each: Json) => each.id)).toEqual([ids[0]]);
    expect((await stage.crm("People?$filter=last_name eq 'Ahrensbök'")).value).toEqual([]);
  });

  it('two at the same moment, spelled differently, make one record', async () => {
    await Promise.all([
      report('Friederike Mühlenbrock', '030 23125 904'),
      report('Friederike Muehlenbrock', '+49 30 23125904'),
      report('Rike Mühlenbrock', '030/23125904'),
    ]);
    await stage.settled();
    const people = await stage.crm("People?$filter=phone eq '%2B493023125904'");
    const waiting = await stage.api('GET', '/submissions?state=in review');
    const questions = waiting.body.submissions.filter(({ label }: Json) => /M(ü|ue)hlenbrock/.test(label));
    expect(people.value).toHaveLength(1);
    expect(questions.length).toBeLessThanOrEqual(1);
  });

  it('what the index holds is confirmed by the record as it is now', async () => {
    const { id } = await enter({ first_name: 'Adelheid', last_name: 'Wobbe', phone: '+493023125905' });
    await known(id);
    await stage.crm(`People('${id}')`, { method: 'DELETE', headers: { 'If-Match': '*' } });
    const told = await stateOf(await report('Adelheid Wobbe', '030 23125 905'));
    expect(told.steps[0]).toMatchObject({ verdict: 'none', outcome: 'created' });
    expect(told.steps[0].record.id).not.toBe(id);
  });
});

describe('reading known records from a system that can do less', () => {
  const people = makeEntity('People', [
    makeField('id', { type: 'id' }),
    makeField('last_name'),
    makeField('email', { type: 'email' }),
    makeField('changed_at', { type: 'date and time', computed: true }),
  ]);
  const asked: (From | undefined)[] = [];
  let breaks = 0;
  let clock: Date | undefined;
  let lateMs = 0;
  const later = async (ms: number): Promise<true> => {
    lateMs = 0;
    await new Promise((resolve) => setTimeout(resolve, ms));
    return true;
  };
  const pageOf = (from: number): Page => ({
    records: Array.from({ length: 3 }, (_, at) => ({
      id: `X-${from + at}`,
      values: { last_name: `Quast${from + at}`, email: 'n/a' },
    })),
    gone: [],
    ...(from < 6 ? { next: `page ${from + 3}` } : {}),
  });
  const client = {
    changes: () => ({ field: 'changed_at', deletions: false }),
    page: async (_entity: unknown, _fields: unknown, from?: From): Promise<Page> => {
      asked.push(from);
      if (from && 'changed' in from)
        return {
          records: [{ id: 'X-1', values: { last_name: 'Osterwisch', email: null } }],
          gone: [],
          ...(clock ? { clock } : {}),
          ...(lateMs > 0 && (await later(lateMs)) ? { next: 'late changes' } : {}),
        };
      const link = from && 'link' in from ? from.link : undefined;
      if (link === 'late changes') return { records: [], gone: [] };
      const start = link === undefined ? 0 : Number(link.split(' ')[1]);
      if (start === 6 && breaks++ === 0) throw new SystemUnavailable('It does not answer.');
      return pageOf(start);
    },
  } as unknown as System;
  const live = (): LiveView => {
    const view = new LiveView(stage.db, 0);
    view.allSchemas = async () => new Map([['poor', { entities: [people] }]]);
    return view;
  };
  const fill = async (): Promise<void> => {
    const view = live();
    await readOnce('poor', client, view);
  };
  const row = async (): Promise<Json> => recognitionOfEntity(stage.db, 'poor', 'People');

  it('goes on where it was broken off, and asks for changes by time', async () => {
    await saveRecognition(stage.db, 'poor', 'People', suggestRecognition(people)!, 0, { id: null, name: 'Test' });
    await fill();
    expect(await row()).toMatchObject({ filledAt: null, nextLink: 'page 6', words: 'It does not answer.' });
    await fill();
    expect(asked).toEqual([undefined, { link: 'page 3' }, { link: 'page 6' }, { link: 'page 6' }]);
    expect(await row()).toMatchObject({ known: 9, words: null, ignored: [{ field: 'email', value: 'n/a', count: 9 }] });
    await fill();
    expect(asked.at(-1)).toMatchObject({ changed: 'changed_at' });
    const [packed] = await stage.db.$client.query("SELECT packed FROM known_records WHERE record_id = 'X-1'");
    expect((packed as { packed: string }[])[0]!.packed).toContain('osterwisch');
    // The former name no longer leads to it.
    const recogniser = (await live().known.of({ system: 'poor', entity: 'People' }))!;
    const found = await live().known.candidates(recogniser, recogniser.recogniser.prepare('', { last_name: 'Quast1' }));
    expect(found.map(({ id }) => id)).not.toContain('X-1');
  });
  it('what is gone and isn’t told is noticed by comparing everything once a day', async () => {
    const before = asked.length;
    await fill();
    expect(asked.slice(before)).toEqual([expect.objectContaining({ changed: 'changed_at' })]);
    await stage.db.$client.query("UPDATE feeds SET compared_at = NOW() - INTERVAL 25 HOUR WHERE system_id = 'poor'");
    await fill();
    expect(asked.slice(before + 1)).toEqual([undefined, { link: 'page 3' }, { link: 'page 6' }]);
  });
  it('changes are asked for by the system’s own clock, however far it is from ours', async () => {
    clock = new Date('2020-02-03T10:00:00Z');
    await fill();
    await fill();
    expect(asked.at(-1)).toEqual({ changed: 'changed_at', since: '2020-02-03T09:59:00.000Z' });
    clock = undefined;
  });
  it('most looks go back some seconds, and one now and then as far as what may have been committed late', async () => {
    const since = (): string => (asked.at(-1) as { since: string }).since.slice(11, 19);
    const view = live();
    const listen = [knownListener(stage.db, view.known)];
    const begin = (lateMs?: number): Feeds =>
      new Feeds(stage.db, { client: async () => client }, view, listen, lateMs === undefined ? {} : { lateMs });
    const feeds = begin();
    const look = async (at: string, by = feeds): Promise<string> => {
      clock = new Date(`2020-02-03T${at}Z`);
      await readOnce('poor', client, view, by);
      return since();
    };
    await look('11:00:00');
    expect(await look('11:00:10')).toBe('10:59:55');
    expect(await look('11:00:20')).toBe('11:00:05');
    // Whoever knows nothing of these goes on from what is kept: the look that went back further.
    expect(await look('11:00:30', begin())).toBe('10:59:00');
    // Somebody else has gone on meanwhile.
    expect(await look('11:00:40')).toBe('10:59:30');
    const always = begin(0);
    await look('11:05:00', always);
    expect(await look('11:05:10', always)).toBe('11:04:00');
    clock = undefined;
  });
  it('the newest changes don’t wait until all is read that may have been committed late', async () => {
    const view = live();
    const listen = [knownListener(stage.db, view.known)];
    const feeds = new Feeds(stage.db, { client: async () => client }, view, listen, { lateMs: 0, freshMs: 200 });
    await readOnce('poor', client, view, feeds);
    lateMs = 250;
    clock = new Date('2020-02-03T12:00:00Z');
    asked.length = 0;
    await stage.db.$client.query("UPDATE feeds SET changes_since = '2020-02-03 11:59:00' WHERE system_id = 'poor'");
    await readOnce('poor', client, view, feeds);
    expect(
      asked
        .slice(0, 3)
        .map((each) => (each && 'since' in each ? each.since.slice(11, 19) : each && 'link' in each && each.link)),
    ).toEqual(['11:59:00', '11:59:55', 'late changes']);
    clock = undefined;
  });
  it('an index made in another way is cleared and read anew', async () => {
    await stage.db.$client.query("UPDATE recognitions SET method = 0 WHERE system_id = 'poor'");
    await fill();
    expect(await row()).toMatchObject({ known: 9, method: METHOD });
    expect(asked.at(-3)).toBeUndefined();
  });
  it('while it is read for the first time, who needs it waits', async () => {
    await stage.db.$client.query("UPDATE feeds SET filled_at = NULL WHERE system_id = 'poor'");
    const nobody = { find: async () => [], read: async () => undefined };
    await expect(
      live().known.weigh(nobody, { system: 'poor', entity: 'People' }, { last_name: 'Q' }, 5),
    ).rejects.toThrow(SystemUnavailable);
  });
  it('what was known goes with its system', async () => {
    await removeSystem(stage.db, 'poor');
    const [left] = await stage.db.$client.query("SELECT 1 FROM known_records WHERE record_id LIKE 'X-%'");
    expect(left).toEqual([]);
  });
});

describe('records whose ids differ in case only', () => {
  it('are known as two, and a reading of everything goes on', async () => {
    const { rememberKnown, forgetKnown } = await import('../../store/index.ts');
    const keys = () => [];
    const record = (recordId: string) => ({ recordId, packed: recordId, keys: [] });
    expect(await rememberKnown(stage.db, 9_001, 1, ['a1B', 'A1b', 'á1b', 'a1B '].map(record), keys)).toBe(4);
    expect(await rememberKnown(stage.db, 9_001, 2, ['a1B', 'A1b'].map(record), keys)).toBe(0);
    expect(await forgetKnown(stage.db, 9_001, ['a1b'], keys)).toBe(0);
    expect(await forgetKnown(stage.db, 9_001, ['A1b'], keys)).toBe(1);
  });
});

describe('a system that tells changes in no way', () => {
  it('is read as a whole again, and what is gone from it is known no longer', async () => {
    const people = makeEntity('People', [
      makeField('id', { type: 'id' }),
      makeField('last_name'),
      makeField('email', { type: 'email' }),
    ]);
    let there = ['k1', 'k2', 'k3'].map((id) => ({
      id,
      values: { last_name: `Quitte${id}`, email: `${id}@biene.example` },
    }));
    const client = {
      changes: () => undefined,
      page: async (): Promise<Page> => ({ records: there, gone: [] }),
    } as unknown as System;
    const view = new LiveView(stage.db);
    view.allSchemas = async () => new Map([['untold', { entities: [people] }]]);
    await saveRecognition(stage.db, 'untold', 'People', suggestRecognition(people)!, 0, { id: null, name: 'Test' });
    const { scope } = (await recognitionOfEntity(stage.db, 'untold', 'People'))!;
    const known = async () => {
      await readOnce('untold', client, view);
      const [rows] = await stage.db.$client.query(
        'SELECT record_id AS id FROM known_records WHERE scope = ? ORDER BY record_id',
        [scope],
      );
      return (rows as { id: string }[]).map(({ id }) => id);
    };
    expect(await known()).toEqual(['k1', 'k2', 'k3']);
    there = there.slice(0, 2);
    expect(await known()).toEqual(['k1', 'k2']);
  });
});
