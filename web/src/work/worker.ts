import { expose } from 'comlink';
import { work } from './work.ts';

expose(work);
