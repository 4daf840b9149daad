import type { Naming } from '../option-sets/index.ts';
import type { Recognition } from '../recognition/index.ts';
import type { ChangeStep } from '../schema-changes/index.ts';
import type { Schema } from '../schema/index.ts';
import { followRename, followRenamePaired, followRenameRecognised, type FieldMove } from './follow.ts';

/** How records of an entity are recognised. */
export interface Recognised {
  systemId: string;
  entity: string;
  document: Recognition;
}

/** Everything that goes by a field's old name: drafts, what is live of them, and recognitions. One step for each. */
export function renameSteps(
  moves: readonly FieldMove[],
  {
    naming: { intakes, pairings },
    recognitions,
    schemas,
  }: { naming: Naming; recognitions: readonly Recognised[]; schemas: ReadonlyMap<string, Schema> },
): ChangeStep[] {
  const all = <D>(document: D, live: D | undefined): D[] => (live === undefined ? [document] : [document, live]);
  return moves.flatMap((move): ChangeStep[] => {
    const rename = { kind: 'rename' as const, ...move };
    // Following is a copy in which names stand otherwise; the order of its parts is the same.
    const changes = <D>(documents: D[], follow: (document: D) => D): boolean =>
      documents.some((each) => JSON.stringify(follow(each)) !== JSON.stringify(each));
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
