/** What is never taken in, whatever a page asks for: told by a control's name or by its label. */

const CARD =
  /(^|[^a-z])(cvv|cvc|csc)([^a-z]|$)|card[-_ ]?(number|no)([^a-z]|$)|(^|[^a-z])cc[-_]?(num|no|exp)|card security code|kartennummer/i;
/** Some pages hide what is typed by a script of their own, over an input like any other. */
const PASSWORD =
  /^(?:(?:your|new|confirm|repeat) )?(?:pass(?:word|wd|phrase)|pwd|passwort|kennwort|hasło|haslo|mot de passe|contraseña|senha|wachtwoord)$/i;
/** Labels of more say more than what a control is called. */
const LONGEST = 200;

export const holdsCard = (said: string): boolean => CARD.test(said.slice(0, LONGEST));

export const isPassword = (said: string): boolean => said.length <= 60 && PASSWORD.test(said.trim());
