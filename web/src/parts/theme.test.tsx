/** @jest-environment @happy-dom/jest-environment */
import { act, render, screen } from '@testing-library/react';
import { chooseTheme, showTheme, themeChosen, useDark } from './theme.ts';

function Now() {
  return <p>{useDark() ? 'dark' : 'light'}</p>;
}

afterEach(() => {
  localStorage.clear();
  showTheme('as the system');
});

it('a chosen theme holds at once, is kept, and can be given back to the system', () => {
  render(<Now />);
  expect(themeChosen()).toBe('as the system');
  act(() => chooseTheme('dark'));
  expect(screen.getByText('dark')).toBeTruthy();
  expect(document.documentElement.dataset['theme']).toBe('dark');
  expect(themeChosen()).toBe('dark');
  act(() => chooseTheme('light'));
  expect(screen.getByText('light')).toBeTruthy();
  act(() => chooseTheme('as the system'));
  expect(document.documentElement.dataset['theme']).toBeUndefined();
});

it('what is kept and no theme counts as none', () => {
  localStorage.setItem('zusammen theme', 'sepia');
  expect(themeChosen()).toBe('as the system');
});
