export { DEMO_PASSWORD, loadDemo } from './load.ts';
