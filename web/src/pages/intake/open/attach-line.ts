/** A text within a CSS string (CSS Syntax 3, 4.3.5): quotes and backslashes with a backslash, line breaks by their code. */
const inString = (text: string): string =>
  text.replace(/["\\]/g, '\\$&').replace(/[\n\r\f]/g, (character) => `\\${character.charCodeAt(0).toString(16)} `);

/** A text within an attribute of HTML that stands in single quotes. */
const inAttribute = (text: string): string => text.replace(/[&'<>]/g, (character) => `&#${character.charCodeAt(0)};`);

/**
 * The line that a page takes up so that copies of its form come here. What the form is called comes from a stranger's page
 * and goes into the specialist's own: nothing of it may end the attribute.
 * @param formName the form's name, id or spoken label on its page, where it has one
 */
export function attachLine(origin: string, key: string, formName: string | undefined): string {
  const called = formName ? inString(formName) : '';
  const selector = ['name', 'id', 'aria-label'].map((by) => `form[${by}="${called}"]`).join(', ');
  const which = called === '' ? '' : ` data-form='${inAttribute(selector)}'`;
  return `<script src="${origin}/attach.js" data-intake="${key}"${which} defer></script>`;
}
