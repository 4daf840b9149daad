import { followOption, followPaired } from '@zusammen/core/option-sets';
import type { ChangeStep } from '@zusammen/core/schema-changes';
import { editIntake } from '../../store/index.ts';
import { editApplied } from '../pairing/index.ts';
import type { SchemaWork } from './work.ts';

type Follow = ChangeStep & { kind: 'follow' };

const WHY = 'an option became another';

/**
 * Has an intake or a pairing name one option where it named another, in its draft and in what is live.
 * @param before where that was noted already, by an attempt that was cut short @returns where it was named
 */
export async function followOn(
  work: SchemaWork,
  step: Follow,
  before: readonly string[],
  by: string,
): Promise<string[]> {
  const touched = new Set(before);
  const note = <T extends { touched: string[] }>(done: T): T => {
    for (const each of done.touched) touched.add(each);
    return done;
  };
  await edit(work, step, by, {
    intake: (document) => note(followOption(document, step)).document,
    pairing: (pairing, schemas) => note(followPaired(pairing, step, schemas)).pairing,
  });
  return [...touched];
}

/** Has it name the former option again, where it was noted and still names the other. */
export async function followBack(
  work: SchemaWork,
  step: Follow,
  touched: readonly string[],
  by: string,
): Promise<void> {
  const noted = new Set(touched);
  await edit(work, step, by, {
    intake: (document) => followOption(document, step, noted).document,
    pairing: (pairing, schemas) => followPaired(pairing, step, schemas, noted).pairing,
  });
}

type Schemas = Parameters<typeof followPaired>[2];

async function edit(
  work: SchemaWork,
  { at, id }: Follow,
  by: string,
  change: {
    intake: Parameters<typeof editIntake>[2];
    pairing: (pairing: Parameters<typeof followPaired>[0], schemas: Schemas) => Parameters<typeof followPaired>[0];
  },
): Promise<void> {
  const { db, live } = work;
  live.forget();
  if (at === 'intake') {
    await editIntake(db, id, change.intake, { id: null, name: by }, WHY);
    return live.forget();
  }
  const schemas = await live.allSchemas();
  await editApplied({ db, schemas }, id, (pairing) => change.pairing(pairing, schemas), by);
  work.look();
}
