/** @jest-environment @happy-dom/jest-environment */
import type { FoundByText, User } from '@zusammen/core/api';
import { cleanup, screen, waitFor } from '@testing-library/react';
import { useActions } from '../parts/actions.ts';
import { show, type Answers } from '../testing/page.tsx';
import { FindOrDo } from './find-or-do.tsx';

const NOTHING: FoundByText = {
  submissions: [],
  fields: [],
  options: [],
  entities: [],
  intakes: [],
  pairings: [],
  records: [],
  people: [],
};
const at = { system: 'crm', systemName: 'Clover Hill', entity: 'people', entityLabel: 'Person' };
const done: string[] = [];

function Page({ role = 'specialist' }: { role?: User['role'] }) {
  useActions([{ name: 'Publish version 4', hotkey: 'P', act: () => done.push('published') }]);
  return (
    <FindOrDo
      open
      close={() => undefined}
      user={{ id: 'u', email: 'm@wren.example', name: 'Mara', role, active: true } as User}
    />
  );
}

const find = (found: Partial<FoundByText>, more: Answers = {}, role: User['role'] = 'specialist') =>
  show(<Page role={role} />, {
    answers: {
      'get /find': { ...NOTHING, ...found },
      'get /recognitions': { recognitions: [{ ...at, kind: 'person' } as never] },
      ...more,
    },
  });
const box = (): Promise<HTMLElement> => screen.findByPlaceholderText(/something to do/);

// Lists that narrow scroll what is marked into sight.
beforeAll(() => {
  Element.prototype.scrollIntoView = () => undefined;
});

describe('find or do', () => {
  it('offers to make a conversion to those who may', async () => {
    const { user } = find({});
    await user.type(await box(), 'convert');
    expect(await screen.findByText('Make a new conversion')).toBeTruthy();
    cleanup();
    const viewer = find({}, {}, 'viewer');
    await viewer.user.type(await box(), 'convert');
    expect(await screen.findByText('No matches')).toBeTruthy();
  });

  it('finds records, fields, choices and people, and says why', async () => {
    const { user } = find({
      records: [{ ...at, id: 'P-7', why: 'its e-mail' }],
      fields: [{ ...at, field: 'city', label: 'City', why: 'its name' }],
      options: [{ ...at, field: 'kind', label: 'Kind', option: 'Keeper', why: 'a choice of Kind' }],
      people: [{ id: 'u2', name: 'Idris Kay', email: 'idris@wren.example', why: 'the name' }],
    });
    await user.type(await box(), 'id');
    for (const why of ['its e-mail', 'its name', 'a choice of Kind', 'the name'])
      expect(await screen.findByText(why)).toBeTruthy();
    expect(screen.getByText('P-7')).toBeTruthy();
  });

  it('does what the page can do', async () => {
    const { user } = find({});
    await user.type(await box(), 'publish');
    await user.click(await screen.findByText('Publish version 4'));
    expect(done).toEqual(['published']);
  });

  it('leads to how an entity is recognised, also by another word for it', async () => {
    const { user, where } = find({});
    await user.type(await box(), 'thresholds');
    await user.click(await screen.findByText('How people of Clover Hill are recognised'));
    await waitFor(() => expect(where()).toBe('/schema/recognition?system=crm&entity=people'));
  });

  it('says that nothing matches only once it has looked', async () => {
    let answer: (found: FoundByText) => void = () => undefined;
    const later = new Promise<FoundByText>((resolve) => (answer = resolve));
    const { user } = find({}, { 'get /find': (() => later) as never });
    await user.type(await box(), 'qqqq');
    expect(await screen.findByText('Looking …')).toBeTruthy();
    expect(screen.queryByText('No matches')).toBeNull();
    answer(NOTHING);
    expect(await screen.findByText('No matches')).toBeTruthy();
  });

  it('offers a viewer no place that isn’t theirs', async () => {
    const { user } = find({}, {}, 'viewer');
    await user.type(await box(), 'new intake');
    await waitFor(() => expect(screen.queryByText('Make a new intake')).toBeNull());
  });
});
