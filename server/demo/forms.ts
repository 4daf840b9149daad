import {
  addItem,
  askByLink,
  askFor,
  askNewest,
  askWhich,
  emptyForm,
  leadingTo,
  startFrom,
  STARTING_POINTS,
} from '@zusammen/core/asking';
import { changeItem, FEE_FIELDS, standingsOf, type Fee, type HostedForm, type Item } from '@zusammen/core/forms/hosted';
import { changeForm, changePlan, INTAKE_FORMAT, withForm, type IntakeDocument } from '@zusammen/core/intake';
import { prepareLine, type Line } from '@zusammen/core/mapping';
import { addStep, blankStep, constantLine, linkLine, type Step } from '@zusammen/core/plans';
import { entityOf, type Field, type Schema, type Values } from '@zusammen/core/schema';
import type { Making } from './intakes.ts';
import type { PastSubmission } from './past.ts';

/** The demo's forms of ours, made as a specialist makes them: by asking for what the CRM keeps. */

const WHERE = { country: 'DE', locale: 'de-DE', zone: 'Europe/Berlin', perMinute: 6000 };
export const CONTRACT_CHANGE = 'contract-change';
export const MEMBERSHIP_RENEWAL = 'membership-renewal';
const LINKED_PERSON = 'person_of_the_link';

/** Ids in the order of making, so that the demo is the same every time. */
function counting(prefix: string): () => string {
  let made = 0;
  return () => `${prefix}${(made += 1)}`;
}

/** Words of a form's items, by the name their answers are sent under; in both languages. */
function worded(form: HostedForm, words: Record<string, [en: string, de: string, more?: Partial<Item>]>): HostedForm {
  return standingsOf(form).reduce((held, { item, name }) => {
    const found = words[name];
    if (!found) return held;
    const [en, de, more] = found;
    return changeItem(held, item.id, (each) => ({ ...each, label: { en, de }, ...more }));
  }, form);
}

/** The organisation is looked up; its newest contract is what is changed. */
function contractChange({ system, schema }: Making): IntakeDocument {
  const newId = counting('c');
  const asking = { schemas: new Map([[system, schema]]), newId };
  const steps = [blankStep('organisation', system, 'Organisations'), blankStep('contract', system, 'Contracts')];
  const contract = entityOf(schema, 'Contracts')!.fields.find(({ name }) => name === 'organisation_id')!;
  steps[1]!.lines = [linkLine('line-organisation', contract, 'organisation')];
  let document: IntakeDocument = withForm(
    {
      ...{ format: INTAKE_FORMAT, name: 'Contract change', source: { kind: 'ours' }, fields: [] },
      ...{ plan: { steps }, settings: WHERE },
    },
    { ...emptyForm('Change your contract', newId), languages: ['en', 'de'] },
  );
  document = askWhich(document, 'organisation', asking);
  document = askFor(document, 'organisation', 'phone', asking);
  const chooser = standingsOf(document.form!).find(({ item }) => item.reads)!.item.id;
  const of = leadingTo(schema, 'Organisations').find(({ entity }) => entity === 'Contracts')!;
  document = askNewest(document, 'contract', chooser, of, asking);
  for (const name of ['starts_on', 'ends_on', 'hives', 'bees']) document = askFor(document, 'contract', name, asking);
  document = addItem(document, {
    ...{ id: newId(), kind: 'signature', name: 'signed', required: true },
    label: { en: 'Signature', de: 'Unterschrift' },
  });
  document = addItem(document, {
    ...{ id: newId(), kind: 'consent', name: 'agreed', required: true },
    label: { en: 'I may change this contract.', de: 'Ich darf diesen Vertrag ändern.' },
  });
  return changeForm(document, (form) => ({
    ...worded(form, {
      organisation: ['Which organisation is it for?', 'Für welchen Betrieb?'],
      phone: ['Phone', 'Telefon', { help: { en: 'We call if anything is unclear.', de: 'Für Rückfragen.' } }],
      starts_on: ['From', 'Von', { earliest: { from: 'today' } }],
      ends_on: ['To', 'Bis', { earliest: { from: 'answer', answer: 'starts_on' } }],
      hives: ['Hives', 'Völker', { least: 1, most: 400 }],
      bees: ['Kind of bees', 'Bienen'],
    }),
    title: { en: 'Change your contract', de: 'Vertrag ändern' },
    intro: {
      en: 'For orchards that have hired hives: choose yours, and change what is to be different.',
      de: 'Für Obstbetriebe mit gemieteten Völkern: Betrieb wählen und ändern, was anders werden soll.',
    },
    thanks: {
      en: 'Thank you. Your contract is changed as you said; we write to you if anything stands in the way.',
      de: 'Danke. Der Vertrag wird so geändert; wir melden uns, falls etwas dagegen spricht.',
    },
    look: { first: '#2f6146' },
  }));
}

/** A member's own data, brought up to date once a year: opened by the link in a letter to them. */
function membershipRenewal({ system, schema, till }: Making): IntakeDocument {
  const point = STARTING_POINTS.find(({ key }) => key === MEMBERSHIP_RENEWAL)!;
  const { document: started } = startFrom(point, {
    ...{ schemas: new Map([[system, schema]]), learned: [], newId: counting('m') },
    where: { country: WHERE.country, locale: WHERE.locale },
  });
  const document = askByLink(started, started.plan.steps[0]!.id, {
    ...{ schemas: new Map([[system, schema]]), newId: counting('l') },
  });
  const kinds: [string, string, string][] = [
    ['keeper', 'Beekeeper', 'Imkerin oder Imker'],
    ['young', 'Young beekeeper', 'Jungimkerin oder Jungimker'],
    ['friend', 'Friend', 'Fördermitglied'],
  ];
  const options = kinds.map(([value, en, de]) => ({ value, label: { en, de } }));
  const form = document.form!;
  const named = (name: string): Item => standingsOf(form).find((each) => each.name === name)!.item;
  const kind = (item: Item): Item => ({ ...item, kind: 'one of', required: true, options });
  const years = (item: Item): Item => ({ ...item, decimals: 0, least: 1, most: 5, required: true });
  const changed = changeItem(changeItem(form, named('kind_of_member').id, kind), named('years').id, years);
  const renewed = {
    ...withForm(document, {
      ...worded(
        {
          ...changed,
          languages: ['en', 'de'],
          ...(till === undefined ? {} : { fee: membershipFee(till) }),
        },
        {
          first_name: ['First name', 'Vorname'],
          family_name: ['Family name', 'Nachname'],
          e_mail: ['E-mail', 'E-Mail'],
          phone: ['Phone', 'Telefon'],
          street: ['Street and number', 'Straße und Hausnummer'],
          postcode: ['Postcode', 'Postleitzahl'],
          city: ['Town', 'Ort'],
          country: ['Country', 'Land'],
          birth_date: ['Birth date', 'Geburtsdatum'],
          interests: ['What interests you?', 'Was interessiert Sie?'],
          kind_of_member: ['Kind of member', 'Mitgliedschaft'],
          years: ['For how many years?', 'Für wie viele Jahre?'],
          letters_allowed: ['May we send you letters?', 'Dürfen wir Ihnen Briefe senden?'],
        },
      ),
      title: { en: 'Renew your membership', de: 'Mitgliedschaft verlängern' },
    }),
    settings: WHERE,
  };
  return till === undefined ? renewed : withOrder(renewed, system, schema);
}

/** What a year costs, by the kind of member; in cents. */
const A_YEAR: [kind: string, minor: number][] = [
  ['keeper', 4000],
  ['young', 1200],
  ['friend', 2500],
];

const membershipFee = (service: string): Fee => ({
  ...{ service, currency: 'EUR' },
  charges: [
    {
      ...{ id: 'fee', label: { en: 'Membership', de: 'Mitgliedschaft' }, by: 'option' },
      ...{ question: 'kind_of_member', times: 'years' },
      prices: A_YEAR.map(([value, minor]) => ({ value, minor })),
    },
  ],
});

/** What was paid becomes an order of the person's. */
function withOrder(document: IntakeDocument, system: string, schema: Schema): IntakeDocument {
  const entity = entityOf(schema, 'Orders')!;
  const field = (name: string): Field => entity.fields.find((each) => each.name === name)!;
  const line = (name: string, from: string): Line =>
    prepareLine(`order-${name}`, [document.fields.find((each) => each.name === from)!], field(name), WHERE);
  const order: Step = {
    ...blankStep('order', system, 'Orders'),
    recognise: [{ fields: ['number'] }],
    lines: [
      line('number', FEE_FIELDS.payment),
      { ...constantLine('order-status', 'status'), constant: 'paid' },
      line('placed_at', FEE_FIELDS.paidAt),
      line('total', FEE_FIELDS.amount),
      line('currency', FEE_FIELDS.currency),
      line('buyer_email', 'e_mail'),
      linkLine('order-person', field('person_id'), document.plan.steps[0]!.id),
    ],
  };
  return changePlan(document, (plan) => addStep(plan, order));
}

/** The demo's forms of ours by their intakes' keys. */
export const formsOfOurs = (making: Making): [key: string, document: IntakeDocument][] => [
  [CONTRACT_CHANGE, contractChange(making)],
  [MEMBERSHIP_RENEWAL, membershipRenewal(making)],
];

/** What has been sent by them, out of what the CRM keeps; every third changes something. */
export function sentByOurs(
  records: {
    contracts: readonly { id: string; values: Values }[];
    people: readonly { id: string; values: Values }[];
    names: ReadonlyMap<string, string>;
  },
  now: Date,
): PastSubmission[] {
  const text = (value: unknown): string => (value === null || value === undefined ? '' : String(value));
  const ago = (hours: number): Date => new Date(now.getTime() - hours * 3_600_000);
  const filled = (pairs: [string, string][]): [string, string][] => pairs.filter(([, said]) => said !== '');
  const changes = records.contracts.map(({ id, values }, at) => ({
    intake: CONTRACT_CHANGE,
    at: ago(5 + at * 31),
    via: 'form' as const,
    values: filled([
      ['organisation', text(values['organisation_id'])],
      ['organisation_shown', text(records.names.get(text(values['organisation_id'])))],
      ['contract_meant', id],
      ['starts_on', text(values['starts_on'])],
      ['ends_on', text(values['ends_on'])],
      ['hives', String(Number(values['hives']) + (at % 3 === 0 ? 6 : 0))],
      ['bees', text(values['bees'])],
      ['signed', text(records.names.get(text(values['organisation_id']))).split(',')[0]!],
      ['agreed', 'yes'],
      ['agreed_wording', 'I may change this contract.'],
    ]),
  }));
  const renewals = records.people.map(({ id, values }, at) => ({
    intake: MEMBERSHIP_RENEWAL,
    at: ago(3 + at * 17),
    via: 'form' as const,
    // The last two haven't paid yet, and one has been paid back.
    payment: at < 2 ? ('due' as const) : at === 4 ? ('refunded' as const) : ('paid' as const),
    values: filled([
      ['first_name', text(values['first_name'])],
      ['family_name', text(values['last_name'])],
      ['e_mail', text(values['email'])],
      ['phone', at % 3 === 0 ? `+49 30 5550${100 + at}` : text(values['phone'])],
      ['street', text(values['street'])],
      ['postcode', text(values['postcode'])],
      ['city', text(values['city'])],
      ['kind_of_member', ['keeper', 'young', 'friend'][at % 3]!],
      ['years', String(1 + (at % 3))],
      [LINKED_PERSON, id],
      ['letters_allowed', at % 4 === 0 ? 'no' : 'yes'],
    ]),
  }));
  return [...changes, ...renewals].sort((a, b) => a.at.getTime() - b.at.getTime());
}
