import type { Response } from 'express';
import { asProblem } from './as-problem.ts';

/** Results one by one, each as a line of JSON as soon as it stands. */
export const LINES = 'application/x-ndjson';

/** Answers in lines; trouble that comes once some are out is the last line, as a problem (RFC 9457). */
export function inLines(response: Response) {
  const write = (line: unknown): void => {
    if (!response.headersSent) response.type(LINES).set('X-Accel-Buffering', 'no');
    response.write(`${JSON.stringify(line)}\n`);
  };
  return {
    write,
    /** Ends the answer with the work. @throws what the work throws, where nothing has been written yet */
    async with(work: Promise<unknown>): Promise<void> {
      try {
        await work;
        if (!response.headersSent) response.type(LINES);
      } catch (error) {
        if (!response.headersSent) throw error;
        const { status, title, detail } = asProblem(error);
        write({ problem: { status, title, detail } });
      }
      response.end();
    },
  };
}
