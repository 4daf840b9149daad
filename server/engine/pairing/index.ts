export * from './sample.ts';
export * from './answer.ts';
export { remove as removePairingWhole } from './remove.ts';
export * from './apply.ts';
export { pairingListener, type Listening } from './listener.ts';
export { laneOfRecord } from './write.ts';
export * from './view.ts';
export * from './work.ts';
export * from './missing.ts';
