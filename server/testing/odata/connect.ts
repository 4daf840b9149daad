import { entityOf, type Entity } from '@zusammen/core/schema';
import {
  describeAnew,
  directly,
  ODataSystem,
  overHttp,
  withPatience,
  type Description,
  type Sending,
} from '../../systems/index.ts';

/** A service connected as an administrator connects it: read, tried, and spoken to as that has shown. */
export interface Connected extends Description {
  system: ODataSystem;
  entity(name: string): Entity;
}

export async function connect(address: string): Promise<Connected> {
  const via = directly();
  const description = await describeAnew(address, 'a-token', via);
  const send = withPatience(overHttp(10_000, via.dispatcher));
  return {
    ...description,
    system: new ODataSystem(address, 'a-token', description.capabilities, send),
    entity: (name) => entityOf(description.schema, name)!,
  };
}

let sent = 0;
/** A request as the engine sends it. */
export function sending(): Sending {
  sent += 1;
  return { requestId: `01890000-0000-7000-8000-${String(sent).padStart(12, '0')}`, firstSent: new Date() };
}
