export * from './sample.ts';
export * from './answer.ts';
export * from './apply.ts';
export { pairingListener, type Listening } from './listener.ts';
export { laneOfRecord } from './write.ts';
export * from './view.ts';
export * from './work.ts';
