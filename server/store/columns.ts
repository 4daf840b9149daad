import { customType, datetime } from 'drizzle-orm/mysql-core';

/** MariaDB's own UUID type; version 7 sorts in order of time (RFC 9562). */
export const uuid = customType<{ data: string }>({ dataType: () => 'uuid' });
export const moment = (name: string) => datetime(name, { fsp: 3, mode: 'date' });
export const mediumblob = customType<{ data: Buffer }>({ dataType: () => 'mediumblob' });
export const hash = customType<{ data: Buffer }>({ dataType: () => 'binary(16)' });
/**
 * Keys and ids that others give us, compared byte by byte: `rene` and `rené`, `AbC` and `aBc`, a key with and without a
 * space behind it are different ones.
 */
export const exactly = customType<{ data: string; config: { length: number }; configRequired: true }>({
  dataType: ({ length }) => `varchar(${length}) COLLATE utf8mb4_nopad_bin`,
});
