/** @jest-environment @happy-dom/jest-environment */
import type { PaymentServiceTold } from '@zusammen/core/api';
import { screen, waitFor, within } from '@testing-library/react';
import { refusal, show, type Answers } from '../testing/page.tsx';
import { PaymentServices } from './payment-services.tsx';

const TILL: PaymentServiceTold = {
  ...{ id: 'till', name: 'Clover till', address: 'https://pay.example', test: true },
  events: 'https://here.example/payments/till',
};
const services = (more: Answers = {}, { administrator = true, list = [TILL] } = {}) =>
  show(<PaymentServices administrator={administrator} />, {
    answers: { 'get /payment-services': { services: list }, ...more },
  });

it('shows each service, where it is and whether money is moved', async () => {
  services({}, { administrator: false });
  const line = (await screen.findByText('Clover till')).closest('li')!;
  expect(line.textContent).toContain('https://pay.example');
  expect(within(line).getByText('test mode')).toBeTruthy();
  expect(screen.queryByRole('button')).toBeNull();
});

it('says what is missing where there is none', async () => {
  services({}, { list: [] });
  expect(await screen.findByText(/can’t ask for a fee yet/)).toBeTruthy();
});

it('connects one, and says where its events go', async () => {
  const { user, saidTo } = services({ 'post /payment-services': { service: TILL } }, { list: [] });
  await user.click(await screen.findByRole('button', { name: 'Connect a payment service' }));
  await user.type(screen.getByLabelText('Name'), 'Clover till');
  await user.type(screen.getByLabelText('Where its API begins'), 'https://pay.example');
  await user.type(screen.getByLabelText('What speaks for us there'), 'a-key-of-it');
  await user.type(screen.getByLabelText('The key by which it signs its events'), 'whsec_AAAAAAAAAAAAAAAAAAAA');
  await user.click(screen.getByRole('button', { name: 'Connect' }));
  expect(await screen.findByText(TILL.events)).toBeTruthy();
  expect(saidTo('post /payment-services')).toEqual([
    {
      ...{ name: 'Clover till', address: 'https://pay.example', test: true },
      ...{ key: 'a-key-of-it', signing: 'whsec_AAAAAAAAAAAAAAAAAAAA' },
    },
  ]);
});

it('keeps the keys that aren’t given anew, and says why one stays connected', async () => {
  const { user, saidTo } = services({
    'put /payment-services/:id': { service: TILL },
    'delete /payment-services/:id': () => refusal(409, 'In use', 'Clover till is used by Membership renewal.'),
  });
  await user.click(await screen.findByRole('button', { name: 'Change' }));
  await user.click(screen.getByRole('button', { name: 'Disconnect' }));
  expect((await screen.findByRole('alert')).textContent).toContain('used by Membership renewal');
  await user.click(screen.getByRole('checkbox'));
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(saidTo('put /payment-services/:id')).toEqual([
    { name: 'Clover till', address: 'https://pay.example', test: false },
  ]);
});
