export * from './condition.ts';
export {
  EvaluationTrouble,
  FUNCTIONS,
  MOST_CHARACTERS,
  readExpression,
  type Expression,
  type ExpressionField,
  type ExpressionTrouble,
  type Result,
  type Submitted,
} from './expression.ts';
export * from './names.ts';
