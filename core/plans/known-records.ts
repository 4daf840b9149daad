import type { RecordState } from '../schema/index.ts';

/**
 * What earlier steps of a run found or made, by step and row; a run may begin with some (`PlanRun.given`).
 *
 * Invariant: a step is done either once or once per row, so it stands here under no row or under rows only.
 */
export class KnownRecords {
  private readonly steps = new Map<string, Map<number | undefined, RecordState>>();

  constructor(given: ReadonlyMap<string, RecordState> = new Map()) {
    for (const [name, record] of given) this.set(name, undefined, record);
  }

  set(step: string, row: number | undefined, record: RecordState): void {
    const rows = this.steps.get(step) ?? new Map<number | undefined, RecordState>();
    rows.set(row, record);
    this.steps.set(step, rows);
  }

  of(step: string, row?: number): RecordState | undefined {
    return this.steps.get(step)?.get(row);
  }

  /**
   * A step's record as seen from a row: the same row's where that step repeats too, else the step's own.
   * @param of `first`: that of its first row that has one
   */
  seenFrom(row: number | undefined, step: string, of?: 'first'): RecordState | undefined {
    if (of === 'first') return this.firstRowOf(step);
    return (row === undefined ? undefined : this.of(step, row)) ?? this.of(step);
  }

  private firstRowOf(step: string): RecordState | undefined {
    const rows = [...(this.steps.get(step)?.keys() ?? [])].filter((row) => row !== undefined);
    return rows.length === 0 ? undefined : this.of(step, Math.min(...rows));
  }
}
