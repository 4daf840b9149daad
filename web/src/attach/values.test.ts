/** @jest-environment @happy-dom/jest-environment */
import { readForms } from '@zusammen/core/forms';
import { controlsIn, unnamedAmong, valuesOf } from './values.ts';

const formOf = (html: string): HTMLFormElement => {
  document.body.innerHTML = html;
  return document.querySelector('form')!;
};

describe('what attach.js sends of controls without a name', () => {
  it.each([
    '<form><label>Your name<input></label><label>Town</label><input><input id="mail" type="email" placeholder="E-mail"></form>',
    '<form><input id=":r7:" placeholder="Straße *"><input id="mat-input-4" aria-label="Post code:"><input title="Age"></form>',
    '<form><input name="town"><label>Town<input></label><label>Town <select><option>a</option></select></label></form>',
    '<form><div><label>Numer&nbsp;telefonu <small>z kierunkowym</small></label></div><input id="tel"><div><label>Imię</label><div><input></div></div></form>',
    '<form><label for="x">Notes <i class="material-icons">edit</i></label><textarea id="x"></textarea><label>Wiek<input type="number"></label></form>',
    '<form><input placeholder="手机号"><input placeholder="  Two   spaces "><input type="password" id="pw"><input></form>',
  ])('goes by the names that the page reader gives them: %s', (html) => {
    const form = formOf(html);
    form.querySelectorAll('input').forEach((input) => (input.value ||= '1'));
    const read = readForms(html)[0]!.fields.map(({ name }) => name);
    const sent = valuesOf(form, null).map(([name]) => name);
    expect(new Set(sent.filter((name) => name !== 'text'))).toEqual(new Set(read));
  });
  it('is their values: a box when it is ticked, the chosen option, nothing secret and nothing switched off', () => {
    const form = formOf(
      '<form><label><input type="checkbox" value="yes" checked> News</label><label><input type="checkbox"> Terms</label><select id="land"><option>DE</option><option selected>PL</option></select><label>Password<input value="x"></label><input id="cvc" aria-label="CVC" value="1"><input id="off" disabled value="1"><input name="a" value="b"></form>',
    );
    expect(valuesOf(form, null)).toEqual([
      ['a', 'b'],
      ['news', 'yes'],
      ['land', 'PL'],
    ]);
  });
  it('of a page without a form is everything it holds', () => {
    document.body.innerHTML =
      '<div id="signup"><input name="first" value="Ada"><input id="mail" value="a@b.example"><input type="hidden" name="from" value="page"><button name="go" value="1"></button></div>';
    expect(unnamedAmong(controlsIn(document.querySelector('#signup')!), true)).toEqual([
      ['first', 'Ada'],
      ['mail', 'a@b.example'],
      ['from', 'page'],
    ]);
  });
});
