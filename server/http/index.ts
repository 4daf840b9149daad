export { makeApp } from './app.ts';
export type { Context, HttpSettings } from './context.ts';
export { LiveFeed } from './live-feed.ts';
