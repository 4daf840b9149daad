import { schemaFrom, type AdapterDocument } from '@zusammen/core/adapters';
import { entityOf, type Entity, type Schema } from '@zusammen/core/schema';
import {
  capabilitiesOf,
  directly,
  JsonSystem,
  lookAt,
  overHttp,
  withPatience,
  type Send,
} from '../../systems/index.ts';

/** A JSON API connected by what its description says, and by what a specialist corrects of it. */
export interface ConnectedJson {
  adapter: AdapterDocument;
  schema: Schema;
  system: JsonSystem;
  send: Send;
  entity(name: string): Entity;
}

export async function connectJson(
  address: string,
  correct: (adapter: AdapterDocument) => void = () => undefined,
): Promise<ConnectedJson> {
  const via = directly();
  const { adapter } = await lookAt({ address }, via.dispatcher, via.readDescription);
  correct(adapter);
  const schema = schemaFrom(adapter);
  const send = withPatience(overHttp(10_000, via.dispatcher), adapter.refusal.waits);
  return {
    ...{ adapter, schema, send },
    system: new JsonSystem(adapter, capabilitiesOf(adapter), send),
    entity: (name) => entityOf(schema, name)!,
  };
}
