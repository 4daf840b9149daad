/** @jest-environment @happy-dom/jest-environment */
import type { BulkTold } from '@zusammen/core/api';
import type { IntakeDocument } from '@zusammen/core/intake';
import { screen, waitFor, within } from '@testing-library/react';
import { makeFormField } from '../../../../../core/testing/world.ts';
import { refusal, type Answers } from '../../../testing/page.tsx';
import { Open } from '../open/open.tsx';
import { PlanStation } from '../plan/plan.tsx';
import { DOCUMENT, showIntake } from '../testing.tsx';

jest.mock('../../../work/index.ts');

/** Orchards that become something: its plan doesn't matter here. */
const CONVERSION: IntakeDocument = {
  ...DOCUMENT,
  source: { kind: 'record', system: 'crm', entity: 'orchards' },
  fields: [makeFormField('id', { record: { system: 'crm', entity: 'orchards' }, typed: true }), makeFormField('name')],
  plan: { steps: [] },
};
const ONE = { id: 'O-7', label: 'Wren', shown: ['Wren Orchard', 'office@wren.example'], values: { id: 'O-7' } };
const bulk = (more: Partial<BulkTold> = {}): BulkTold => ({
  ...{ id: 'b1', where: [{ field: 'hives', test: 'is more than', value: '10' }], counted: true, taken: false },
  ...{ before: 2, wrong: 0, problems: [], state: 'running', total: 40, done: 10, words: null },
  ...{ startedAt: new Date(Date.now() - 10_000).toISOString(), startedBy: 'Mara', endedAt: null, ends: { applied: 8 } },
  ...more,
});
const showOpen = (more: Answers = {}, asked: Partial<Parameters<typeof showIntake>[2]> = {}) =>
  showIntake('open', <Open />, {
    ...{ document: CONVERSION, live: CONVERSION, state: 'open' },
    ...asked,
    more: {
      'get /conversions/:intake/records': { records: [ONE] } as never,
      'get /conversions/:intake': { bulks: [] },
      ...more,
    },
  });
const sheet = async (title: string) =>
  within((await screen.findByRole('heading', { name: title })).closest('section')!);

describe('records are converted', () => {
  it('by a plan that speaks of records, not of submissions', async () => {
    showIntake('plan', <PlanStation />, {
      document: CONVERSION,
      more: { 'get /conversions/:intake/records': { records: [ONE] } as never },
    });
    expect(await screen.findByRole('heading', { name: 'What becomes of a record' })).toBeTruthy();
    expect(screen.getByRole('heading', { name: 'Which record does a converted one make or change?' })).toBeTruthy();
  });

  it('by hand: found, picked, and each leads to what came of it', async () => {
    const { user, saidTo } = showOpen({
      'post /conversions/:intake': { converted: [{ record: 'O-7', submission: 's9', again: true }] } as never,
    });
    const hand = await sheet('By hand');
    await user.type(hand.getByRole('textbox'), 'wren');
    await user.click(await hand.findByRole('button', { name: /Wren Orchard/ }));
    expect(within(hand.getByRole('list', { name: 'To be converted' })).getByText('O-7')).toBeTruthy();
    await user.click(hand.getByRole('button', { name: 'Convert it' }));
    const link = await hand.findByRole('link', { name: 'converted before' });
    expect(link.getAttribute('href')).toBe('/ledger?submission=s9');
    expect(saidTo('post /conversions/:intake')).toEqual([{ records: ['O-7'] }]);
  });

  it('by hand: why one can’t be stands beside it', async () => {
    const { user } = showOpen({
      'post /conversions/:intake': { converted: [{ record: 'O-7', why: 'There is no such record.' }] } as never,
    });
    const hand = await sheet('By hand');
    await user.type(hand.getByRole('textbox'), 'wren');
    await user.click(await hand.findByRole('button', { name: /Wren Orchard/ }));
    await user.click(hand.getByRole('button', { name: 'Convert it' }));
    expect(await hand.findByText('There is no such record.')).toBeTruthy();
  });

  it('many by a condition, which are counted before they can be', async () => {
    const { user, saidTo } = showOpen({
      'post /conversions/:intake/count': { count: 40, whole: true, records: [ONE] } as never,
      'post /conversions/:intake': { bulk: 'b1' } as never,
    });
    const many = await sheet('Many at once');
    await user.click(many.getByRole('button', { name: 'Add a comparison' }));
    await user.selectOptions(many.getByLabelText('Field'), 'hives');
    await user.selectOptions(many.getByLabelText('Comparison'), 'is more than');
    await user.type(many.getByLabelText('Value'), '10');
    expect(many.queryByRole('button', { name: /^Convert/ })).toBeNull();
    await user.click(many.getByRole('button', { name: 'Count them' }));
    expect(await many.findByText('40 records meet it; the first of them:')).toBeTruthy();
    await user.click(many.getByRole('button', { name: 'Convert the 40' }));
    const where = [{ field: 'hives', test: 'is more than', value: '10' }];
    await waitFor(() => expect(saidTo('post /conversions/:intake')).toEqual([{ where }]));
    expect(saidTo('post /conversions/:intake/count')).toEqual([{ where }]);
  });

  it('many: how far it is, how long it takes yet, what came of it; it is paused, and gone on with', async () => {
    let state: BulkTold['state'] = 'running';
    const problems = [{ record: 'O-9', what: 'It has no name.' }];
    const { user, saidTo } = showOpen({
      'get /conversions/:intake': () => ({ bulks: [bulk({ state, problems, wrong: problems.length })] }),
      'put /bulk-conversions/:id/state': ({ body }) => {
        ({ state } = body as { state: BulkTold['state'] });
        return new Response(null, { status: 204 });
      },
    });
    const many = await sheet('Many at once');
    expect(await many.findByText('Hives is more than 10')).toBeTruthy();
    expect(many.getByText(/10 of 40, 3\d.* left/)).toBeTruthy();
    expect(many.getByRole('link', { name: '8 converted' }).getAttribute('href')).toBe(
      '/intakes/i1/history?state=applied',
    );
    expect(many.getByText('2 had been before')).toBeTruthy();
    await user.click(many.getByRole('button', { name: /could not be taken in/ }));
    expect(many.getByText('O-9: It has no name.')).toBeTruthy();
    await user.click(many.getByRole('button', { name: 'Pause' }));
    await user.click(await many.findByRole('button', { name: 'Go on' }));
    await many.findByRole('button', { name: 'Pause' });
    await user.click(many.getByRole('button', { name: 'End it' }));
    expect(await many.findByText('ended')).toBeTruthy();
    expect(saidTo('put /bulk-conversions/:id/state')).toEqual([
      { state: 'paused' },
      { state: 'running' },
      { state: 'cancelled' },
    ]);
  });

  it('says what a system that is away says', async () => {
    const { user } = showOpen({
      'post /conversions/:intake/count': () => refusal(503, 'Not now', 'Clover Hill doesn’t answer.'),
    });
    const many = await sheet('Many at once');
    await user.click(many.getByRole('button', { name: 'Count them' }));
    expect((await many.findByRole('alert')).textContent).toBe('Clover Hill doesn’t answer.');
  });

  it('by themselves, and on their own page, as the draft says', async () => {
    const { user, kept } = showOpen();
    const itself = await sheet('By itself');
    expect(itself.getByText(/^No Orchard converts by itself/)).toBeTruthy();
    await user.click(itself.getByRole('button', { name: 'Add a comparison' }));
    await user.type(itself.getByLabelText('Value'), 'Wren');
    await user.click(itself.getByRole('checkbox', { name: /^Again when it has changed/ }));
    await user.click(itself.getByRole('checkbox', { name: /^On the Orchard’s own page/ }));
    await user.selectOptions(itself.getByRole('combobox', { name: /^If they are gone/ }), 'connection');
    await waitFor(() =>
      expect(kept.document.source).toEqual({
        ...CONVERSION.source,
        starts: [{ field: 'name', test: 'is', value: 'Wren' }],
        converted: 'each version',
        panel: { whenGone: 'connection' },
      }),
    );
    expect(await screen.findByText('On pages of records')).toBeTruthy();
  });

  it('by nobody who only looks', async () => {
    showOpen({}, { role: 'viewer' });
    const many = await sheet('Many at once');
    expect(many.queryByRole('button', { name: 'Count them' })).toBeNull();
    expect((await sheet('By hand')).queryByRole('textbox')).toBeNull();
    expect(
      (await sheet('By itself')).getAllByRole('checkbox').every((each) => (each as HTMLInputElement).disabled),
    ).toBe(true);
  });
});
