/** @jest-environment @happy-dom/jest-environment */
import { render } from '@testing-library/react';
import { Differing } from './difference.tsx';
import { ValueText } from './values.tsx';

const textOf = (value: Parameters<typeof ValueText>[0]['value']): string =>
  render(<ValueText value={value} />).container.textContent ?? '';

describe('a value', () => {
  it('shows what the eye would miss: blanks at its ends, and where a line breaks', () => {
    expect(textOf('  Wren ')).toBe('␣␣Wren␣');
    expect(textOf('Mill Lane\n3')).toBe('Mill Lane⏎3');
    expect(textOf('Mill  Lane')).toBe('Mill  Lane');
  });

  it('tells blank, no and nought apart', () => {
    expect(textOf(null)).toBe('–');
    expect(textOf(undefined)).toBe('–');
    expect(textOf(false)).toBe('no');
    expect(textOf(true)).toBe('yes');
    expect(textOf(0)).toBe('0');
    expect(textOf(['a', 'b'])).toBe('a, b');
  });

  it('is shown as text, whatever it holds', () => {
    const { container } = render(<ValueText value={'<img src=x onerror=alert(1)>'} />);
    expect(container.querySelector('img')).toBeNull();
    expect(container.textContent).toBe('<img src=x onerror=alert(1)>');
  });
});

describe('a value beside another', () => {
  const marked = (value: string, other: string): { text: string; marks: string[] } => {
    const { container } = render(<Differing value={value} other={other} />);
    return {
      text: container.textContent ?? '',
      marks: [...container.querySelectorAll('mark')].map((each) => each.textContent ?? ''),
    };
  };

  it('has the characters marked that the other doesn’t have', () => {
    expect(marked('Meyerson', 'Mayerson')).toEqual({ text: 'Meyerson', marks: ['e'] });
  });

  it('is marked as a whole where hardly anything agrees', () => {
    expect(marked('Orla', 'Ben')).toEqual({ text: 'Orla', marks: ['Orla'] });
  });

  it('has nothing marked where they are alike, or differ in case only', () => {
    expect(marked('wren', 'wren').marks).toEqual([]);
    expect(marked('Wren', 'wren').marks).toEqual([]);
  });

  it('is left alone where there is nothing to compare it with, or where it is long', () => {
    expect(marked('Wren', '').marks).toEqual([]);
    expect(marked('a'.repeat(300), 'b'.repeat(300)).marks).toEqual([]);
  });
});
