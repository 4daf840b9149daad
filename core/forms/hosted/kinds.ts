import type { InputType } from '../model.ts';

/** The kinds of question a form of ours asks, and as which kind of field their answers go on. */
export const ASKED_AS = {
  text: 'text',
  'long text': 'long text',
  email: 'email',
  phone: 'phone',
  'web address': 'web address',
  number: 'number',
  money: 'number',
  date: 'date',
  time: 'time',
  'date and time': 'date and time',
  'yes/no': 'yes/no',
  'one of': 'option',
  'several of': 'options',
  record: 'text',
  // The address at which it is to be had.
  file: 'web address',
  signature: 'text',
  consent: 'yes/no',
  hidden: 'text',
} as const satisfies Record<string, InputType>;
export type QuestionKind = keyof typeof ASKED_AS;
export const QUESTION_KINDS = Object.keys(ASKED_AS) as QuestionKind[];

/** What stands in a form besides questions: words, and groups of questions that are answered once a row. */
export const ITEM_KINDS = [...QUESTION_KINDS, 'heading', 'words', 'group'] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];

export const isQuestion = (kind: ItemKind): kind is QuestionKind => Object.hasOwn(ASKED_AS, kind);

/** Whether an answer may be a record that is read from a system. */
export const readsRecords = (kind: ItemKind): boolean => kind === 'record' || isChoice(kind);

/** Whether an answer is chosen among options. */
export const isChoice = (kind: ItemKind): boolean => kind === 'one of' || kind === 'several of';
