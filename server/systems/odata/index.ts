export { NotUnderstood } from '../system.ts';
export { readCsdl } from './csdl.ts';
export { capabilitiesOf, schemaOf } from './schema.ts';
