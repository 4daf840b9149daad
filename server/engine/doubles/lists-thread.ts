import { parentPort, workerData } from 'node:worker_threads';
import { answerRows, matchLists, type KindName, type ListedRecord } from '@zusammen/core/recognition';

/** Matches one list against another, away from the thread that answers requests. */
const { known, asked, kind } = workerData as { known: ListedRecord[]; asked: ListedRecord[]; kind: KindName };
const started = performance.now();
const answers = matchLists(known, asked, kind);
parentPort!.postMessage({ rows: answerRows(asked, answers), ms: performance.now() - started });
