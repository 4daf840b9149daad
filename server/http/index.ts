export { makeApp } from './app.ts';
export type { Context } from './context.ts';
export { LiveFeed } from './live-feed.ts';
