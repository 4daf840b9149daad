import { execFileSync } from 'node:child_process';

/** What a general reader finds in a PDF; `roles` are the tags of its first page, in order. */
export interface ReadPdf {
  text: string;
  pages: number;
  title: string;
  language: string;
  roles: string[];
}

/** @throws where it is no PDF */
export const readPdf = (bytes: Uint8Array): ReadPdf =>
  JSON.parse(
    execFileSync('node', ['server/testing/read-pdf.mjs'], {
      ...{ input: bytes, encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 },
      stdio: ['pipe', 'pipe', 'ignore'],
    }),
  ) as ReadPdf;
