import type { TargetEntity } from '@zusammen/core/mapping';
import { truthOf, type Truth } from './labelled.ts';

/** A field of a record, and what it holds; undefined: something only this world knows, such as hives wanted. */
export type KnownField = TargetEntity['fields'][number] & { holds: Truth | undefined };
export interface KnownEntity extends TargetEntity {
  fields: KnownField[];
}

const field = (name: string, label: string, code: string, type = 'text', options?: string[]): KnownField => ({
  name,
  label,
  type,
  ...(options ? { options } : {}),
  holds: code === '*' ? undefined : truthOf(code),
});
const entity = (name: string, label: string, ...fields: KnownField[]): KnownEntity => ({ name, label, fields });

/** Systems as they are met, each as the entities that a form may go to. */
export const WORLDS = {
  coop: [
    entity(
      'Organisations',
      'Organisation',
      field('name', 'Name', 'on'),
      field('website', 'Website', 'o.we', 'web address'),
      field('customer_number', 'Customer number', 'o.ref'),
      field('tax_number', 'Tax number', 'o.tx'),
    ),
    entity(
      'People',
      'Person',
      field('first_name', 'First name', 'gn'),
      field('last_name', 'Family name', 'fn'),
      field('email', 'E-mail', 'em', 'email'),
      field('phone', 'Phone', 'ph', 'phone'),
      field('mobile', 'Mobile', 'mo', 'phone'),
      field('birth_date', 'Birth date', 'bd', 'date'),
      field('member_number', 'Member number', 'v.ref'),
    ),
    entity(
      'Enquiries',
      'Enquiry',
      field('subject', 'Subject', 'sub'),
      field('message', 'Message', 'msg', 'long text'),
      field('hives_wanted', 'Hives wanted', '*', 'integer'),
      field('blossom_start', 'Blossom starts', '*', 'date'),
    ),
  ],
  plain: [
    entity(
      'contact',
      'Contact',
      field('given', 'Given name', 'gn'),
      field('family', 'Family name', 'fn'),
      field('mail', 'E-mail', 'em', 'email'),
      field('tel', 'Telephone', 'ph', 'phone'),
      field('cell', 'Mobile phone', 'mo', 'phone'),
      field('street', 'Street', 'st'),
      field('zip', 'Postcode', 'pc'),
      field('town', 'City', 'ci'),
      field('country', 'Country', 'co'),
      field('born', 'Date of birth', 'bd', 'date'),
      field('notes', 'Notes', 'msg', 'long text'),
      field('letters', 'Letters allowed', 'new', 'yes/no'),
    ),
  ],
  shop: [
    entity(
      'orders',
      'Order',
      field('order_no', 'Order number', 'ref'),
      field('total', 'Total', 'amt', 'number'),
      field('currency', 'Currency', 'cur', 'option', ['EUR', 'PLN', 'GBP']),
      field('ship_name', 'Delivery name', 's.nm'),
      field('ship_street', 'Delivery street', 's.st'),
      field('ship_zip', 'Delivery postcode', 's.pc'),
      field('ship_city', 'Delivery city', 's.ci'),
      field('bill_name', 'Billing name', 'b.nm'),
      field('bill_street', 'Billing street', 'b.st'),
      field('bill_zip', 'Billing postcode', 'b.pc'),
      field('bill_city', 'Billing city', 'b.ci'),
      field('buyer_mail', 'Buyer e-mail', 'em', 'email'),
      field('placed', 'Placed at', 'dt', 'date and time'),
      field('note', 'Note', 'msg', 'long text'),
    ),
  ],
  work: [
    entity(
      'accounts',
      'Company',
      field('company_name', 'Company name', 'on'),
      field('employees', 'Number of employees', 'emp', 'integer'),
      field('industry', 'Industry', '*', 'option', ['farming', 'retail', 'food']),
      field('work_phone', 'Main phone', 'o.ph', 'phone'),
      field('web', 'Website', 'o.we', 'web address'),
      field('street', 'Street', 'o.st'),
      field('postal', 'Postal code', 'o.pc'),
      field('place', 'Place', 'o.ci'),
    ),
    entity(
      'contacts',
      'Contact person',
      field('salutation', 'Salutation', 'ti', 'option', ['Ms', 'Mr']),
      field('firstname', 'First name', 'gn'),
      field('surname', 'Surname', 'fn'),
      field('job', 'Job title', 'job'),
      field('direct_mail', 'E-mail', 'em', 'email'),
      field('direct_phone', 'Direct phone', 'ph', 'phone'),
      field('mobile', 'Mobile', 'mo', 'phone'),
      field('language', 'Language', 'la', 'option', ['en', 'de', 'pl']),
    ),
  ],
  club: [
    entity(
      'members',
      'Member',
      field('full_name', 'Name', 'nm'),
      field('email', 'E-mail', 'em', 'email'),
      field('phone', 'Telephone', 'ph', 'phone'),
      field('street', 'Street', 'st'),
      field('zip', 'Postcode', 'pc'),
      field('city', 'Town', 'ci'),
      field('region', 'Region', 'rg'),
      field('country', 'Country', 'co'),
      field('birthday', 'Date of birth', 'bd', 'date'),
      field('gender', 'Gender', 'ge', 'option', ['f', 'm', 'd']),
      field('website', 'Website', 'we', 'web address'),
      field('bulletin', 'Receives the newsletter', 'new', 'yes/no'),
      field('joined', 'Member since', 'v.dt', 'date'),
    ),
    entity(
      'firms',
      'Firma',
      field('name', 'Name', 'on'),
      field('telefon', 'Telefon', 'o.ph', 'phone'),
      field('nip', 'NIP', 'o.tx'),
      field('miasto', 'Miasto', 'o.ci'),
    ),
  ],
  leads: [
    entity(
      'leads',
      'Lead',
      field('first', 'First name', 'gn'),
      field('last', 'Last name', 'fn'),
      field('email', 'Email', 'em', 'email'),
      field('phone', 'Phone', 'ph', 'phone'),
      field('company', 'Company', 'on'),
      field('title', 'Job title', 'job'),
      field('website', 'Website', 'we', 'web address'),
      field('description', 'Description', 'msg', 'long text'),
      field('source', 'Source', 'src'),
      field('street', 'Street', 'st'),
      field('city', 'City', 'ci'),
      field('zip', 'Zip', 'pc'),
      field('country', 'Country', 'co'),
    ),
  ],
} satisfies Record<string, KnownEntity[]>;
export type WorldName = keyof typeof WORLDS;
