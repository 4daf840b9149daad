// Reads a PDF from standard input with a general reader, and says what it found as JSON. A program of its own: the reader
// is imported in a way that tests can't.
import { extractText, getDocumentProxy } from 'unpdf';

const chunks = [];
for await (const chunk of process.stdin) chunks.push(chunk);
const pdf = await getDocumentProxy(new Uint8Array(Buffer.concat(chunks)));
const { text, totalPages } = await extractText(pdf, { mergePages: true });
const { info } = await pdf.getMetadata();
const tree = await (await pdf.getPage(1)).getStructTree();
const roles = tree?.children[0]?.children.map(({ role }) => role) ?? [];
process.stdout.write(JSON.stringify({ text, pages: totalPages, title: info.Title, language: info.Language, roles }));
