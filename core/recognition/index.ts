export * from './evidence.ts';
export * from './kinds.ts';
export * from './matcher.ts';
export { mistyped, typingErrors } from './distance.ts';
export { canonical, sameByForm, sound } from './names.ts';
export * from './organisation.ts';
export * from './person.ts';
