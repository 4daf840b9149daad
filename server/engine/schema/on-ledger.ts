import { fieldInWords, type ChangeStep } from '@zusammen/core/schema-changes';
import type { Values } from '@zusammen/core/schema';
import type { LedgerEntry } from '../../store/index.ts';

/** What a step changes of a system's schema, as the ledger tells it; undefined: it changes none. */
export function onLedger(step: ChangeStep): Pick<LedgerEntry, 'systemId' | 'entity' | 'after'> | undefined {
  switch (step.kind) {
    case 'entities': {
      const fields = step.entities.flatMap((entity) =>
        entity.fields.map((field): [string, string] => [
          step.entities.length === 1 ? field.label : `${entity.label}: ${field.label}`,
          fieldInWords(field),
        ]),
      );
      return { systemId: step.system, entity: step.entities[0]!.plural, after: Object.fromEntries(fields) as Values };
    }
    case 'field':
      return { systemId: step.system, entity: step.entity, after: { [step.field.label]: fieldInWords(step.field) } };
    case 'options':
      return {
        ...{ systemId: step.system, entity: step.entity },
        after: { [step.field]: step.options.map(({ label }) => label) },
      };
    case 'join':
      return {
        ...{ systemId: step.system, entity: step.entity },
        after: { [step.field]: `“${step.from.label}” becomes “${step.into.label}”` },
      };
    case 'rename':
    case 'follow':
    case 'carry':
    case 'fit':
    case 'rows':
      return undefined;
  }
}
