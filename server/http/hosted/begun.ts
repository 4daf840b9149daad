import { begunWith, type Begun, type OpenedWith } from '@zusammen/core/asking';
import { begunItems } from '@zusammen/core/forms/hosted';
import type { Sealer } from '../../access/index.ts';
import { openedWith, type LiveForm } from './answering.ts';
import type { FormReading } from './reading.ts';

/** Under which name it goes along what a form began with and its page doesn't show. */
export const BEGUN = '_begun';
const MOST_SEALED = 400_000;
type Kept = Pick<Begun, 'unseen' | 'ifBlank'>;
const NOTHING: Begun = { shown: {}, unseen: {}, ifBlank: {} };

const about = (of: LiveForm): string =>
  JSON.stringify(['begun', of.live.intake.id, openedWith(of), of.panel?.person ?? '']);

/** What the questions of a form begin with, of the record it was opened with and of whoever acts. @throws SystemTrouble */
export async function beginningWith(reading: FormReading, of: LiveForm): Promise<Begun> {
  const { form, panel } = of;
  const opened = openedWith(of);
  if (!opened || !form.link) return NOTHING;
  const record = await reading.opened(form.link, opened.entity, opened.record);
  const by: OpenedWith = { record: { entity: opened.entity, id: record.id, values: record.values } };
  if (panel) by.person = { id: panel.person, name: panel.name, email: panel.email };
  return begunWith(form, by);
}

/** What goes along with the page of it. */
export const sealBegun = (sealer: Sealer, of: LiveForm, { unseen, ifBlank }: Kept): Record<string, string> =>
  begunItems(of.form).length === 0 ? {} : { [BEGUN]: sealer.seal(JSON.stringify({ unseen, ifBlank }), about(of)) };

/**
 * What a form began with that its page doesn't show, as it was when it was opened; read anew where nothing speaks for it.
 * @throws SystemTrouble where it has to be read anew and can't be
 */
export async function keptOfBegun(sealer: Sealer, reading: FormReading, of: LiveForm, sealed: unknown): Promise<Kept> {
  if (!openedWith(of) || begunItems(of.form).length === 0) return NOTHING;
  if (typeof sealed === 'string' && sealed.length <= MOST_SEALED)
    try {
      return JSON.parse(sealer.open(sealed, about(of))) as Kept;
    } catch {
      // Altered, or of another record: it speaks for nothing.
    }
  return beginningWith(reading, of);
}
