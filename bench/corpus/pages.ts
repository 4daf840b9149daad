import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { CACHE, debOf, tarballOf } from './fetch.ts';
import type { RealForm } from './labelled.ts';
import { fluentWords, jsonWords, withFluentWords, withJsonWords } from './localised.ts';
import { FROM_DEBIAN, FROM_NPM } from './packages.ts';

/** The page that a form of the corpus stands on; undefined where its package isn't kept. */
export function pageOf({ package: name, file, language }: RealForm): string | undefined {
  if (name === 'thunderbird') return addressBook(language);
  const known = FROM_NPM.find((each) => each.name === name);
  if (!known || !existsSync(tarballOf(known))) return undefined;
  if (name === 'generator-jhipster') return account(tarballOf(known), file, language);
  return decoded(fileIn(tarballOf(known), file));
}

const kept = new Map<string, Buffer>();

function fileIn(tarball: string, name: string): Buffer {
  const key = `${tarball}\n${name}`;
  const known = kept.get(key);
  if (known) return known;
  const { stdout } = spawnSync('tar', ['-xzOf', tarball, '--', name], { maxBuffer: 64_000_000 });
  kept.set(key, stdout);
  return stdout;
}

/** A page's text in the encoding it says of itself. */
function decoded(body: Buffer): string {
  const said = /charset=["']?([\w-]+)/i.exec(body.subarray(0, 3000).toString('latin1'))?.[1] ?? 'utf-8';
  try {
    return new TextDecoder(said).decode(body);
  } catch {
    return body.toString('utf8');
  }
}

const PAGES: Record<string, string> = {
  settings: 'settings/settings',
  register: 'register/register',
  reset: 'password-reset/init/password-reset-init',
};
const TRANSLATED = ['settings.json', 'register.json', 'global.json.ejs', 'reset.json.ejs'];
/** Languages that are named otherwise there. */
const FOLDERS: Record<string, string> = { pt: 'pt-br' };

/** A page of a web application's account, as the generator of such applications ships it, in one language. */
function account(tarball: string, page: string, language: string): string {
  const templates = 'package/dist/generators/angular/templates/src/main/webapp/app/account';
  const words = new Map<string, string>();
  for (const file of TRANSLATED) {
    const folder = FOLDERS[language] ?? language;
    const text = fileIn(
      tarball,
      `package/dist/generators/client/generators/i18n/templates/src/main/webapp/i18n/${folder}/${file}`,
    ).toString('utf8');
    for (const [key, said] of jsonWords(text)) words.set(key, said);
  }
  return withJsonWords(fileIn(tarball, `${templates}/${PAGES[page]!}.html.ejs`).toString('utf8'), words);
}

const PARTS = 'n|fn|nickname|email|tel|type-url|bday-anniversary|adr|note|title|role|org';
const BOOK = 'chrome/messenger/content/messenger/addressbook/aboutAddressBook.xhtml';

/** The form of an address book's entry, put together out of its parts as its script does, in one language. */
function addressBook(language: string): string | undefined {
  const program = FROM_DEBIAN.find(({ name }) => name === 'thunderbird');
  const pack = FROM_DEBIAN.find(({ name }) => name.startsWith(`thunderbird-l10n-${language}`));
  if (!program || !pack || !existsSync(debOf(program)) || !existsSync(debOf(pack))) return undefined;
  const page = inArchive(opened(debOf(program)), 'usr/share/thunderbird/omni.ja', BOOK);
  const parts = [
    ...page.matchAll(new RegExp(`<template id="template-vcard-edit-(?:${PARTS})"[^>]*>([\\s\\S]*?)</template>`, 'g')),
  ];
  const folder = join(opened(debOf(pack)), 'usr/lib/thunderbird/extensions');
  const archive = readdirSync(folder).find((file) => file.endsWith('.xpi'))!;
  const files = execFileSync('unzip', ['-Z1', join(folder, archive)], { encoding: 'utf8' }).split('\n');
  const words = new Map<string, string>();
  for (const file of files.filter((each) => /addressbook\/.*\.ftl$/i.test(each)))
    for (const [key, said] of fluentWords(inArchive(folder, archive, file))) words.set(key, said);
  return `<form id="editContactForm">${withFluentWords(parts.map(([, part]) => part!).join('\n'), words)}</form>`;
}

function opened(deb: string): string {
  const folder = join(CACHE, 'opened', deb.split('/').at(-1)!);
  if (existsSync(folder)) return folder;
  mkdirSync(join(CACHE, 'opened'), { recursive: true });
  execFileSync('dpkg-deb', ['-x', deb, folder]);
  return folder;
}

const inArchive = (folder: string, archive: string, file: string): string =>
  spawnSync('unzip', ['-p', join(folder, archive), file], { encoding: 'utf8', maxBuffer: 64_000_000 }).stdout;
