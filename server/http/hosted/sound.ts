import { troublesOf } from '@zusammen/core/forms/hosted';
import { withForm, type IntakeDocument } from '@zusammen/core/intake';
import { badField, Problem } from '../problem.ts';

/**
 * An intake's document as it may be kept: a form of ours is sound as a whole, and the document's fields are what it sends.
 * @throws Problem naming each part of the form that isn't, and why
 */
export function soundDocument(document: IntakeDocument): IntakeDocument {
  const isOurs = document.source.kind === 'ours';
  if (isOurs !== (document.form !== undefined))
    throw badField(
      'form',
      isOurs ? 'is missing, and a form of ours is what leads here' : 'is there, and the source is none of ours',
    );
  const { kind, system, entity } = document.source;
  if (kind === 'record' && (system === undefined || entity === undefined))
    throw badField('source', 'has to say of which system and entity the records are that it converts');
  if (!document.form) return document;
  const troubles = troublesOf(document.form);
  if (troubles.length > 0)
    throw new Problem(
      422,
      'Not acceptable as it is',
      `The form can’t be shown: ${troubles[0]!.reason}.`,
      troubles.slice(0, 50).map(({ at, reason }) => ({ field: at === '' ? 'form' : `form.${at}`, reason })),
    );
  return withForm(document, document.form);
}
