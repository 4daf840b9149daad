import type { Compared, Evidence } from './evidence.ts';

/** What was learned of this workspace: by how many bits a level weighs more or less than by our defaults. */
export type Tuning = ReadonlyMap<string, number>;

export const levelKey = (about: string, level: string): string => `${about}: ${level}`;

/** A comparison with what was learned. */
export function tuned(compared: Compared, tuning: Tuning | undefined): Compared {
  if (!tuning || tuning.size === 0) return compared;
  let weight = 0;
  const evidence = compared.evidence.map((each) => {
    const bits = each.bits + (tuning.get(levelKey(each.about, each.level)) ?? 0);
    weight += bits;
    return { ...each, bits };
  });
  return { ...compared, evidence, weight };
}

/** Evidence as it was before anything was learned. */
export const untuned = (evidence: readonly Evidence[], tuning: Tuning): Evidence[] =>
  evidence.map((each) => ({ ...each, bits: each.bits - (tuning.get(levelKey(each.about, each.level)) ?? 0) }));
