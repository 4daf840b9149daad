import {
  followRename,
  followRenamePaired,
  followRenameRecognised,
  type FieldMove,
} from '@zusammen/core/renamed-fields';
import type { ChangeStep } from '@zusammen/core/schema-changes';
import {
  editIntake,
  followConversion,
  hastenWaiting,
  recognitionOfEntity,
  saveRecognition,
} from '../../store/index.ts';
import { editApplied } from '../pairing/index.ts';
import type { SchemaWork } from './work.ts';

type Rename = ChangeStep & { kind: 'rename' };

/** Has an intake, a pairing or a recognition go by a field's new name, in drafts and in what is live; done before, it is done. */
export async function goBy(work: SchemaWork, { at, id }: Rename, move: FieldMove, by: string): Promise<void> {
  const { db, live } = work;
  live.forget();
  if (at === 'intake') {
    const why = 'a field has another name';
    const document = await editIntake(db, id, (each) => followRename(each, move), { id: null, name: by }, why);
    live.forget();
    if (document) await followConversion(db, document, by);
    // What came in meanwhile waits for this.
    await hastenWaiting(db, id);
    return work.look();
  }
  if (at === 'pairing') {
    const schemas = await live.allSchemas();
    await editApplied({ db, schemas }, id, (pairing) => followRenamePaired(pairing, move, schemas), by, true);
    return work.look();
  }
  const held = await recognitionOfEntity(db, move.system, move.entity);
  const next = held && followRenameRecognised(held.document, move);
  if (!held || JSON.stringify(next) === JSON.stringify(held.document)) return;
  await saveRecognition(db, move.system, move.entity, next!, held.revision, { id: null, name: by });
  live.forget();
}
