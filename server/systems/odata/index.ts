export { NotUnderstood } from '../system.ts';
export { understood, type MetadataRead } from './describe.ts';
