import type { System } from '@zusammen/core/api';

/** One ability of a system, as its page tells it. */
export interface Ability {
  name: string;
  /** `said`: it says so itself, and trying it would mean writing. */
  state: 'tried' | 'said' | 'declined' | 'untried';
  /** What that means, and what is done instead. */
  sentence: string;
  /** The system's own words. */
  words?: string;
}

type Capabilities = System['capabilities'];
type What = NonNullable<Capabilities['tried']>[number]['what'];

/** What trying shows, in the order in which it matters to who maps a form. */
const TRIED: [what: What, name: string, able: string, declined: string][] = [
  ['filter', 'Search by values', 'finds records by their values', 'all its records are read and compared here'],
  [
    'types',
    'Search by numbers, dates and the like',
    'finds them as well',
    'records are compared here where a key is of',
  ],
  ['folding', 'Search without regard to case', 'compares so where it is asked to', 'compared here'],
  ['byKey', 'Single records', 'gives one by its key', 'it is searched for; none can be changed or deleted'],
  [
    'listsAlike',
    'Whole records in lists',
    'shows them',
    'they show less than single records; what is found is read one by one',
  ],
  [
    'etags',
    'Versions of records',
    'a change by somebody else is noticed',
    'each is read once more just before it is changed, and left alone when it isn’t as it was',
  ],
  ['links', 'Relations', 'shows what a record is linked to', 'links are written, and not seen'],
  ['order', 'Sorting', 'sorts', 'sorted here'],
  ['select', 'Parts of records', 'gives the fields asked for', 'whole records are read'],
  ['batch', 'Batches', 'many records in one request', 'one request a record'],
];

/** Everything a system can do and can't, as it was tried when it was connected or read last. */
export function abilitiesOf(capabilities: Capabilities): Ability[] {
  const { tried, repeatability, delta, batch, etags, maxVersion } = capabilities;
  const abilities = TRIED.flatMap(([what, name, able, declined]): Ability[] => {
    const found = tried?.find((each) => each.what === what);
    if (!found) return untried(what, name, able, declined, tried === undefined ? { etags, batch } : { batch });
    const words = found.said === undefined || found.said === '' ? {} : { words: found.said };
    if (found.able === null) return [{ name, state: 'untried', sentence: 'not tried', ...words }];
    if (found.able) return [{ name, state: 'tried', sentence: able }];
    if (what === 'types') return [{ name, state: 'declined', sentence: `${declined} ${found.said ?? ''}`.trim() }];
    return [{ name, state: 'declined', sentence: declined, ...words }];
  });
  return [
    ...abilities,
    repeatability
      ? { name: 'Repeatable requests', state: 'said', sentence: 'what was cut short is sent again safely' }
      : {
          name: 'Repeatable requests',
          state: 'declined',
          sentence: 'what was cut short is looked for before it is sent again; where that can’t be told, Review asks',
        },
    delta
      ? { name: 'Changes since', state: 'said', sentence: 'only what changed is read' }
      : { name: 'Changes since', state: 'declined', sentence: 'everything is read to find what changed' },
    ...(maxVersion === undefined
      ? []
      : [{ name: 'OData 4.01', state: 'declined' as const, sentence: `${maxVersion} is spoken` }]),
  ];
}

/** What wasn't tried: a system that takes no batches, one connected before anything was, or one without links. */
function untried(
  what: What,
  name: string,
  able: string,
  declined: string,
  said: { etags?: boolean; batch: boolean },
): Ability[] {
  if (what === 'batch')
    return [{ name, state: said.batch ? 'said' : 'declined', sentence: said.batch ? able : declined }];
  if (what === 'etags' && said.etags !== undefined)
    return [{ name, state: said.etags ? 'said' : 'declined', sentence: said.etags ? able : declined }];
  return [];
}
