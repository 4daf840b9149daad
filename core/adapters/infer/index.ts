export { inferFromOpenApi, type Inferred } from './openapi.ts';
export { linkReferences } from './references.ts';
export { describeSeen, schemaFromSamples, type ListSeen } from './samples.ts';
