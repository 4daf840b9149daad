import { rmSync } from 'node:fs';
import type { TestDatabase } from './setup.ts';

export default async function teardown(): Promise<void> {
  const { zusammenTest } = globalThis as { zusammenTest?: TestDatabase };
  if (!zusammenTest) return;
  await zusammenTest.database.stop();
  rmSync(zusammenTest.home, { recursive: true, force: true });
}
