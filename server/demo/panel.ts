import { addItem, askFor, emptyForm, fillFromParent, openOnRecord, type Asking } from '@zusammen/core/asking';
import { changeItem, standingsOf, type Item } from '@zusammen/core/forms/hosted';
import { changeForm, changePlan, INTAKE_FORMAT, withForm, type IntakeDocument } from '@zusammen/core/intake';
import { blankStep, constantLine, linkLine } from '@zusammen/core/plans';
import { entityOf, type Field } from '@zusammen/core/schema';
import { aboutSecret, findIssuer } from '../acting/index.ts';
import type { Sealer } from '../access/index.ts';
import { saveActingSystem, type Database } from '../store/index.ts';
import type { Via } from '../systems/index.ts';
import type { Making } from './intakes.ts';

/** The form on a keeper's or an organisation's page in the CRM, and how people act there as themselves. */

export const APIARY_INSPECTION = 'apiary-inspection';
const WHERE = { country: 'DE', locale: 'de-DE', zone: 'Europe/Berlin', perMinute: 6000 };
const CLIENT = { id: 'zusammen', secret: 'demo-panel-secret' };
const RECORD_KEEPER = { login: 'keeper', password: 'clover-hollow' };

/** Made as a specialist makes it: by asking for what the CRM keeps of a visit and of apiaries, in rows. */
export function apiaryInspection({ system, schema }: Making, pages: string): IntakeDocument {
  let made = 0;
  const asking: Asking = { schemas: new Map([[system, schema]]), newId: () => `a${(made += 1)}` };
  const field = (name: string): Field => entityOf(schema, 'BeeYards')!.fields.find((each) => each.name === name)!;
  const group: Item = {
    ...{ id: 'rows', kind: 'group', name: 'apiaries', leastRows: 1, mostRows: 12, items: [] },
    label: { en: 'Apiaries seen', de: 'Besuchte Bienenstände' },
  };
  let document: IntakeDocument = withForm(
    {
      ...{ format: INTAKE_FORMAT, name: 'Apiary inspection', source: { kind: 'ours' }, fields: [] },
      ...{ plan: { steps: [] }, settings: { ...WHERE, allowedOrigins: [new URL(pages).origin] } },
    },
    { ...emptyForm('Apiary inspection', asking.newId), languages: ['en', 'de'] },
  );
  const visit = { ...blankStep('visit', system, 'Visits'), whenNone: 'create' as const };
  const apiary = { ...blankStep('apiary', system, 'BeeYards'), repeat: 'apiaries' };
  const kind = { ...constantLine('line-kind', 'kind'), constant: 'inspection' };
  const steps = [
    { ...visit, lines: [kind] },
    { ...apiary, lines: [linkLine('line-visit', field('visit_id'), 'visit')] },
  ];
  document = changePlan(document, (plan) => ({ ...plan, steps }));
  for (const name of ['place', 'seen_at', 'reporter_phone', 'notes'])
    document = askFor(document, 'visit', name, asking);
  document = addItem(document, group);
  for (const name of ['name', 'hives', 'bees', 'health']) document = askFor(document, 'apiary', name, asking);
  for (const entity of ['People', 'Organisations']) document = openOnRecord(document, system, entity, asking);
  document = fillFromParent(document, 'visit', 'reporter_phone', 'shown', asking);
  for (const name of ['owner_id', 'territory']) document = fillFromParent(document, 'visit', name, 'unseen', asking);
  for (const name of ['owner_id', 'street', 'postcode', 'city', 'country', 'territory'])
    document = fillFromParent(document, 'apiary', name, 'unseen', asking);
  return changeForm(document, (form) => {
    const words: Record<string, [en: string, de: string, more?: Partial<Item>]> = {
      place: ['Where', 'Wo'],
      seen_at: ['When', 'Wann', { begins: { with: 'parameter', value: 'seen' } }],
      reporter_phone: ['Phone of the keeper', 'Telefon'],
      notes: ['Notes', 'Notizen'],
      'apiaries[0][name]': ['Name of the apiary', 'Name des Standes'],
      'apiaries[0][hives]': ['Hives', 'Völker', { least: 0, most: 400 }],
      'apiaries[0][bees]': ['Kind of bees', 'Bienen'],
      'apiaries[0][health]': ['Health', 'Gesundheit'],
    };
    const worded = standingsOf(form).reduce((held, { item, name }) => {
      const found = words[name];
      if (!found) return held;
      const [en, de, more] = found;
      return changeItem(held, item.id, (each) => ({ ...each, label: { en, de }, ...more }));
    }, form);
    return {
      ...worded,
      title: { en: 'Apiary inspection', de: 'Standbesuch' },
      thanks: { en: 'The visit is noted.', de: 'Der Besuch ist eingetragen.' },
    };
  });
}

/** People act as themselves in the CRM: it says of itself where its keys are and where tokens are exchanged. */
export async function actAsThemselves(
  db: Database,
  sealer: Sealer,
  via: Via,
  system: string,
  address: string,
): Promise<void> {
  const found = await findIssuer(address, via.dispatcher);
  if ('asked' in found) throw new Error(`The CRM doesn’t say who issues its tokens: ${JSON.stringify(found.asked)}`);
  await saveActingSystem(db, {
    ...{ ...found, systemId: system, clientId: CLIENT.id },
    sealedSecret: sealer.seal(CLIENT.secret, aboutSecret(system)),
  });
}

/** Puts the panel's line on pages of the CRM, as whoever keeps its records does. */
export async function putOnPages(standins: string, types: readonly string[], line: string): Promise<void> {
  const signedIn = await fetch(`${standins}/crm/sign-in`, {
    ...{ method: 'POST', body: new URLSearchParams(RECORD_KEEPER), redirect: 'manual' },
  });
  const cookie = signedIn.headers.get('set-cookie')?.split(';')[0] ?? '';
  for (const entity of types) {
    const body = new URLSearchParams({ entity, line });
    const kept = await fetch(`${standins}/crm/panels`, {
      method: 'POST',
      body,
      headers: { cookie },
      redirect: 'manual',
    });
    if (kept.status >= 400) throw new Error(`The CRM does not take the panel’s line: ${kept.status}`);
  }
}
