/** @jest-environment @happy-dom/jest-environment */
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Combobox } from './combobox.tsx';
import { Choices, Editable } from './editable.tsx';

const ITEMS = [
  { value: 'orchards', label: 'Orchard', words: 'Orchard orchards farm', group: 'Clover Hill' },
  { value: 'people', label: 'Person', words: 'Person people contact', group: 'Clover Hill' },
];

describe('a list that narrows while typing', () => {
  it('draws only the first of hundreds, of each group, and finds the others by typing', async () => {
    Element.prototype.scrollIntoView = () => undefined;
    const user = userEvent.setup();
    const chosen: string[] = [];
    const many = Array.from({ length: 600 }, (_, at) => ({
      value: `f${at}`,
      label: `Field ${at}`,
      words: `Field ${at}`,
    }));
    const or = { value: 'always', label: 'Always the same', words: 'always', group: 'Or' };
    render(<Combobox placeholder="Find a field" items={[...many, or]} choose={(value) => chosen.push(value)} />);
    expect(screen.getAllByRole('option')).toHaveLength(31);
    expect(screen.getByText('Always the same')).toBeTruthy();
    expect(screen.getByText('and 570 more; type to narrow')).toBeTruthy();
    await user.type(screen.getByPlaceholderText('Find a field'), 'field 599{Enter}');
    expect(chosen).toEqual(['f599']);
  });

  it('keeps an Enter that was pressed while the items were on their way', async () => {
    Element.prototype.scrollIntoView = () => undefined;
    const user = userEvent.setup();
    const chosen: string[] = [];
    const choose = (value: string) => chosen.push(value);
    const { rerender } = render(<Combobox placeholder="Find an entity" loading choose={choose} />);
    await user.type(screen.getByPlaceholderText('Find an entity'), '{Enter}');
    expect(screen.getByText('Reading what the systems keep …')).toBeTruthy();
    expect(screen.queryByText('No matches')).toBeNull();
    const items = [{ value: 'people', label: 'Person', words: 'Person' }];
    rerender(<Combobox placeholder="Find an entity" items={items} choose={choose} />);
    await waitFor(() => expect(chosen).toEqual(['people']));
  });

  it('finds by any of an item’s words and chooses with Enter', async () => {
    const choose = jest.fn();
    render(<Combobox items={ITEMS} placeholder="Find an entity" choose={choose} />);
    await userEvent.type(screen.getByPlaceholderText('Find an entity'), 'CONT');
    expect(screen.queryByText('Orchard')).toBeNull();
    await userEvent.keyboard('{Enter}');
    expect(choose).toHaveBeenCalledWith('people');
  });

  it('says so when nothing is like what was typed', async () => {
    render(<Combobox items={ITEMS} placeholder="Find an entity" choose={() => undefined} />);
    await userEvent.type(screen.getByPlaceholderText('Find an entity'), 'zebra');
    expect(screen.getByText('No matches')).toBeTruthy();
  });
});

describe('a part of a sentence', () => {
  const sentence = (choose: (value: string) => void, disabled = false) => (
    <Editable label="If both have a value" shown="write" disabled={disabled}>
      {(close) => (
        <Choices
          options={[
            { value: 'write', label: 'write' },
            { value: 'fill only', label: 'fill only', help: 'Only an empty field is filled.' },
          ]}
          chosen="write"
          choose={(value) => (choose(value), close())}
        />
      )}
    </Editable>
  );

  it('opens what it can be, at what it is; arrows and Enter choose, and it closes', async () => {
    const choose = jest.fn();
    render(sentence(choose));
    await userEvent.click(screen.getByRole('button', { name: 'If both have a value' }));
    expect(document.activeElement?.textContent).toBe('write');
    await userEvent.keyboard('{ArrowDown}');
    expect(document.activeElement?.textContent).toContain('fill only');
    await userEvent.keyboard('{Enter}');
    expect(choose).toHaveBeenCalledWith('fill only');
    expect(screen.queryByRole('listbox')).toBeNull();
  });

  it('closes with Escape and leaves it as it was', async () => {
    const choose = jest.fn();
    render(sentence(choose));
    await userEvent.click(screen.getByRole('button', { name: 'If both have a value' }));
    await userEvent.keyboard('{Escape}');
    expect(screen.queryByRole('listbox')).toBeNull();
    expect(choose).not.toHaveBeenCalled();
  });

  it('doesn’t open for those who only look', async () => {
    render(sentence(() => undefined, true));
    await userEvent.click(screen.getByRole('button', { name: 'If both have a value' }));
    expect(screen.queryByRole('listbox')).toBeNull();
  });
});
