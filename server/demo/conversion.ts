import { fieldsOfRecord, INTAKE_FORMAT, type IntakeDocument } from '@zusammen/core/intake';
import { constantLine } from '@zusammen/core/plans';
import { entityOf } from '@zusammen/core/schema';
import { Maker, type Making } from './intakes.ts';

/** The demo's conversion: an enquiry that somebody took down on the telephone becomes what a customer consists of. */

export const ENQUIRY_TO_CONTRACT = 'enquiry-to-contract';
const WHERE = { country: 'DE', locale: 'de-DE', zone: 'Europe/Berlin', perMinute: 60 };

/** Organisation, person and contract; the enquiry says afterwards what became of it. Its crops go to two of them. */
export function enquiryToContract(making: Making, pages: string): IntakeDocument {
  const { system, schema } = making;
  const enquiries = entityOf(schema, 'Enquiries')!;
  const fields = fieldsOfRecord(system, enquiries);
  const maker = new Maker(making, fields);
  const to = (entity: string, pairs: readonly (readonly [from: string, field: string])[]) =>
    pairs.map(([from, field]) => maker.line(entity, [from], field));
  const steps = [
    maker.step(
      'firm',
      'Organisations',
      [['name']],
      to('Organisations', [
        ['caller_company', 'name'],
        ['crops', 'crops'],
      ]),
    ),
    maker.step(
      'person',
      'People',
      [['email']],
      [
        maker.line('People', ['caller_name'], 'first_name', { treatments: [{ kind: 'name part', take: 'given' }] }),
        maker.line('People', ['caller_name'], 'last_name', { treatments: [{ kind: 'name part', take: 'family' }] }),
        ...to('People', [
          ['caller_email', 'email'],
          ['caller_phone', 'phone'],
        ]),
        maker.link('People', 'organisation_id', 'firm'),
      ],
    ),
    maker.step(
      'contract',
      'Contracts',
      [],
      [
        ...to('Contracts', [
          ['id', 'number'],
          ['hives_wanted', 'hives'],
        ]),
        // One of them is called otherwise there.
        maker.line('Contracts', ['crops'], 'crops', {
          treatments: [{ kind: 'options', pairs: [{ from: 'currant', to: 'blackcurrant' }] }],
        }),
        maker.link('Contracts', 'organisation_id', 'firm'),
      ],
    ),
    maker.step(
      'enquiry',
      'Enquiries',
      [],
      [
        { ...constantLine('line-status', 'status'), constant: 'won', ifBoth: 'write' },
        maker.link('Enquiries', 'organisation_id', 'firm'),
        maker.link('Enquiries', 'person_id', 'person'),
      ],
      { record: { by: 'field', field: enquiries.key }, whenNone: 'stop' },
    ),
  ];
  return {
    ...{ format: INTAKE_FORMAT, name: 'From enquiry to contract', fields, plan: { steps } },
    source: { kind: 'record', system, entity: 'Enquiries', panel: { whenGone: 'ask' } },
    settings: { ...WHERE, allowedOrigins: [new URL(pages).origin] },
  };
}
