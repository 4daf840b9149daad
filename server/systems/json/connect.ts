import { schemaFrom, troubleWithAdapter, type AdapterDocument } from '@zusammen/core/adapters';
import type { Complaint } from '@zusammen/core/documents';
import type { Dispatcher } from 'undici';
import type { Capabilities } from '../../store/index.ts';
import { NotUnderstood, TokenRefused, type Description } from '../system.ts';
import { JsonSystem } from './client.ts';
import { lookingSend } from './look.ts';
import type { SignInSecrets } from './tokens.ts';

/** What an adapter's system can do, as far as that isn't different for each entity. */
export const capabilitiesOf = ({ entities }: AdapterDocument): Capabilities => ({
  repeatability: entities.every(({ create, repeat }) => !create || repeat.by === 'key' || repeat.by === 'marker'),
  batch: false,
  delta: false,
  etags: entities.every(({ update, version }) => !update || version !== undefined),
});

/** What is wrong with an adapter beyond its shape. @throws AdapterTrouble */
export class AdapterTrouble extends Error {
  constructor(readonly complaints: Complaint[]) {
    super(complaints.map(({ field, reason }) => `${field} ${reason}`).join('; '));
  }
}

/**
 * What a system keeps by its adapter, after a first look whether it answers as the adapter says.
 * @throws SystemTrouble when it doesn't, AdapterTrouble when the adapter makes no sense
 */
export async function describeByAdapter(
  adapter: AdapterDocument,
  secrets: SignInSecrets,
  dispatcher: Dispatcher,
): Promise<Description & { latencyMs: number }> {
  const complaints = troubleWithAdapter(adapter);
  if (complaints.length > 0) throw new AdapterTrouble(complaints);
  const schema = schemaFrom(adapter);
  const capabilities = capabilitiesOf(adapter);
  const started = performance.now();
  await answersOnce(adapter, secrets, dispatcher);
  return { schema, capabilities, latencyMs: Math.round(performance.now() - started) };
}

async function answersOnce(adapter: AdapterDocument, secrets: SignInSecrets, dispatcher: Dispatcher): Promise<void> {
  // Somebody has to sign in there first, and can only when it is connected.
  if (adapter.signIn.kind === 'authorization code') return;
  const system = new JsonSystem(adapter, capabilitiesOf(adapter), lookingSend(adapter.signIn, secrets, dispatcher));
  const entities = schemaFrom(adapter).entities;
  let trouble: unknown;
  for (const entity of entities.filter((_, at) => adapter.entities[at]!.list).slice(0, 3)) {
    try {
      await system.page(entity, []);
      return;
    } catch (error) {
      // One list may be wrong, or not to be seen; a sign-in that is refused is so for all.
      if (!(error instanceof NotUnderstood) || error instanceof TokenRefused) throw error;
      trouble ??= error;
    }
  }
  if (trouble !== undefined) throw trouble as Error;
}
