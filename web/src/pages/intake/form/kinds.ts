import type { ItemKind } from '@zusammen/core/forms/hosted';

/** What can be asked, and put between questions, in words. */
export const KINDS: { kind: ItemKind; words: string; note?: string; group: string }[] = [
  { kind: 'text', words: 'a text', group: 'Ask for' },
  { kind: 'long text', words: 'a long text', group: 'Ask for' },
  { kind: 'email', words: 'an e-mail address', group: 'Ask for' },
  { kind: 'phone', words: 'a phone number', group: 'Ask for' },
  { kind: 'web address', words: 'a web address', group: 'Ask for' },
  { kind: 'number', words: 'a number', group: 'Ask for' },
  { kind: 'money', words: 'an amount of money', group: 'Ask for' },
  { kind: 'date', words: 'a day', group: 'Ask for' },
  { kind: 'time', words: 'a time', group: 'Ask for' },
  { kind: 'date and time', words: 'a day and a time', group: 'Ask for' },
  { kind: 'yes/no', words: 'yes or no', group: 'Ask for' },
  { kind: 'one of', words: 'one of several options', group: 'Ask for' },
  { kind: 'several of', words: 'any of several options', group: 'Ask for' },
  { kind: 'file', words: 'a file', note: 'kept here, goes on as an address', group: 'Ask for' },
  { kind: 'signature', words: 'a signature', note: 'typed, or drawn as well', group: 'Ask for' },
  { kind: 'consent', words: 'a consent', note: 'its wording is kept', group: 'Ask for' },
  { kind: 'hidden', words: 'a hidden value', note: 'e.g. from the address', group: 'Ask for' },
  { kind: 'group', words: 'rows of questions', note: 'each row is a record', group: 'Or put in' },
  { kind: 'heading', words: 'a heading', group: 'Or put in' },
  { kind: 'words', words: 'words', group: 'Or put in' },
];

export const kindInWords = (kind: ItemKind): string =>
  kind === 'record' ? 'a record that is looked up' : (KINDS.find((each) => each.kind === kind)?.words ?? kind);
