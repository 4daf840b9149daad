/** @jest-environment @happy-dom/jest-environment */
import type { FormField } from '@zusammen/core/forms';
import { screen } from '@testing-library/react';
import { makeFormField } from '../../../../../core/testing/world.ts';
import { DOCUMENT, showIntake } from '../testing.tsx';
import { Open } from './open.tsx';

jest.mock('../../../work/index.ts');

const script = (label: string): FormField => makeFormField(label.toLowerCase(), { label, byScript: true });
const openPage = async (fields: FormField[], formName?: string): Promise<string> => {
  showIntake('open', <Open />, {
    document: { ...DOCUMENT, fields, source: { kind: 'page', ...(formName ? { formName } : {}) } },
    more: { 'get /intakes/:id/imports': { imports: [] }, 'post /forms/read': [] as never },
  });
  const sheet = (await screen.findByText('Address for submissions')).closest('section')!;
  return sheet.textContent!;
};

describe('how a page sends here', () => {
  it('is by its form or by one line more, where its fields have names', async () => {
    const told = await openPage([makeFormField('mail'), makeFormField('name')], 'contact');
    expect(told).toContain('<form method="post" action="');
    expect(told).toContain(`data-form='form[name="contact"]`);
    expect(told).not.toContain('without a name');
  });

  it('leaves out what has no name where it posts straight, and says what that is', async () => {
    const told = await openPage([makeFormField('mail'), ...['Phone', 'Town', 'Street', 'House'].map(script)]);
    expect(told).toContain('<form method="post" action="');
    expect(told).toContain('Posting straight leaves out “Phone”, “Town”, “Street” and 1 more: without a name');
  });

  it('is by the line alone where none of its fields has a name', async () => {
    const told = await openPage([script('Phone'), makeFormField('seen', { hidden: true })]);
    expect(told).toContain('posting straight can’t work');
    expect(told).not.toContain('<form method="post"');
    expect(told).toContain('One more line');
    expect(told).toContain('/attach.js');
  });
});
