export { alikeAmong, ColumnReader, evidenceOf } from './column.ts';
export * from './evidence.ts';
export * from './fields.ts';
export * from './payloads.ts';
