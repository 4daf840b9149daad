/** @jest-environment @happy-dom/jest-environment */
import { screen, waitFor, within } from '@testing-library/react';
import { lines, refusal } from '../../../testing/page.tsx';
import { work } from '../../../work/work.ts';
import { DOCUMENT, rehearsedAs, showIntake } from '../testing.tsx';
import { Rehearse } from './rehearse.tsx';

jest.mock('../../../work/index.ts', () => ({
  worker: () => ({
    check: async (...said: never[]) => work.check(...(said as unknown as Parameters<typeof work.check>)),
  }),
}));

const rowOf = async (title: string): Promise<HTMLElement> =>
  (await screen.findByRole('button', { name: title })).closest('tr')!;

describe('Rehearse', () => {
  it('asks for the samples by their ids: no values go to the server and back', async () => {
    const { saidTo } = showIntake('rehearse', <Rehearse />);
    await waitFor(() => expect(saidTo('post /intakes/:id/rehearse')).toEqual([{ document: DOCUMENT, of: ['a', 'b'] }]));
  });

  it('says of each sample what would come of it, and of one which fields would be written', async () => {
    const { user } = showIntake('rehearse', <Rehearse />);
    await waitFor(async () => expect((await rowOf('Wren Orchard')).textContent).toContain('updates'));
    expect((await rowOf('Hill Farm')).textContent).toContain('new');
    expect(screen.getByText('known: O-7', { exact: false })).toBeTruthy();
    const change = screen.getByRole('cell', { name: 'Name' }).closest('tr')!;
    expect(
      within(change)
        .getAllByRole('cell')
        .map((cell) => cell.textContent),
    ).toEqual(['Name', 'Wren', 'Wren Orchard']);
    await user.keyboard('j');
    await waitFor(() => expect(screen.queryByText('known: O-7', { exact: false })).toBeNull());
  });

  it('shows the results that are there while others are still to come', async () => {
    let rest: (more: string) => void = () => undefined;
    const streamed = new Response(
      new ReadableStream<Uint8Array>({
        start(stream) {
          const send = (line: object): void => stream.enqueue(new TextEncoder().encode(`${JSON.stringify(line)}\n`));
          send({ at: 1, result: rehearsedAs('created') });
          rest = () => (send({ at: 0, result: rehearsedAs('updated') }), stream.close());
        },
      }),
    );
    showIntake('rehearse', <Rehearse />, { more: { 'post /intakes/:id/rehearse': () => streamed } });
    await waitFor(async () => expect((await rowOf('Hill Farm')).textContent).toContain('new'));
    expect((await rowOf('Wren Orchard')).textContent).toContain('…');
    rest('');
    await waitFor(async () => expect((await rowOf('Wren Orchard')).textContent).toContain('updates'));
  });

  it('says what one sample came to grief over, and rehearses the others', async () => {
    showIntake('rehearse', <Rehearse />, {
      more: {
        'post /intakes/:id/rehearse': () =>
          lines(
            { at: 0, result: { trouble: 'Clover Hill did not answer.', present: {} } },
            { at: 1, result: rehearsedAs('created') },
          ),
      },
    });
    await waitFor(async () =>
      expect((await rowOf('Wren Orchard')).textContent).toContain('Clover Hill did not answer.'),
    );
    expect((await rowOf('Hill Farm')).textContent).toContain('new');
  });

  it('keeps what stands when the stream breaks, says why, and R asks all anew', async () => {
    let times = 0;
    const { user, saidTo } = showIntake('rehearse', <Rehearse />, {
      more: {
        'post /intakes/:id/rehearse': () =>
          (times += 1) === 1
            ? refusal(503, 'Busy', 'Too much is asked at once.')
            : lines({ at: 0, result: rehearsedAs('updated') }, { at: 1, result: rehearsedAs('created') }),
      },
    });
    expect((await screen.findByRole('alert')).textContent).toContain('Too much is asked at once.');
    await user.keyboard('r');
    await waitFor(async () => expect((await rowOf('Hill Farm')).textContent).toContain('new'));
    expect(saidTo('post /intakes/:id/rehearse').at(-1)).toMatchObject({ anew: true });
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('forgets a kept sample when asked to', async () => {
    const { user, asked } = showIntake('rehearse', <Rehearse />, {
      more: { 'delete /intakes/:id/samples/:sample': {} as never },
    });
    await user.click(await screen.findByRole('button', { name: 'remove it' }));
    await waitFor(() =>
      expect(asked.filter(({ name }) => name.startsWith('delete')).map(({ params }) => params)).toEqual([
        { id: 'i1', sample: 'a' },
      ]),
    );
  });
});
