import { IsUrl } from 'class-validator';

/** A rule for fields of documents and requests: an address of the web, of a host of any name. */
export const IsWebAddress = (): PropertyDecorator =>
  IsUrl(
    { require_tld: false, protocols: ['http', 'https'], require_protocol: true },
    { message: 'must be a web address that starts with http:// or https://' },
  );
