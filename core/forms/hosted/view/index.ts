export { asHtml, element, type Element, type Markup } from './markup.ts';
export { formView, itemView, TRAP, type FormView } from './page.ts';
export { idOf } from './question.ts';
