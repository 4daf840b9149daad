/** @jest-environment @happy-dom/jest-environment */
import { attachLine } from './attach-line.ts';

// That the form is found by it is seen in a browser (e2e/attach.spec.ts).
describe('the line that a page takes up', () => {
  it('names the intake, and the form where it has a name', () => {
    expect(attachLine('https://z.example', 'visit', undefined)).toBe(
      '<script src="https://z.example/attach.js" data-intake="visit" defer></script>',
    );
    expect(attachLine('https://z.example', 'visit', 'contact')).toContain(
      ` data-form='form[name="contact"], form[id="contact"], form[aria-label="contact"]' `,
    );
  });

  it.each(["o'clock", '</script><b>x', "x' onload='alert(1)", 'two\nlines', '&#39; onload=x', '\\'])(
    'is one element with nothing but its own attributes, whatever the form is called: %j',
    (name) => {
      const page = document.createElement('template');
      page.innerHTML = attachLine('https://z.example', 'visit', name);
      expect(page.content.childNodes).toHaveLength(1);
      expect(page.content.firstElementChild!.getAttributeNames()).toEqual(['src', 'data-intake', 'data-form', 'defer']);
    },
  );
});
