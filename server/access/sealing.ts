import { createCipheriv, createDecipheriv, createHmac, hkdfSync, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/** Seals secrets at rest with AES-256-GCM (NIST SP 800-38D). The key lives outside the database. */
export class Sealer {
  constructor(private readonly key: Buffer) {
    if (key.length !== 32) throw new Error('The sealing key must have 32 bytes.');
  }

  /** @param about bound to the secret: what is sealed for one system doesn't open for another */
  seal(secret: string, about: string): string {
    const nonce = randomBytes(12);
    const cipher = createCipheriv('aes-256-gcm', this.key, nonce).setAAD(Buffer.from(about));
    const sealed = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
    return ['v1', nonce, sealed, cipher.getAuthTag()]
      .map((part) => (typeof part === 'string' ? part : part.toString('base64url')))
      .join('.');
  }

  /**
   * A mark of a text that only we can make, the same each time (HMAC, RFC 2104, with a key derived by RFC 5869).
   * @returns 43 characters of base64url
   */
  mark(text: string | Buffer, about: string): string {
    const key = Buffer.from(hkdfSync('sha256', this.key, '', `mark ${about}`, 32));
    return createHmac('sha256', key).update(text).digest('base64url');
  }

  /** @throws when the text was tampered with or sealed with another key */
  open(sealed: string, about: string): string {
    const [version, nonce, text, tag] = sealed.split('.');
    if (version !== 'v1' || !nonce || text === undefined || !tag) throw new Error('This is not a sealed secret.');
    const decipher = createDecipheriv('aes-256-gcm', this.key, Buffer.from(nonce, 'base64url'), {
      authTagLength: 16,
    }).setAAD(Buffer.from(about));
    decipher.setAuthTag(Buffer.from(tag, 'base64url'));
    return Buffer.concat([decipher.update(Buffer.from(text, 'base64url')), decipher.final()]).toString('utf8');
  }
}

/** Reads the key from `ZUSAMMEN_KEY` (base64) or from a file only its owner reads; makes the file the first time. */
export function sealerFrom(file: string, fromEnvironment?: string): Sealer {
  if (fromEnvironment) return new Sealer(Buffer.from(fromEnvironment, 'base64'));
  if (!existsSync(file)) {
    mkdirSync(dirname(file), { recursive: true });
    // `wx`: of two processes starting at once, one makes the key and the other reads it.
    try {
      writeFileSync(file, randomBytes(32).toString('base64'), { mode: 0o600, flag: 'wx' });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
  }
  return new Sealer(Buffer.from(readFileSync(file, 'utf8').trim(), 'base64'));
}
