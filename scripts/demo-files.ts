import { mkdirSync, writeFileSync } from 'node:fs';
import { apiaryCards, CARDS, peopleOf } from './demo-cards.ts';

/** Writes the demo's files (`npx tsx scripts/demo-files.ts`); asks the running demo's CRM for its people. */
const FILE = 'demo/files/apiaries.xlsx';
mkdirSync('demo/files', { recursive: true });
const people = await peopleOf(`http://localhost:${process.env['STANDINS_PORT'] ?? 4610}/crm/odata/`);
writeFileSync(FILE, await apiaryCards(people));
console.log(`${FILE}: ${CARDS} cards`);
