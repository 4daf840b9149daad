/** @jest-environment @happy-dom/jest-environment */
import type { Acting, System, TriedPerson } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { refusal, show, type Answers } from '../testing/page.tsx';
import { ActingPeople } from './acting-people.tsx';

const system = { id: 'crm', name: 'Wren CRM', address: 'https://wren.example/odata/' } as System;
const ACTING: Acting = {
  issuer: 'https://wren.example',
  keysAddress: 'https://wren.example/jwks.json',
  tokenAddress: 'https://wren.example/token',
  ...{ clientId: 'zusammen', clientBy: 'header' },
};
const people = (acting: Acting | null, more: Answers = {}, administrator = true) =>
  show(
    <dl>
      <ActingPeople system={system} administrator={administrator} />
    </dl>,
    {
      answers: { 'get /systems/:id/acting': { acting, audience: 'https://zusammen.example/tries/crm' }, ...more },
    },
  );

describe('how people act as themselves in a system', () => {
  it('is found where the system publishes it, and said with a client and its secret', async () => {
    const { clientId: _, ...found } = ACTING;
    const { user, saidTo } = people(null, {
      'post /systems/:id/acting/find': found,
      'put /systems/:id/acting': ({ body }) => ({ acting: body as Acting }),
    });
    await user.click(await screen.findByRole('button', { name: 'Let people act…' }));
    const dialog = within(screen.getByRole('dialog'));
    expect((dialog.getByRole('button', { name: 'Save' }) as HTMLButtonElement).disabled).toBe(true);
    await user.click(dialog.getByRole('button', { name: 'Find' }));
    expect(await dialog.findByText(/^Found:/)).toBeTruthy();
    expect((dialog.getByLabelText('Its keys (JWK Set)') as HTMLInputElement).value).toBe(ACTING.keysAddress);
    await user.type(dialog.getByLabelText('Known there as'), 'zusammen');
    await user.type(dialog.getByLabelText('Secret'), 'a secret');
    await user.click(dialog.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(saidTo('put /systems/:id/acting')).toEqual([{ ...ACTING, clientSecret: 'a secret' }]);
  });

  it('can be said by hand where nothing is published; what is refused stands at its field', async () => {
    const { user } = people(null, {
      'post /systems/:id/acting/find': () => refusal(422, 'Not found', 'Nothing is published there.'),
      'put /systems/:id/acting': () =>
        refusal(422, 'Not like this', 'One value is wrong.', [{ field: 'issuer', reason: 'It is no address.' }]),
    });
    await user.click(await screen.findByRole('button', { name: 'Let people act…' }));
    const dialog = within(screen.getByRole('dialog'));
    await user.click(dialog.getByRole('button', { name: 'Find' }));
    expect(await dialog.findByText('Nothing is published there.')).toBeTruthy();
    for (const label of ['Issuer', 'Its keys (JWK Set)', 'Tokens are exchanged at', 'Known there as', 'Secret'])
      await user.type(dialog.getByLabelText(label), 'x');
    await user.click(dialog.getByRole('button', { name: 'Save' }));
    expect(await dialog.findByText('It is no address.')).toBeTruthy();
  });

  it('is tried with somebody: who they are, and what they may less than the connection', async () => {
    const tried: TriedPerson = {
      ...{ person: 'u-7', name: 'Wanda Wren' },
      entities: [
        {
          ...{ name: 'nests', label: 'Nest', less: ['delete'], fields: ['Height', 'Tree'] },
          rights: { read: true, create: true, update: true, delete: false },
        },
      ],
    };
    const { user, saidTo } = people(ACTING, { 'post /systems/:id/acting/try': tried });
    await user.click(await screen.findByRole('button', { name: 'Try with somebody…' }));
    expect(screen.getByText('https://zusammen.example/tries/crm')).toBeTruthy();
    await user.type(screen.getByLabelText('Signed context'), 'a.b.c');
    await user.click(screen.getByRole('button', { name: 'Try' }));
    const row = await screen.findByRole('row', { name: /^Nest/ });
    expect(screen.getByText('Wanda Wren')).toBeTruthy();
    expect(row.textContent).toContain('not delete; not write Height, Tree');
    expect(saidTo('post /systems/:id/acting/try')).toEqual([{ context: 'a.b.c' }]);
  });

  it('says why somebody’s context is refused', async () => {
    const { user } = people(ACTING, {
      'post /systems/:id/acting/try': () => refusal(422, 'Refused', 'It is too old.'),
    });
    await user.click(await screen.findByRole('button', { name: 'Try with somebody…' }));
    await user.type(screen.getByLabelText('Signed context'), 'a.b.c');
    await user.click(screen.getByRole('button', { name: 'Try' }));
    expect((await screen.findByRole('alert')).textContent).toBe('It is too old.');
  });

  it('is seen by others, who can’t change it', async () => {
    people(ACTING, {}, false);
    expect(await screen.findByText('https://wren.example')).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });
});
