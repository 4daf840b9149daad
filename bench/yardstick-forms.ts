import { readFileSync } from 'node:fs';
import express from 'express';

/** The yardstick of showing a form: a bare Express handler that sends the same bytes. */
const bytes = readFileSync(process.env['BYTES']!);
const app = express();
app.get('/f', (_request, response) => response.type('text/html').send(bytes));
app.listen(Number(process.env['PORT']), '127.0.0.1', () => console.log('ready'));
