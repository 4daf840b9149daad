/** @jest-environment @happy-dom/jest-environment */
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { Button } from './button.tsx';
import { Dialog } from './dialog.tsx';
import { TextField } from './form.tsx';
import { listKeys, useKeys } from './keys.ts';

const ROWS = ['first', 'second', 'third'];

function Listed({ acted, open = false }: { acted: (what: string) => void; open?: boolean }) {
  const [at, setAt] = useState(0);
  useKeys({ ...listKeys(ROWS.length, at, setAt), x: () => acted('x'), 'ctrl+z': () => acted('undo') });
  return (
    <>
      <p>{ROWS[at]}</p>
      <TextField label="Note" />
      <Dialog open={open} close={() => acted('closed')} title="Sure?">
        <Button onClick={() => acted('pressed')}>Yes</Button>
      </Dialog>
    </>
  );
}

describe('keys', () => {
  it('move in a list and stop at its ends', async () => {
    render(<Listed acted={() => undefined} />);
    await userEvent.keyboard('jjjj');
    expect(screen.getByText('third')).toBeTruthy();
    await userEvent.keyboard('{ArrowUp}');
    expect(screen.getByText('second')).toBeTruthy();
    await userEvent.keyboard('{Home}k');
    expect(screen.getByText('first')).toBeTruthy();
  });

  it('belong to what is typed while something is typed, but for undo', async () => {
    const acted = jest.fn();
    render(<Listed acted={acted} />);
    await userEvent.type(screen.getByLabelText('Note'), 'xj');
    expect(acted).not.toHaveBeenCalled();
    expect(screen.getByText('first')).toBeTruthy();
    await userEvent.keyboard('{Control>}z{/Control}');
    expect(acted).toHaveBeenCalledWith('undo');
  });

  it('wait while a dialog is open, which Escape closes', async () => {
    const acted = jest.fn();
    render(<Listed acted={acted} open />);
    await userEvent.keyboard('x');
    expect(acted).not.toHaveBeenCalled();
    await userEvent.keyboard('{Escape}');
    expect(acted).toHaveBeenCalledWith('closed');
  });

  it('with Ctrl or Alt that nobody has named are left to the browser', async () => {
    const acted = jest.fn();
    render(<Listed acted={acted} />);
    await userEvent.keyboard('{Control>}x{/Control}{Alt>}x{/Alt}');
    expect(acted).not.toHaveBeenCalled();
  });
});

describe('a button', () => {
  it('that is busy says so and can’t be pressed twice', async () => {
    const press = jest.fn();
    render(
      <Button busy onClick={press}>
        Save
      </Button>,
    );
    const button = screen.getByRole('button', { name: 'Save' });
    expect(button.getAttribute('aria-busy')).toBe('true');
    await userEvent.click(button);
    expect(press).not.toHaveBeenCalled();
  });

  it('in a form doesn’t send it unless it is the one that does', async () => {
    const send = jest.fn((event: { preventDefault: () => void }) => event.preventDefault());
    render(
      <form onSubmit={send}>
        <Button>Not now</Button>
        <Button type="submit">Send</Button>
      </form>,
    );
    await userEvent.click(screen.getByRole('button', { name: 'Not now' }));
    expect(send).not.toHaveBeenCalled();
    await userEvent.click(screen.getByRole('button', { name: 'Send' }));
    expect(send).toHaveBeenCalledTimes(1);
  });
});

it('a field says what is wrong with it to those who can’t see where', () => {
  render(<TextField label="E-mail" help="Where links go." error="is no e-mail address" />);
  const field = screen.getByLabelText('E-mail');
  expect(field.getAttribute('aria-invalid')).toBe('true');
  expect(document.getElementById(field.getAttribute('aria-describedby')!)?.textContent).toBe('is no e-mail address');
  expect(screen.queryByText('Where links go.')).toBeNull();
});
