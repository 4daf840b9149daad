import {
  followRename,
  followRenamePaired,
  followRenameRecognised,
  type FieldMove,
} from '@zusammen/core/renamed-fields';
import type { ChangeStep } from '@zusammen/core/schema-changes';
import { isDeepStrictEqual } from 'node:util';
import { listRecognitions } from '../store/index.ts';
import type { Context } from './context.ts';
import { namingNow } from './option-sets.ts';

/** Everything that goes by a field's old name: drafts, what is live of them, and recognitions. One step for each. */
export async function renameSteps(context: Context, moves: readonly FieldMove[]): Promise<ChangeStep[]> {
  const [{ intakes, pairings }, recognitions, schemas] = await Promise.all([
    namingNow(context),
    listRecognitions(context.db),
    context.live.allSchemas(),
  ]);
  const all = <D>(document: D, live: D | undefined): D[] => (live === undefined ? [document] : [document, live]);
  return moves.flatMap((move): ChangeStep[] => {
    const rename = { kind: 'rename' as const, ...move };
    const changes = <D>(documents: D[], follow: (document: D) => D): boolean =>
      documents.some((each) => !isDeepStrictEqual(follow(each), each));
    return [
      ...recognitions
        .filter(({ systemId, entity }) => systemId === move.system && entity === move.entity)
        .filter(({ document }) => changes([document], (each) => followRenameRecognised(each, move)))
        .map(({ entity }) => ({ ...rename, at: 'recognition' as const, id: entity, name: `Recognition of ${entity}` })),
      ...pairings
        .filter(({ document, live }) => changes(all(document, live), (each) => followRenamePaired(each, move, schemas)))
        .map(({ id, document }) => ({ ...rename, at: 'pairing' as const, id, name: document.name })),
      ...intakes
        .filter(({ document, live }) => changes(all(document, live), (each) => followRename(each, move)))
        .map(({ id, document }) => ({ ...rename, at: 'intake' as const, id, name: document.name })),
    ];
  });
}
