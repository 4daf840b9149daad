import express from 'express';
import mysql from 'mysql2/promise';

/** The yardstick of accepting: a bare Express handler that commits one row and answers. */
const pool = mysql.createPool({ uri: process.env['DATABASE_URL']!, connectionLimit: 24 });
await pool.query(
  'CREATE TABLE IF NOT EXISTS bench_rows (id BIGINT AUTO_INCREMENT PRIMARY KEY, body JSON NOT NULL, at DATETIME(3) NOT NULL)',
);
const app = express();
app.use(express.urlencoded({ extended: false }));
app.post('/in', async (request, response) => {
  await pool.query('INSERT INTO bench_rows (body, at) VALUES (?, ?)', [JSON.stringify(request.body), new Date()]);
  response.status(202).json({ ok: true });
});
app.listen(Number(process.env['PORT']), '127.0.0.1', () => console.log('ready'));
