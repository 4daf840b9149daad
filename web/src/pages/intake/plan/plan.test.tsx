/** @jest-environment @happy-dom/jest-environment */
import type { IntakeDocument } from '@zusammen/core/intake';
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import { refusal, withHeight } from '../../../testing/page.tsx';
import { DOCUMENT, lineTo, SAMPLES, showIntake, SYSTEM } from '../testing.tsx';
import { PlanStation } from './plan.tsx';

jest.mock('../../../work/index.ts');

beforeAll(() => {
  withHeight(600);
  // Lists that narrow scroll what is marked into sight.
  Element.prototype.scrollIntoView = () => undefined;
});

const NO_SAMPLES = { 'get /intakes/:id/samples': { samples: [] } };
/** A step that no check has anything to say about. */
const soundStep = () => ({
  ...DOCUMENT.plan.steps[0]!,
  lines: [lineTo('name', ['orchard']), lineTo('mail', ['mail'], { ifBoth: 'fill only' })],
});

const rowOf = async (label: string): Promise<HTMLElement> =>
  (await screen.findByRole('button', { name: `Edit the line to ${label}` })).closest('tr')!;
const cellsOf = async (label: string): Promise<(string | null)[]> =>
  within(await rowOf(label))
    .getAllByRole('cell')
    .map((cell) => cell.textContent);

describe('the lines of a plan', () => {
  it('show what came, what goes in, and what the record holds now', async () => {
    showIntake('plan', <PlanStation />);
    await waitFor(async () =>
      expect(await cellsOf('Name')).toEqual([
        'Orchard name',
        '␣Wren Orchard␣',
        expect.stringMatching(/./),
        'Wren Orchard',
        'Name needed',
        'Wren',
        'write',
      ]),
    );
    // What only fills a blank says that what is there stays.
    expect((await cellsOf('E-mail')).at(-1)).toBe('fill only kept');
  });

  it('go on to the next sample with a key, and say what can’t go in', async () => {
    const { user, where } = showIntake('plan', <PlanStation />);
    await rowOf('Hives');
    await user.keyboard(']');
    expect(await screen.findByText(/Sample 2 of 2/)).toBeTruthy();
    expect(where()).toContain('sample=b');
    expect((await cellsOf('Hives'))[3]).toMatch(/^▲ .*dozens/);
  });

  it('that are suggested wait for a yes; the yes is kept on the server', async () => {
    const { user, saidTo, kept } = showIntake('plan', <PlanStation />);
    expect((await cellsOf('Hives')).at(-1)).toContain('82 % sure');
    await user.click(screen.getByRole('button', { name: 'accept all 1' }));
    expect((await cellsOf('Hives')).at(-1)).not.toContain('sure');
    await waitFor(() => expect(saidTo('put /intakes/:id/draft')).toHaveLength(1));
    expect(kept.document.plan.steps[0]!.lines.map(({ origin }) => origin)).toEqual(['set', 'set', 'set']);
  });

  it('that are removed while they are open leave what is left to map in sight', async () => {
    const { user } = showIntake('plan', <PlanStation />);
    await user.click(await screen.findByRole('button', { name: 'Edit the line to Name' }));
    const left = screen.getByText('Nothing fills').closest('[hidden]');
    expect(left).not.toBeNull();
    await user.click(
      within(screen.getByRole('group', { name: 'Line to Name' })).getByRole('button', { name: /^Remove/ }),
    );
    await waitFor(() => expect(screen.getByText('Nothing fills').closest('[hidden]')).toBeNull());
    expect(screen.getByRole('button', { name: 'Fill Name' })).toBeTruthy();
  });

  it('that are about what a visitor agrees to stand beside its wording, not beside how sure it is', async () => {
    const wording = lineTo('note', ['hello'], {
      origin: 'suggested',
      confidence: 0.99,
      reasons: ['the visitor agrees to “Send me the letter”', 'means newsletter'],
    });
    const step = DOCUMENT.plan.steps[0]!;
    const { user, kept } = showIntake('plan', <PlanStation />, {
      document: { ...DOCUMENT, plan: { ...DOCUMENT.plan, steps: [{ ...step, lines: [...step.lines, wording] }] } },
    });
    const cells = await cellsOf('Note');
    expect(cells[2]).toBe('consent to “Send me the letter”');
    expect(cells.at(-1)).toBe('offered');
    // Nobody agrees for visitors in passing: only the other suggested line is accepted with all.
    const origins = () => kept.document.plan.steps[0]!.lines.map(({ origin }) => origin);
    await user.click(screen.getByRole('button', { name: 'accept all 1' }));
    await waitFor(() => expect(origins()).toEqual(['set', 'set', 'set', 'suggested']));
    expect(screen.queryByRole('button', { name: /accept all/ })).toBeNull();
    (await rowOf('Note')).querySelector('button')!.focus();
    for (let step = 0; step < 3; step += 1) await user.keyboard('j');
    await user.keyboard('a');
    await waitFor(() => expect(origins()).toEqual(['set', 'set', 'set', 'set']));
  });

  it('are removed by a key, and come back with undo, as they were', async () => {
    const { user, kept } = showIntake('plan', <PlanStation />);
    const before = kept.document;
    await rowOf('Name');
    await user.keyboard('x');
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Edit the line to Name' })).toBeNull());
    await waitFor(() => expect(kept.document.plan.steps[0]!.lines).toHaveLength(2));
    await user.keyboard('{Control>}z{/Control}');
    await rowOf('Name');
    await waitFor(() => expect(kept.document).toEqual(before));
  });

  it('are opened with Enter; what is changed there is seen in the row at once', async () => {
    const { user } = showIntake('plan', <PlanStation />);
    await rowOf('Name');
    await user.keyboard('{Enter}');
    const editor = await screen.findByRole('group', { name: 'Line to Name' });
    await user.click(within(editor).getByRole('button', { name: 'Add a treatment' }));
    await user.type(await screen.findByPlaceholderText('Find a treatment'), 'capital');
    await user.keyboard('{Enter}');
    const settings = await within(editor).findByRole('button', { name: /^Settings of (?!trim)/ });
    await user.click(settings);
    await user.selectOptions(await screen.findByRole('combobox'), 'upper');
    await user.keyboard('{Escape}');
    await waitFor(async () => expect((await cellsOf('Name'))[3]).toBe('WREN ORCHARD'));
    await user.keyboard('{Escape}');
    await waitFor(() => expect(screen.queryByRole('group', { name: 'Line to Name' })).toBeNull());
  });

  it('can be looked at by a viewer, who changes nothing', async () => {
    const { user, saidTo } = showIntake('plan', <PlanStation />, { role: 'viewer' });
    await rowOf('Name');
    await user.keyboard('xa');
    expect(screen.queryByRole('button', { name: /accept all/ })).toBeNull();
    await rowOf('Name');
    expect(saidTo('put /intakes/:id/draft')).toEqual([]);
  });

  it('say that somebody else has changed the draft, and send nothing more', async () => {
    const { user, saidTo } = showIntake('plan', <PlanStation />, {
      more: { 'put /intakes/:id/draft': () => refusal(412, 'Overtaken', 'The draft has changed since.') },
    });
    await rowOf('Name');
    await user.keyboard('x');
    expect(await screen.findByText(/Somebody else/)).toBeTruthy();
    await user.keyboard('x');
    // Leaving the page is when what isn't saved yet would be sent, if anything were.
    cleanup();
    expect(saidTo('put /intakes/:id/draft')).toHaveLength(1);
  });
});

describe('what is left to map', () => {
  const many = Array.from({ length: 300 }, (_, at) => ({
    ...{ name: `extra${at}`, label: `Extra ${at}`, type: 'text' as const, required: false },
  }));

  it('is drawn as far as it is in sight, with its count and what the sample brought', async () => {
    const document = { ...DOCUMENT, fields: [...DOCUMENT.fields, ...many] };
    const { user } = showIntake('plan', <PlanStation />, { document });
    await user.click(await screen.findByRole('radio', { name: /^Not used 301/ }));
    const list = await screen.findByRole('list', { name: 'Not used here' });
    await waitFor(() => expect(list.textContent).toContain('Anything else?'));
    const drawn = within(list).getAllByRole('listitem');
    expect(drawn.length).toBeLessThan(60);
    expect(drawn[0]!.getAttribute('aria-setsize')).toBe('301');
    expect(within(screen.getByRole('list', { name: 'Nothing fills' })).getByText('Note')).toBeTruthy();
  });

  it('is put where it goes by choosing', async () => {
    const { user, kept } = showIntake('plan', <PlanStation />);
    await user.click(await screen.findByRole('button', { name: 'Use Anything else?' }));
    await user.keyboard('note{Enter}');
    expect(await rowOf('Note')).toBeTruthy();
    await waitFor(() =>
      expect(kept.document.plan.steps[0]!.lines.at(-1)).toMatchObject({ from: ['hello'], field: 'note' }),
    );
  });
});

describe('an intake without a plan', () => {
  const empty: IntakeDocument = { ...DOCUMENT, plan: { steps: [] } };

  it('proposes one whole, with what finds a place; Enter takes it, and a made-up sample stands beside the lines', async () => {
    const { user, kept } = showIntake('plan', <PlanStation />, { document: empty, more: NO_SAMPLES });
    const proposed = await screen.findByRole('region', { name: 'Proposed plan' });
    expect(proposed.textContent).toContain('Orchard in Clover Hill, recognised by E-mail');
    expect(proposed.textContent).toMatch(/\d of 4 fields find a place/);
    const take = within(proposed).getByRole('button', { name: /Take this plan/ });
    await waitFor(() => expect(document.activeElement).toBe(take));
    await user.keyboard('{Enter}');
    await rowOf('Name');
    await waitFor(async () => expect((await cellsOf('E-mail'))[1]).toBe('clara.holm@meadow.example'));
    await waitFor(() => expect(kept.document.plan.steps).toHaveLength(1));
  });

  it('lets one entity be picked by hand, the read-only ones last', async () => {
    const { user } = showIntake('plan', <PlanStation />, { document: empty, more: NO_SAMPLES });
    await user.click(await screen.findByPlaceholderText('Find an entity'));
    const items = await screen.findAllByRole('option');
    expect(items.map((item) => item.textContent)).toEqual([expect.stringMatching(/^Orchard\d fields fit$/)]);
  });
});

describe('what the checks are said to find', () => {
  it('is nothing before the schema is read, and all well only after a rehearsal', async () => {
    let answer: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (answer = resolve));
    const { asked } = showIntake('plan', <PlanStation />, {
      document: { ...DOCUMENT, fields: DOCUMENT.fields.slice(0, 2), plan: { steps: [soundStep()] } },
      more: {
        'get /systems/:id': async () => {
          await held;
          return new Response(JSON.stringify(SYSTEM));
        },
        'get /intakes/:id/samples': { samples: SAMPLES.slice(1) },
      },
    });
    expect(await screen.findByText('Reading the schema …')).toBeTruthy();
    expect(screen.queryByText(/All checks pass/)).toBeNull();
    answer();
    expect(await screen.findByText('● All checks pass')).toBeTruthy();
    expect(asked.some(({ name }) => name === 'post /intakes/:id/rehearse')).toBe(true);
  });
});

describe('a line that is opened', () => {
  it('takes the focus, and Escape gives it back, also with the caret in one of its fields', async () => {
    const { user } = showIntake('plan', <PlanStation />);
    await rowOf('Name');
    await user.keyboard('{Enter}');
    const editor = await screen.findByRole('group', { name: 'Line to Name' });
    await waitFor(() => expect(editor.contains(document.activeElement)).toBe(true));
    within(editor).getByRole('checkbox').focus();
    await user.keyboard('{Escape}');
    await waitFor(() => expect(screen.queryByRole('group', { name: 'Line to Name' })).toBeNull());
  });

  it('says how many samples come out otherwise than by the live version, and which value', async () => {
    const [step] = DOCUMENT.plan.steps;
    const lines = step!.lines.map((line) => (line.field === 'name' ? { ...line, treatments: [] } : line));
    const live = { ...DOCUMENT, plan: { ...DOCUMENT.plan, steps: [{ ...step!, lines }] } };
    const { user } = showIntake('plan', <PlanStation />, { live, state: 'open' });
    await user.click(await screen.findByRole('button', { name: 'Edit the line to Name' }));
    const opened = await screen.findByRole('group', { name: 'Line to Name' });
    await waitFor(() => expect(opened.textContent).toMatch(/1 of 2 samples comes out otherwise than by version 1/));
    expect(opened.textContent).toContain('␣Wren Orchard␣ → Wren Orchard');
  });

  it('says what becomes of what can’t be read, and leaves it out when told to', async () => {
    const { user } = showIntake('plan', <PlanStation />);
    await user.click(await screen.findByRole('button', { name: 'Edit the line to Hives' }));
    const editor = await screen.findByRole('group', { name: 'Line to Hives' });
    await user.click(within(editor).getByRole('button', { name: 'What can’t be read' }));
    await user.click(await screen.findByRole('option', { name: /is left out/ }));
    await user.keyboard(']');
    await waitFor(() => expect(editor.textContent).toContain('it is left out'));
  });
});
