import { changeItem, type HostedOption } from '../forms/hosted/index.ts';
import type { FormField } from '../forms/index.ts';
import type { Line } from '../mapping/index.ts';
import {
  changeForm,
  changePlanStep,
  changeSettings,
  takeInFields,
  type IntakeDocument,
  type IntakeSettings,
} from '../intake/index.ts';
import { withCarried, type CarriedLine } from '../one-field/index.ts';
import { addLines, changeLine, removeLine } from '../plans/index.ts';

/** What would settle a finding, as data, so that it can be shown before it is done and undone after. */
export type Mend = { label: string } & (
  | { kind: 'change line'; step: string; line: string; set: Partial<Line> }
  | { kind: 'remove line'; step: string; line: string }
  | { kind: 'add line'; step: string; added: Line }
  /** Offers options of a question as well. */
  | { kind: 'offer'; item: string; options: HostedOption[] }
  /** Lines with what they need of the records or forms that they read. */
  | { kind: 'carry'; lines: CarriedLine[] }
  | { kind: 'settings'; set: Partial<IntakeSettings> }
  /** Replaces fields of the same name and adds the others; `renamed` leads from old names to new ones. */
  | { kind: 'fields'; fields: FormField[]; renamed?: Record<string, string> }
);

/** The document with a mend carried out. The document given is left as it was. */
export function applyMend(document: IntakeDocument, mend: Mend): IntakeDocument {
  switch (mend.kind) {
    case 'offer':
      return changeForm(document, (form) =>
        changeItem(form, mend.item, (item) => ({
          ...item,
          options: [...(item.options ?? []), ...mend.options],
          known: [...(item.known ?? []), ...mend.options.map(({ value }) => value)],
        })),
      );
    case 'carry':
      return withCarried(document, mend.lines, new Map());
    case 'settings':
      return changeSettings(document, mend.set);
    case 'fields':
      return takeInFields(document, mend.fields, mend.renamed);
    case 'add line':
      return changePlanStep(document, mend.step, (step) => addLines(step, [mend.added]));
    case 'remove line':
      return changePlanStep(document, mend.step, (step) => removeLine(step, mend.line));
    case 'change line':
      return changePlanStep(document, mend.step, (step) =>
        changeLine(step, mend.line, (line) => ({ ...line, ...mend.set })),
      );
  }
}
