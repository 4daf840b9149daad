import { freshLine, freshPairing, type Pairing, type PairLine } from '@zusammen/core/pairing';
import type { Json, Stage } from '../../testing/stage.ts';
import { withTwoSystems } from '../../testing/two-systems.ts';
import { until } from '../../testing/until.ts';

const two = withTwoSystems();
const { subscriber, changeSubscriber, person, changePerson, rowsOf, started, detail, atRest, pairsOf, remove } = two;
const post: Stage['letters'] = (...asked) => two.stage.letters(...asked);

const line = (id: string, left: string, right: string, more: Partial<PairLine> = {}): PairLine => ({
  ...freshLine(id, left.split('.'), right.split('.')),
  ...more,
});

const subscribersWithPeople = (more: Partial<Pairing> = {}): Pairing => ({
  ...two.fresh('Letter subscribers with people'),
  matches: [{ parts: [{ left: ['crm_id'], right: ['id'] }] }, { parts: [{ left: ['email'], right: ['email'] }] }],
  lines: [line('given', 'given', 'first_name'), line('family', 'family', 'last_name')],
  ...more,
});

const writesTo = (record: string): Promise<Json[]> =>
  rowsOf("SELECT * FROM ledger WHERE record_id = ? AND state = 'written' ORDER BY id", [record]);

describe('two systems kept in step', () => {
  let id: string;
  let pairs: Json[];
  beforeAll(async () => {
    id = await started(
      subscribersWithPeople({
        lines: [
          line('given', 'given', 'first_name'),
          line('family', 'family', 'last_name', { decides: 'ask' }),
          line('keeper', 'keeper', 'owner_id.name', { way: 'to left' }),
          line('visit', 'last_visit', 'last_visit_at', { way: 'to left' }),
          line('interests', 'interests', 'interests', { options: [{ left: 'hiring hives', right: 'pollination' }] }),
          line('ever', 'all_interests', 'interests', { way: 'to left', collects: true }),
        ],
      }),
    );
    // Some are refused or asked about from the start.
    pairs = (await pairsOf(id)).filter(({ state }) => state === 'in step');
  });
  afterAll(() => remove(id));

  it('pairs what goes together by id and by e-mail, and fills what is blank', async () => {
    expect(pairs.length).toBeGreaterThan(10);
    for (const { l, r } of pairs) {
      const [mine, other] = [await subscriber(l), await person(r)];
      expect(mine.crm_id === r || mine.email === other.email?.toLowerCase()).toBe(true);
      expect(mine.given).toBe(other.first_name);
      expect(mine.keeper).toBeTruthy();
    }
  });

  it('has a change on the other side, whichever it is made on, and writes nothing more', async () => {
    const [{ l, r }] = pairs;
    await changePerson(r, { first_name: 'Zenobia' });
    await until('Letters has it', async () => (await subscriber(l)).given === 'Zenobia');
    await changeSubscriber(l, { given: 'Zita' });
    await until('the CRM has it', async () => (await person(r)).first_name === 'Zita');
    await atRest(id);
    const before = [...(await writesTo(l)), ...(await writesTo(r))].length;
    await new Promise((resolve) => setTimeout(resolve, 3_000));
    expect([...(await writesTo(l)), ...(await writesTo(r))]).toHaveLength(before);
  });

  it('asks where both have changed, and does what was said', async () => {
    const { l, r } = pairs[1];
    await two.stage.api('POST', `/pairings/${id}/pause`);
    await changePerson(r, { last_name: 'Kern' });
    await changeSubscriber(l, { family: 'Korn' });
    await two.stage.api('POST', `/pairings/${id}/start`);
    const question = async () =>
      (await two.stage.api('GET', '/pairings/questions')).body.questions.find((each: Json) => each.ids.left === l);
    await until('it is asked', async () => (await question()) !== undefined);
    expect((await question()).field).toMatchObject({ line: 'family', now: { left: 'Korn', right: 'Kern' } });
    expect((await detail(id)).states.asked).toBe(1);
    const { pair } = await question();
    const answer = { kind: 'field', line: 'family', side: 'left' };
    expect((await two.stage.api('POST', `/pairings/${id}/pairs/${pair}/answer`, answer)).status).toBe(204);
    await until('both hold it', async () => (await person(r)).last_name === 'Korn');
    await atRest(id);
    expect(await question()).toBeUndefined();
    expect((await two.stage.api('POST', `/pairings/${id}/pairs/${pair}/answer`, answer)).status).toBe(409);
  });

  it('writes nothing while it is paused, and everything once it goes on', async () => {
    const { l, r } = pairs[2];
    await two.stage.api('POST', `/pairings/${id}/pause`);
    await changePerson(r, { first_name: 'Paused' });
    await until('it is noticed', async () => (await detail(id)).states.onTheWay > 0);
    expect((await subscriber(l)).given).not.toBe('Paused');
    expect((await detail(id)).state).toBe('paused');
    // Somebody who can't make up their mind.
    await two.stage.api('POST', `/pairings/${id}/start`);
    await two.stage.api('POST', `/pairings/${id}/pause`);
    await two.stage.api('POST', `/pairings/${id}/start`);
    await until('it is written', async () => (await subscriber(l)).given === 'Paused');
  });

  it('stops a value that the other side can’t hold, and nothing else of the record', async () => {
    const { l, r } = pairs[3];
    // Somebody else may have the same topic from the start.
    const before = (await detail(id)).states.refused;
    await changePerson(r, { interests: ['swarms'], first_name: 'Swantje' });
    await until('the name is there', async () => (await subscriber(l)).given === 'Swantje');
    await until('the rest is told', async () => (await detail(id)).states.refused === before + 1);
    const [cause] = (await detail(id)).causes;
    expect(cause).toMatchObject({ kind: 'refused', line: 'interests', side: 'left', count: before + 1 });
    expect(cause.words).toContain('swarms');
    await changePerson(r, { interests: ['honey'] });
    await until('it is mended', async () => (await detail(id)).states.refused === before);
    // What gathers values has had its part all along.
    expect((await subscriber(l)).all_interests).toMatch(/Swarms; Honey$/);
  });

  it('brings what is read through a relation along when its end changes', async () => {
    const { l, r } = pairs[4];
    const { owner_id: owner } = await person(r);
    await two.stage.crm(`Users('${owner}')`, {
      method: 'PATCH',
      body: JSON.stringify({ name: 'Nele Harms' }),
      headers: { 'If-Match': '*' },
    });
    await until('Letters has it', async () => (await subscriber(l)).keeper === 'Nele Harms');
    await atRest(id);
  });

  it('stays at rest where a change was taken back', async () => {
    const { l, r } = pairs[5];
    const { first_name: former } = await person(r);
    await changeSubscriber(l, { given: 'Mistake' });
    await until('it is there', async () => (await person(r)).first_name === 'Mistake');
    await atRest(id);
    const [change] = (await writesTo(r)).slice(-1);
    const taken = await two.stage.api('POST', `/ledger/${change.id}/take-back`);
    expect(taken.body.result.done).toBe(true);
    await new Promise((resolve) => setTimeout(resolve, 3_000));
    expect((await person(r)).first_name).toBe(former);
    expect((await subscriber(l)).given).toBe('Mistake');
    await changeSubscriber(l, { given: 'Later' });
    await until('the next change travels', async () => (await person(r)).first_name === 'Later');
  });

  it('undoes a pair whose one record is gone, and doesn’t make it anew', async () => {
    const { l, r } = pairs[6];
    await post(`subscribers/${l}`, 'DELETE');
    // Letters doesn’t tell what is deleted; comparing everything does.
    await two.stage.api('POST', `/pairings/${id}/compare`);
    await until('the pair is undone', async () => {
      const [row] = await rowsOf('SELECT state FROM pairs WHERE pairing_id = ? AND right_id = ?', [id, r]);
      return row?.state === 'undone';
    });
    expect((await person(r)).id).toBe(r);
    // What it held is kept no longer than it is there.
    const [gone] = await rowsOf('SELECT seen_values FROM seen_records WHERE record_id = ?', [l]);
    expect(JSON.stringify(gone.seen_values)).not.toContain('email');
  });
});

describe('a record without a counterpart', () => {
  it('is made there, once, and not where the other system has it already', async () => {
    const alone = { left: { what: 'make' }, right: { what: 'leave' } } as const;
    const id = await started(
      subscribersWithPeople({
        alone,
        lines: [
          line('mail', 'email', 'email'),
          line('given', 'given', 'first_name'),
          line('family', 'family', 'last_name', { way: 'to right' }),
        ],
      }),
    );
    const made = await post('subscribers', 'POST', { email: 'nova@biene.example', given: 'Nova', family: 'Licht' });
    await until('the CRM has her', async () => (await two.stage.people('nova@biene.example')).length === 1);
    await atRest(id);
    expect((await two.stage.people('nova@biene.example'))[0]).toMatchObject({ first_name: 'Nova', last_name: 'Licht' });
    const [pair] = (await pairsOf(id)).filter(({ l }) => l === made.id);
    expect(pair).toMatchObject({ state: 'in step' });
    // Somebody enters the same on both sides, one right after the other: whichever is known here first, there is one pair.
    const both = { email: 'zwei@biene.example', given: 'Zwei', family: 'Fach' };
    await two.stage.crm('People', {
      method: 'POST',
      body: JSON.stringify({ email: both.email, first_name: 'Zwei', last_name: 'Fach' }),
    });
    await post('subscribers', 'POST', both);
    await until(
      'they are a pair',
      async () =>
        (
          await rowsOf(
            "SELECT p.id FROM pairs p JOIN seen_records s ON s.record_id = p.left_id WHERE p.pairing_id = ? AND s.seen_values LIKE '%zwei@biene%' AND p.right_id IS NOT NULL",
            [id],
          )
        ).length === 1,
    );
    await atRest(id);
    expect(await two.stage.people(both.email)).toHaveLength(1);
    // Taking back what was made doesn't make it again.
    const [change] = await writesTo(pair.r);
    expect((await two.stage.api('POST', `/ledger/${change.id}/take-back`)).body.result.done).toBe(true);
    await new Promise((resolve) => setTimeout(resolve, 3_000));
    expect(await two.stage.people('nova@biene.example')).toHaveLength(0);
    expect((await subscriber(made.id)).given).toBe('Nova');
    await remove(id);
  });

  it('is asked about where several go with one', async () => {
    const id = await started(subscribersWithPeople({ matches: [{ parts: [{ left: ['email'], right: ['email'] }] }] }));
    await two.stage.crm('People', {
      method: 'POST',
      body: JSON.stringify({ email: 'twin@biene.example', last_name: 'Twin' }),
    });
    await two.stage.crm('People', {
      method: 'POST',
      body: JSON.stringify({ email: 'twin@biene.example', last_name: 'Twinn' }),
    });
    // Each system is asked for itself: a subscriber who is known when one of them is goes with that one.
    const known = "SELECT record_id FROM seen_records WHERE seen_values LIKE '%twin@biene%'";
    await until('both are known', async () => (await rowsOf(known)).length === 2);
    const made = await post('subscribers', 'POST', { email: 'twin@biene.example', given: 'Tilda' });
    const question = async () =>
      (await two.stage.api('GET', '/pairings/questions')).body.questions.find(
        (each: Json) => each.ids.left === made.id,
      );
    await until('it is asked', async () => (await question())?.unsure?.candidates.length === 2);
    const { pair, unsure } = await question();
    const chosen = unsure.candidates[1].id;
    const answer = { kind: 'with', record: chosen };
    expect((await two.stage.api('POST', `/pairings/${id}/pairs/${pair}/answer`, answer)).status).toBe(204);
    await until('they are in step', async () => (await person(chosen)).first_name === 'Tilda');
    await remove(id);
  });
});

describe('lines that follow others through a relation, in one system', () => {
  it('go with them by what their relations lead to, and follow in bulk', async () => {
    const id = await started({
      ...freshPairing(
        'Quote lines with contract lines',
        { system: two.crm, entity: 'QuoteLines' },
        { system: two.crm, entity: 'ContractLines' },
      ),
      matches: [
        {
          parts: [
            { left: ['quote_id'], right: ['contract_id', 'quote_id'] },
            { left: ['position'], right: ['position'] },
          ],
        },
      ],
      lines: [
        line('week', 'placement_week', 'placement_at', { way: 'to right' }),
        line('keeper', 'keeper_id', 'beekeeper_id', { way: 'to right' }),
        line('strength', 'hive_strength', 'strength', {
          way: 'to right',
          options: [{ left: 'medium', right: 'middling' }],
        }),
      ],
    });
    const pairs = await pairsOf(id);
    const contracts = (await two.stage.crm('ContractLines')).value;
    expect(contracts.length).toBeGreaterThan(1);
    expect(pairs).toHaveLength(contracts.length);
    for (const { l } of pairs)
      await two.stage.crm(`QuoteLines('${l}')`, {
        method: 'PATCH',
        body: JSON.stringify({ placement_week: '2027-05-03', keeper_id: 'U-00002' }),
        headers: { 'If-Match': '*' },
      });
    await until('all follow', async () =>
      (await two.stage.crm('ContractLines')).value.every(
        (each: Json) => each.placement_at?.startsWith('2027-05-03T00:00') && each.beekeeper_id === 'U-00002',
      ),
    );
    await remove(id);
  });
});

describe('trouble', () => {
  it('loses and doubles nothing when answers are lost after a write took place', async () => {
    const id = await started(subscribersWithPeople());
    const pairs = await pairsOf(id);
    await two.stage.fault({ system: 'crm', kind: 'break after', share: 0.5 });
    for (const [at, { l }] of pairs.entries()) await changeSubscriber(l, { given: `N${at}` });
    await new Promise((resolve) => setTimeout(resolve, 2_000));
    await two.stage.noFaults();
    await until('all are in step', async () => {
      for (const [at, { r }] of pairs.entries()) if ((await person(r)).first_name !== `N${at}`) return false;
      return true;
    });
    await atRest(id);
    expect(await rowsOf("SELECT id FROM ledger WHERE state = 'intended'")).toEqual([]);
    expect(await rowsOf('SELECT id FROM pairs WHERE turn IS NOT NULL')).toEqual([]);
    await remove(id);
  });

  it('waits for a side that is down, says so, and goes on', async () => {
    const id = await started(subscribersWithPeople());
    const [{ l, r }] = await pairsOf(id);
    await two.stage.fault({ system: 'letters', kind: 'fail', status: 503 });
    await changePerson(r, { first_name: 'Patience' });
    await until('it says so', async () => (await detail(id)).words !== null && (await detail(id)).states.onTheWay > 0);
    await two.stage.noFaults();
    await until('it is there', async () => (await subscriber(l)).given === 'Patience');
    await until('nothing is said any more', async () => (await detail(id)).words === null);
    await remove(id);
  });
});

describe('a relation that is followed only later', () => {
  it('brings along what changes at its end, though its field was kept before', async () => {
    const { alone } = subscribersWithPeople();
    const condition = { match: 'all' as const, parts: [{ field: 'owner_id', test: 'is blank' as const }] };
    const first = await started(subscribersWithPeople({ alone: { ...alone, right: { ...alone.right, condition } } }));
    const lines = [line('keeper', 'keeper', 'owner_id.name', { way: 'to left' })];
    const second = await started(subscribersWithPeople({ name: 'Their keepers', lines }));
    const [{ l, r }] = await pairsOf(second);
    const { owner_id: owner } = await person(r);
    const body = JSON.stringify({ name: 'Sunniva Rask' });
    await two.stage.crm(`Users('${owner}')`, { method: 'PATCH', body, headers: { 'If-Match': '*' } });
    await until('Letters has it', async () => (await subscriber(l)).keeper === 'Sunniva Rask');
    await remove(first);
    await remove(second);
  });
});

it('somebody’s word counts though it comes while the pair is being written', async () => {
  const id = await started({
    ...subscribersWithPeople(),
    lines: [line('given', 'given', 'first_name', { decides: 'ask' }), line('family', 'family', 'last_name')],
  });
  const [{ id: pair, l, r }] = (await pairsOf(id)) as [Json];
  await two.stage.api('POST', `/pairings/${id}/pause`);
  await changeSubscriber(l, { given: 'Their word' });
  await changePerson(r, { first_name: 'Another' });
  await two.stage.api('POST', `/pairings/${id}/start`, {});
  const asked = async () => (await two.stage.api('GET', '/pairings/questions')).body.questions;
  await until('it is asked', async () => (await asked()).some((each: Json) => each.pair === pair));
  await atRest(id);
  await two.stage.fault({ system: 'crm', kind: 'slow', ms: 1_500, share: 1, methods: ['PATCH', 'POST'] });
  await changeSubscriber(l, { family: 'Written' });
  await until(
    'the other field is being written',
    async () => (await rowsOf("SELECT 1 FROM ledger WHERE state = 'intended'")).length > 0,
  );
  const answer = { kind: 'field', line: 'given', side: 'left' };
  expect((await two.stage.api('POST', `/pairings/${id}/pairs/${pair}/answer`, answer)).status).toBe(204);
  await two.stage.noFaults();
  await until('both are there', async () => {
    const { first_name: given, last_name: family } = await person(r);
    return given === 'Their word' && family === 'Written';
  });
  await atRest(id);
  expect(await rowsOf('SELECT decided FROM pairs WHERE id = ?', [pair])).toEqual([{ decided: null }]);
  await remove(id);
});

describe('before it starts', () => {
  it('refuses what can’t be started, in words, and asks for a look at the rest', async () => {
    const nothing = await two.stage.api('POST', '/pairings', { document: subscribersWithPeople({ matches: [] }) });
    const start = await two.stage.api('POST', `/pairings/${nothing.body.id}/start`, { revision: 1, accept: true });
    expect(start.status).toBe(422);
    expect(start.body.detail).toContain('which record goes with which');
    const document = subscribersWithPeople({ lines: [line('i', 'interests', 'interests')] });
    const made = await two.stage.api('POST', '/pairings', { document });
    const looked = await two.stage.api('POST', `/pairings/${made.body.id}/start`, { revision: 1 });
    expect(looked.status).toBe(409);
    expect(looked.body.detail).toMatch(/hiring hives|Pollination/);
    const gone = await two.stage.api('POST', '/pairings', {
      document: { ...document, right: { system: two.crm, entity: 'Nothing' } },
    });
    expect(gone).toMatchObject({ status: 422, body: { errors: [{ field: 'right.entity' }] } });
  });

  it('proposes what goes with which, and which fields, by the records', async () => {
    const { status, body } = await two.stage.api('POST', '/pairings/propose', {
      left: { system: two.letters, entity: 'subscribers' },
      right: { system: two.crm, entity: 'People' },
    });
    expect(status).toBe(200);
    expect(body.document.matches[0].parts[0]).toEqual({ left: ['crm_id'], right: ['id'] });
    expect(body.document.matches).toContainEqual({ parts: [{ left: ['email'], right: ['email'] }] });
    const linked = body.document.lines.map(
      (each: PairLine) => `${each.left.path.join('.')} ${each.way} ${each.right.path.join('.')}`,
    );
    expect(linked).toEqual(expect.arrayContaining(['given both first_name', 'family both last_name']));
    expect(linked).toContain('keeper to left owner_id.name');
    expect(body.document.rightHistory).toMatchObject({ entity: 'FieldChanges', record: 'record_id' });
  });

  it('tells what would happen over real pairs, and writes nothing', async () => {
    const before = await rowsOf('SELECT COUNT(*) AS count FROM ledger');
    const document = subscribersWithPeople({
      lines: [...subscribersWithPeople().lines, line('i', 'interests', 'interests')],
    });
    const made = await two.stage.api('POST', '/pairings', { document });
    const { body } = await two.stage.api('POST', `/pairings/${made.body.id}/look`, { document });
    expect(body).toMatchObject({ by: 'sample', whole: { left: true, right: true } });
    const interests = body.lines.find((each: Json) => each.line === 'i');
    expect(interests.differ).toBeGreaterThan(0);
    expect(interests.counts.stuck).toBeGreaterThan(0);
    expect(body.findings.map(({ id }: Json) => id)).toContain('K02');
    const rehearsed = await two.stage.api('POST', `/pairings/${made.body.id}/rehearse`, { pairs: 5 });
    expect(rehearsed.body).toMatchObject({ looked: 5, whole: true });
    const { pairs, changing, writes } = rehearsed.body;
    expect(pairs).toHaveLength(changing);
    expect(pairs.flatMap((pair: Json) => pair.lines.filter((each: Json) => each.write))).toHaveLength(writes);
    expect(await rowsOf('SELECT COUNT(*) AS count FROM ledger')).toEqual(before);
  });
});
