import type { Compared, Evidence } from './evidence.ts';

/** What was learned of this workspace: by how many bits a level weighs more or less than by our defaults. */
export type Tuning = ReadonlyMap<string, number>;

export const levelKey = (about: string, level: string): string => `${about}: ${level}`;

/** The weight of a comparison with what was learned, in bits. */
export function tunedWeight({ weight, evidence }: Compared, tuning: Tuning): number {
  if (tuning.size === 0) return weight;
  return evidence.reduce((sum, { about, level, bits }) => sum + bits + (tuning.get(levelKey(about, level)) ?? 0), 0);
}

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
