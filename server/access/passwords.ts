import { hash, verify } from '@node-rs/argon2';

/** OWASP's second recommendation for argon2id, the package's own choice of variant: 19 MiB, two passes, one lane. */
const SETTINGS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const hashPassword = (password: string): Promise<string> => hash(password, SETTINGS);

/** A hash of nothing, verified when an address is unknown, so that the answer takes as long. */
const NOBODY = hashPassword('nobody has this password');

/** @returns whether the password fits; false for an unknown person, after the same work */
export async function passwordFits(stored: string | undefined, password: string): Promise<boolean> {
  const fits = await verify(stored ?? (await NOBODY), password);
  return stored !== undefined && fits;
}
