import { readFileSync } from 'node:fs';
import type { Meaning, SourceField } from '@zusammen/core/mapping';
import type { Whose } from '@zusammen/core/mapping/reading';

/** What a field of a real form means and whose it is, as a person reads it. */
export interface Truth {
  meaning: Meaning | 'nothing';
  whose: Whose;
}

export interface RealField extends SourceField {
  truth: Truth;
  /** The page reader takes something else for its label. */
  misread: boolean;
}

/** A form of a page that nobody here wrote. */
export interface RealForm {
  package: string;
  file: string;
  /** The how manyth form of its page, from 0. */
  at: number;
  language: string;
  fields: RealField[];
}

export type Half = 'training' | 'held-out';

const MEANINGS: Record<string, Meaning | 'nothing'> = {
  gn: 'given name',
  fn: 'family name',
  nm: 'full name',
  mn: 'middle name',
  ti: 'title',
  un: 'username',
  nk: 'nickname',
  em: 'email',
  emc: 'email again',
  ph: 'phone',
  mo: 'mobile',
  fx: 'fax',
  we: 'website',
  st: 'street',
  st2: 'address more',
  hn: 'house number',
  pc: 'postcode',
  ci: 'city',
  rg: 'region',
  co: 'country',
  ad: 'address',
  bd: 'birth date',
  bdd: 'birth day',
  bdm: 'birth month',
  bdy: 'birth year',
  dtm: 'month',
  dty: 'year',
  ge: 'gender',
  la: 'language',
  job: 'job',
  dep: 'department',
  on: 'organisation',
  tx: 'tax number',
  msg: 'message',
  sub: 'subject',
  ter: 'terms',
  pri: 'privacy',
  new: 'newsletter',
  fol: 'follow-up',
  con: 'consent',
  ref: 'reference',
  amt: 'amount',
  prod: 'product',
  src: 'source',
  str: 'start',
  end: 'end',
  cur: 'currency',
  emp: 'employees',
  dt: 'ordered',
  int: 'interests',
  '-': 'nothing',
};
const SUBJECTS: Record<string, Whose> = {
  o: 'their organisation',
  x: 'somebody else',
  b: 'the bill',
  s: 'the delivery',
  v: 'the visitor',
  m: 'the matter',
};
const OF_THE_MATTER = new Set<Meaning | 'nothing'>([
  'message',
  'subject',
  'reference',
  'amount',
  'product',
  'source',
  'start',
  'end',
  'currency',
  'ordered',
  'interests',
]);
const OF_AN_ORGANISATION = new Set<Meaning | 'nothing'>(['organisation', 'tax number', 'employees']);

/** A code such as `gn` or `x.em`: a given name; somebody else's e-mail address. @throws on a code that isn't one */
export function truthOf(code: string): Truth {
  const [first = '', second] = code.split('.');
  const meaning = MEANINGS[second ?? first];
  if (meaning === undefined) throw new Error(`“${code}” is no code of a meaning`);
  if (second !== undefined) return { meaning, whose: SUBJECTS[first]! };
  if (meaning === 'nothing') return { meaning, whose: 'nobody' };
  if (OF_THE_MATTER.has(meaning)) return { meaning, whose: 'the matter' };
  return { meaning, whose: OF_AN_ORGANISATION.has(meaning) ? 'their organisation' : 'the visitor' };
}

/** The forms of one half: a line of where a form stands, then a line a field (docs/mapping.md tells their columns). */
export function realForms(half: Half): RealForm[] {
  const text = readFileSync(new URL(`./${half}.txt`, import.meta.url), 'utf8');
  return text
    .trim()
    .split('\n\n')
    .map((block) => {
      const [head = '', ...lines] = block.split('\n');
      const [name = '', file = '', at = '0', language = ''] = head.slice(1).split('|');
      let section = '';
      const fields = lines.map((line): RealField => {
        const [
          sent = '',
          type = '',
          label = '',
          placeholder,
          heading = '',
          token,
          flags = '',
          options = '',
          code = '',
        ] = line.split('|');
        section = heading === '=' ? section : heading;
        const limit = /\d+/.exec(flags)?.[0];
        return {
          name: sent,
          label: label === '=' ? sent : label,
          type,
          ...(placeholder ? { placeholder } : {}),
          ...(section ? { section } : {}),
          ...(token ? { autocomplete: token } : {}),
          ...(flags.includes('h') ? { hidden: true } : {}),
          ...(flags.includes('r') ? { required: true } : {}),
          ...(flags.includes('m') ? { multiple: true } : {}),
          ...(limit ? { maxLength: Number(limit) } : {}),
          ...(options ? { options: options.split(';') } : {}),
          truth: truthOf(code.replace('!', '')),
          misread: code.endsWith('!'),
        };
      });
      return { package: name, file, at: Number(at), language, fields };
    });
}
