/** The notation of computed fields, parsed: expressions of names, literals, operators and functions, and nothing else. */
import jsep from 'jsep';

/** Longest expression that is read. */
export const MOST_EXPRESSION = 2_000;

export type Tree =
  | { kind: 'name'; name: string }
  | { kind: 'literal'; value: string | number | boolean | null }
  | { kind: 'unary'; op: '-' | '+' | 'not'; of: Tree }
  | { kind: 'binary'; op: string; left: Tree; right: Tree }
  | { kind: 'call'; name: string; with: Tree[] };

/** An expression that cannot be read or computed: a sentence that says what and where. */
export class ExpressionError extends Error {}

const comparisons = new Set(['=', '!=', '<', '<=', '>', '>=']);

// The parser's own operators that mean nothing here are taken out, ours are put in; the higher binds more.
for (const op of ['||', '&&', '??', '|', '^', '&', '==', '===', '!==', '<<', '>>', '>>>', '%', '**']) jsep.removeBinaryOp(op);
for (const op of ['!', '~']) jsep.removeUnaryOp(op);
jsep.addBinaryOp('or', 1);
jsep.addBinaryOp('and', 2);
jsep.addBinaryOp('=', 6);
jsep.addUnaryOp('not');

function tree(node: jsep.Expression): Tree {
  const n = node as unknown as Record<string, unknown> & { type: string };
  switch (n.type) {
    case 'Identifier':
      return { kind: 'name', name: n['name'] as string };
    case 'Literal': {
      const value = n['value'] as string | number | boolean | null;
      if (typeof value === 'object' && value !== null) throw new ExpressionError('Only numbers, texts, yes, no and empty can stand by themselves.');
      if (typeof value === 'number' && !Number.isFinite(value)) throw new ExpressionError(`${String(n['raw'])} is too large a number.`);
      return { kind: 'literal', value };
    }
    case 'UnaryExpression': {
      const op = n['operator'] as '-' | '+' | 'not';
      return { kind: 'unary', op, of: tree(n['argument'] as jsep.Expression) };
    }
    case 'BinaryExpression': {
      const op = n['operator'] as string;
      const left = tree(n['left'] as jsep.Expression);
      const right = tree(n['right'] as jsep.Expression);
      // `not a = b` is the opposite of `a = b`.
      if (comparisons.has(op) && left.kind === 'unary' && left.op === 'not') return { kind: 'unary', op: 'not', of: { kind: 'binary', op, left: left.of, right } };
      return { kind: 'binary', op, left, right };
    }
    case 'CallExpression': {
      const callee = n['callee'] as { type: string; name?: string };
      if (callee.type !== 'Identifier' || !callee.name) throw new ExpressionError('Only a function of the list can stand before a bracket.');
      return { kind: 'call', name: callee.name, with: (n['arguments'] as jsep.Expression[]).map(tree) };
    }
    case 'ConditionalExpression':
      throw new ExpressionError('Write a choice as if(condition, then, else).');
    case 'MemberExpression':
      throw new ExpressionError('A point can stand only in a number.');
    case 'Compound':
      throw new ExpressionError(
        ((n['body'] as unknown[]).length ? 'Two things stand beside each other without an operator or a comma between them.' : 'The expression is empty.') as string,
      );
    default:
      throw new ExpressionError('That cannot stand in an expression.');
  }
}

/** Reads an expression. Throws an ExpressionError that says what is wrong, and where that is known. */
export function parseExpression(text: string): Tree {
  if (text.trim() === '') throw new ExpressionError('The expression is empty.');
  if (text.length > MOST_EXPRESSION) throw new ExpressionError(`The expression is longer than ${MOST_EXPRESSION} characters.`);
  let node: jsep.Expression;
  try {
    node = jsep(text);
  } catch (e) {
    const index = (e as { index?: number }).index;
    const near = index === undefined ? '' : ` near “${text.slice(Math.max(0, index - 10), index + 10).trim()}”`;
    throw new ExpressionError(`It cannot be read${near}. Check brackets, quotes and commas.`);
  }
  return tree(node);
}
