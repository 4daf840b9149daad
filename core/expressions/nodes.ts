/** A part of a parsed expression, from one character to another. */
export interface Node {
  op: string;
  args: unknown;
  start: number;
  end: number;
}

export const isNode = (value: unknown): value is Node => typeof value === 'object' && value !== null && 'op' in value;

/** The parts of a part. An operator with one operand, such as `!`, has it without a list around. */
export const partsOf = ({ args }: Node): unknown[] =>
  Array.isArray(args) ? (args as unknown[]) : isNode(args) ? [args] : [];

/** What an expression reads of is a form's submission or a record: the same, under the name that fits. */
export const isSource = (name: unknown): name is 'form' | 'record' => name === 'form' || name === 'record';

/**
 * The field that a part names, as `form.a` and `form["a"]` do. @returns undefined where it names none; without a name where
 * that isn't said by a text
 */
export function fieldNamed(node: Node): { source: 'form' | 'record'; name: string | undefined } | undefined {
  const [first, second] = partsOf(node);
  if ((node.op !== '.' && node.op !== '[]') || !isNode(first) || first.op !== 'id' || !isSource(first.args))
    return undefined;
  const name = node.op === '.' ? second : isNode(second) && second.op === 'value' ? second.args : undefined;
  return { source: first.args, name: typeof name === 'string' ? name : undefined };
}
