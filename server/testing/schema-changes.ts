import type { Json, Stage } from './stage.ts';
import { until } from './until.ts';

/** Waits until a change of schemas is under way no longer. @returns it, as the API tells it */
export async function changeAtRest(stage: Stage, id: string): Promise<Json> {
  let change: Json;
  await until('the change has come to rest', async () => {
    change = (await stage.api('GET', `/schema-changes/${id}`)).body.change;
    return change.state !== 'running';
  });
  return change;
}
