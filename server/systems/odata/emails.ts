/**
 * E-mail addresses are compared without regard to case, so a field that holds them must be known as such; where
 * nothing in the metadata says so, its name and its values do.
 */

/** A limit under which no e-mail address would be kept, in characters. */
const SHORTEST_LIMIT = 20;
/** Values that must all be addresses before a field is taken to hold them. */
const ENOUGH = 3;

/** Whether a property is called as one that holds an e-mail address: `EMailAddress1`, `contact_mail`, `Adres e-mail`. */
export function namesEmail(name: string, maxLength?: number): boolean {
  if (maxLength !== undefined && maxLength < SHORTEST_LIMIT) return false;
  const words = name
    .slice(0, 200)
    .replace(/([a-z\d])([A-Z])/g, '$1 $2')
    .replace(/([A-Z])([A-Z][a-z])/g, '$1 $2')
    .replace(/[^\p{L}\d]+/gu, ' ')
    .trim()
    .toLowerCase();
  return /(?:^| )(?:e ?mail|mail)(?: ?(?:address|adresse|adres|addr))?(?: ?\d)?$/.test(words);
}

/** Whether all of some values look like e-mail addresses, and there are enough of them to tell. */
export const areEmails = (values: readonly string[]): boolean =>
  values.length >= ENOUGH &&
  values.every((each) => each.length <= 320 && /^[^\s@]+@[^\s@.]+(?:\.[^\s@.]+)+$/.test(each));
