import { defineConfig } from 'drizzle-kit';

export default defineConfig({ dialect: 'mysql', schema: './server/store/schema.ts', out: './server/store/migrations' });
