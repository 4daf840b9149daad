/** Not typed by the package: the store of its @Type decorators, which the generator of JSON Schemas reads. */
declare module 'class-transformer/cjs/storage.js' {
  import type { IOptions } from 'class-validator-jsonschema';

  export const defaultMetadataStorage: IOptions['classTransformerMetadataStorage'];
}
