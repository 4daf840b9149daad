/** @jest-environment @happy-dom/jest-environment */
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ApiProblem } from '../api/client.ts';
import { Fetched } from './states.tsx';

const pending = { data: undefined, error: null, isPending: true, refetch: () => undefined };

describe('what is fetched', () => {
  it('says that it loads until something is there', () => {
    render(<Fetched query={pending}>{() => 'a value'}</Fetched>);
    expect(screen.getByRole('status', { name: 'Loading' })).toBeTruthy();
    expect(screen.queryByText('a value')).toBeNull();
  });

  it('shows what is there, also when asking again went wrong', () => {
    render(
      <Fetched query={{ ...pending, data: 7, error: new Error('gone'), isPending: false }}>
        {(data) => `${data} bees`}
      </Fetched>,
    );
    expect(screen.getByText('7 bees')).toBeTruthy();
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('says what failed, in the server’s words, and tries again when asked to', async () => {
    const refetch = jest.fn();
    const error = new ApiProblem(502, 'The system is silent', 'Clover Hill did not answer within 10 s.');
    render(<Fetched query={{ ...pending, error, refetch }}>{() => 'a value'}</Fetched>);
    expect(screen.getByRole('alert').textContent).toContain('Clover Hill did not answer within 10 s.');
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(refetch).toHaveBeenCalledTimes(1);
  });

  it('offers nobody to try what their role may not do', () => {
    render(
      <Fetched query={{ ...pending, error: new ApiProblem(403, 'Forbidden', 'Viewers look.') }}>{() => ''}</Fetched>,
    );
    expect(screen.getByRole('alert').textContent).toContain('Not for your role');
    expect(screen.queryByRole('button')).toBeNull();
  });
});
