import { fieldsOfRecord } from '@zusammen/core/intake';
import { entityOf, type Schema } from '@zusammen/core/schema';
import type { Json, Stage } from './stage.ts';

/** Conversions of the CRM's enquiries on a stage: an organisation, a person and a contract come of each. */
export interface Conversions {
  enquiry(more?: object): Promise<Json>;
  line(id: string, from: string[], field: string, more?: object): Json;
  step(id: string, entity: string, lines: Json[], more?: object): Json;
  document(source?: object, more?: object): Json;
  /** @returns the intake's id */
  published(key: string, wanted: Json): Promise<string>;
  convert(key: string, records: string[]): Promise<Json[]>;
}

export async function conversionsOn(stage: Stage): Promise<Conversions> {
  const { systems } = (await stage.api('GET', '/systems')).body;
  const crm: string = systems.find((each: Json) => each.name === 'Co-op CRM').id;
  const { schema }: { schema: Schema } = (await stage.api('GET', `/systems/${crm}`)).body;
  let made = 0;
  const enquiry = async (more: object = {}): Promise<Json> => {
    made += 1;
    return stage.crm('Enquiries', {
      method: 'POST',
      body: JSON.stringify({
        ...{
          subject: `Hives ${made}`,
          kind: 'pollination',
          hives_wanted: made,
          crops: ['apple', 'pear'],
          area_ha: 2.5,
        },
        ...{
          caller_company: `Hof ${made}`,
          caller_name: `Kathi Brandt${made % 90}`,
          caller_email: `k${made}@biene.example`,
        },
        ...more,
      }),
    });
  };
  const line = (id: string, from: string[], field: string, more: object = {}): Json => ({
    ...{ id, from, field, treatments: [], ifBoth: 'write', blankErases: false, origin: 'set' },
    ...more,
  });
  const step = (id: string, entity: string, lines: Json[], more: object = {}): Json => ({
    ...{ id, system: crm, entity, recognise: [], whenNone: 'create', whenOne: 'update', whenSeveral: 'ask', lines },
    ...more,
  });
  /** Enquiry → organisation, person, contract; the enquiry says afterwards what became of it. */
  const document = (source: object = {}, more: object = {}): Json => ({
    ...{ format: 1, name: 'Enquiry becomes a customer', settings: { perMinute: 60 } },
    source: { kind: 'record', system: crm, entity: 'Enquiries', ...source },
    fields: fieldsOfRecord(crm, entityOf(schema, 'Enquiries')!),
    plan: {
      steps: [
        step('firm', 'Organisations', [line('l1', ['caller_company'], 'name'), line('l2', ['crops'], 'crops')], {
          recognise: [{ fields: ['name'] }],
        }),
        step(
          'person',
          'People',
          [
            line('l3', ['caller_name'], 'last_name', { treatments: [{ kind: 'name part', take: 'family' }] }),
            line('l4', ['caller_email'], 'email'),
            line('l5', [], 'organisation_id', { fromStep: { step: 'firm' } }),
          ],
          { recognise: [{ fields: ['email'] }] },
        ),
        step('contract', 'Contracts', [
          line('l6', ['id'], 'number'),
          line('l7', ['hives_wanted'], 'hives'),
          line('l8', ['crops'], 'crops'),
          line('l9', [], 'organisation_id', { fromStep: { step: 'firm' } }),
        ]),
        step(
          'mark',
          'Enquiries',
          [
            line('l10', [], 'status', { constant: 'won' }),
            line('l11', [], 'organisation_id', { fromStep: { step: 'firm' } }),
            line('l12', [], 'person_id', { fromStep: { step: 'person' } }),
          ],
          { record: { by: 'field', field: 'id' }, whenNone: 'stop' },
        ),
      ],
      ...more,
    },
  });
  const published = async (key: string, wanted: Json): Promise<string> => {
    const { body } = await stage.api('POST', '/intakes', { key, document: wanted });
    if (!body.intake) throw new Error(JSON.stringify(body));
    const done = await stage.api('POST', `/intakes/${body.intake.id}/publish`, { revision: 1, accept: true });
    if (done.body.version !== 1) throw new Error(JSON.stringify(done.body));
    return body.intake.id as string;
  };
  const convert = async (key: string, records: string[]): Promise<Json[]> =>
    (await stage.api('POST', `/conversions/${key}`, { records })).body.converted;
  return { enquiry, line, step, document, published, convert };
}
