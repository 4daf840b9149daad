import { prepareLine, type Line } from '@zusammen/core/mapping';
import type { IntakeDocument } from '@zusammen/core/plans';
import { isWritable, type Entity } from '@zusammen/core/schema';
import { useCallback } from 'react';
import { worker } from '../../../work/index.ts';

/** Suggests lines for what the given lines leave open; computed off the main thread. */
export function useSuggest(): (document: IntakeDocument, entity: Entity, lines: readonly Line[]) => Promise<Line[]> {
  return useCallback(async (document, entity, lines) => {
    const taken = new Set(lines.map(({ field }) => field));
    const used = new Set(lines.flatMap(({ from }) => from));
    const open = document.fields.filter(({ name, type }) => !used.has(name) && type !== 'file');
    const target = { ...entity, fields: entity.fields.filter((field) => isWritable(field) && !taken.has(field.name)) };
    const suggested = await worker().suggest(open, [target]);
    return suggested.flatMap(({ from, field: name, confidence, reasons, standing }): Line[] => {
      const field = target.fields.find((each) => each.name === name)!;
      const sources = from.map((each) => document.fields.find((source) => source.name === each)!);
      const line = prepareLine(crypto.randomUUID().slice(0, 8), sources, field, document.settings);
      return [{ ...line, origin: standing === 'set' ? 'set' : 'suggested', confidence, reasons }];
    });
  }, []);
}
