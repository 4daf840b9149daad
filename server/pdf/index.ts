export { filledPdf, type FilledForm } from './filled.ts';
