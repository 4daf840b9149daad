import { randomBytes } from 'node:crypto';
import { mkdtempSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { hashPassword, mayAct, passwordFits, Sealer, sealerFrom } from './index.ts';

describe('sealing', () => {
  const sealer = new Sealer(randomBytes(32));
  it('opens what it sealed, for the same thing only', () => {
    fc.assert(
      fc.property(
        fc.string(),
        fc.string(),
        (secret, about) => sealer.open(sealer.seal(secret, about), about) === secret,
      ),
    );
    expect(() => sealer.open(sealer.seal('s', 'one system'), 'another')).toThrow();
  });
  it('never seals alike twice, and notices every tampering', () => {
    const sealed = sealer.seal('secret', 'x');
    expect(sealer.seal('secret', 'x')).not.toBe(sealed);
    const [version, nonce, text, tag] = sealed.split('.');
    expect(() =>
      sealer.open([version, nonce, `${text!.slice(0, -1)}${text!.endsWith('A') ? 'B' : 'A'}`, tag].join('.'), 'x'),
    ).toThrow();
    expect(() => sealer.open([version, nonce, text, tag!.slice(0, 6)].join('.'), 'x')).toThrow();
    expect(() => new Sealer(randomBytes(32)).open(sealed, 'x')).toThrow();
    expect(() => sealer.open('plain', 'x')).toThrow(/not a sealed secret/);
  });
  it('keeps its key in a file that only its owner reads, and finds it again', () => {
    const file = join(mkdtempSync(join(tmpdir(), 'key-')), 'run', 'key');
    const sealed = sealerFrom(file).seal('secret', 'x');
    expect(statSync(file).mode & 0o777).toBe(0o600);
    expect(sealerFrom(file).open(sealed, 'x')).toBe('secret');
    expect(() => new Sealer(Buffer.alloc(16))).toThrow(/32 bytes/);
  });
});

describe('passwords', () => {
  it('are kept as argon2id hashes that only they fit', async () => {
    const stored = await hashPassword('clover-hollow');
    expect(stored).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
    expect(await passwordFits(stored, 'clover-hollow')).toBe(true);
    expect(await passwordFits(stored, 'clover')).toBe(false);
    expect(await passwordFits(undefined, 'nobody has this password')).toBe(false);
  });
});

it('each role may do what the ones below it may', () => {
  expect([
    mayAct('viewer', 'viewer'),
    mayAct('viewer', 'specialist'),
    mayAct('specialist', 'viewer'),
    mayAct('administrator', 'specialist'),
  ]).toEqual([true, false, true, true]);
});
