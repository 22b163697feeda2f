import jsep from 'jsep';

/** What a maker may write. Anything else is refused by name, so a formula can neither loop nor reach out. */
const FUNCTIONS: Readonly<Record<string, { arity: number; run: (...a: number[]) => number; c: string }>> = {
  abs: { arity: 1, run: Math.abs, c: 'fabs' },
  sqrt: { arity: 1, run: Math.sqrt, c: 'sqrt' },
  cbrt: { arity: 1, run: Math.cbrt, c: 'cbrt' },
  exp: { arity: 1, run: Math.exp, c: 'exp' },
  ln: { arity: 1, run: Math.log, c: 'log' },
  log10: { arity: 1, run: Math.log10, c: 'log10' },
  log2: { arity: 1, run: Math.log2, c: 'log2' },
  sin: { arity: 1, run: Math.sin, c: 'sin' },
  cos: { arity: 1, run: Math.cos, c: 'cos' },
  tan: { arity: 1, run: Math.tan, c: 'tan' },
  asin: { arity: 1, run: Math.asin, c: 'asin' },
  acos: { arity: 1, run: Math.acos, c: 'acos' },
  atan: { arity: 1, run: Math.atan, c: 'atan' },
  atan2: { arity: 2, run: Math.atan2, c: 'atan2' },
  hypot: { arity: 2, run: Math.hypot, c: 'hypot' },
  min: { arity: 2, run: Math.min, c: 'fmin' },
  max: { arity: 2, run: Math.max, c: 'fmax' },
  floor: { arity: 1, run: Math.floor, c: 'floor' },
};
const CONSTANTS: Readonly<Record<string, number>> = { pi: Math.PI, e: Math.E };
const OPERATORS = '+ - * / ^';

export interface Formula {
  /** @param v values of x1, x2, ...; x is x1 */
  run(v: readonly number[]): number;
  /** As a C expression over x[0], x[1], ... in double. */
  readonly c: string;
  /** How many columns it uses. */
  readonly columns: number;
}

interface Piece {
  readonly run: (v: readonly number[]) => number;
  readonly c: string;
}

interface Node {
  readonly type: string;
  readonly [key: string]: unknown;
}

/** What we use of the library's parser; its own types leave the class out. */
interface Parser {
  index: number;
  readonly char: string;
  gobbleSpaces(): void;
  gobbleToken(): Node;
  parse(): Node;
}
const { Jsep } = jsep as unknown as {
  Jsep: {
    new (text: string): Parser;
    addBinaryOp(op: string, precedence: number, toTheRight: boolean): void;
  };
};

/** The parser with ^ as the power, to the right, and a sign that binds less than it: -x^2 is -(x^2). */
class FormulaParser extends Jsep {
  /** A sign before a factor takes the factor with its powers. */
  override gobbleToken(): Node {
    this.gobbleSpaces();
    const sign = this.char;
    if (sign !== '-' && sign !== '+') return super.gobbleToken();
    this.index++;
    return { type: 'Sign', operator: sign, argument: this.power() };
  }

  private power(): Node {
    const base = this.gobbleToken();
    this.gobbleSpaces();
    if (this.char !== '^') return base;
    this.index++;
    return { type: 'BinaryExpression', operator: '^', left: base, right: this.power() };
  }
}
FormulaParser.addBinaryOp('^', 11, true);

/**
 * Turns a formula into a function once. Columns are x1, x2, ... (x is x1); numbers, + - * / ^, brackets, pi, e and the
 * functions abs sqrt cbrt exp ln log10 log2 sin cos tan asin acos atan atan2 hypot min max floor.
 * The text is parsed by a library, the tree is walked by us: nothing in it is ever evaluated as program text.
 * @throws {RangeError} that names the word and what may stand there
 */
export function formulaExpression(text: string): Formula {
  let tree: Node;
  try {
    tree = new FormulaParser(text).parse();
  } catch (error) {
    throw new RangeError(
      `Cannot read the formula “${text}”: ${error instanceof Error ? error.message : String(error)}. Enter one such as 2.5 * x + 0.1.`,
      { cause: error },
    );
  }
  let columns = 0;
  const piece = walk(tree);
  return { run: piece.run, c: piece.c, columns };

  function walk(node: Node): Piece {
    switch (node.type) {
      case 'Literal':
        return constant(node['value']);
      case 'Identifier':
        return symbol(String(node['name']));
      case 'Sign': {
        const argument = walk(node['argument'] as Node);
        return node['operator'] === '-' ? { run: (v) => -argument.run(v), c: `(-${argument.c})` } : argument;
      }
      case 'BinaryExpression':
        return operator(String(node['operator']), walk(node['left'] as Node), walk(node['right'] as Node));
      case 'CallExpression':
        return call(node['callee'] as Node, node['arguments'] as Node[]);
      default:
        throw refused(text);
    }
  }

  function symbol(name: string): Piece {
    const match = /^x(\d*)$/.exec(name);
    if (match) {
      const at = Number(match[1] === '' ? 1 : match[1]) - 1;
      if (at >= 0 && at < 16) {
        columns = Math.max(columns, at + 1);
        return { run: (v) => v[at]!, c: `(double)x[${at}]` };
      }
    }
    if (name in CONSTANTS) return constant(CONSTANTS[name]!);
    throw refused(name);
  }

  function operator(op: string, a: Piece, b: Piece): Piece {
    const run: Record<string, Piece['run']> = {
      '+': (v) => a.run(v) + b.run(v),
      '-': (v) => a.run(v) - b.run(v),
      '*': (v) => a.run(v) * b.run(v),
      '/': (v) => a.run(v) / b.run(v),
      '^': (v) => a.run(v) ** b.run(v),
    };
    const found = run[op];
    if (!found) throw refused(op);
    return { run: found, c: op === '^' ? `pow(${a.c}, ${b.c})` : `(${a.c} ${op} ${b.c})` };
  }

  function call(callee: Node, given: readonly Node[]): Piece {
    const name = callee.type === 'Identifier' ? String(callee['name']) : text;
    const known = Object.hasOwn(FUNCTIONS, name) ? FUNCTIONS[name] : undefined;
    if (!known) throw refused(name);
    if (given.length !== known.arity)
      throw new RangeError(`In the formula, ${name} needs ${known.arity} values; received ${given.length}.`);
    const [a, b] = given.map(walk);
    const { run } = known;
    return {
      run: b ? (v) => run(a!.run(v), b.run(v)) : (v) => run(a!.run(v)),
      c: `${known.c}(${b ? `${a!.c}, ${b.c}` : a!.c})`,
    };
  }
}

function constant(value: unknown): Piece {
  if (typeof value !== 'number') throw refused(String(value));
  if (!Number.isFinite(value))
    throw new RangeError('A number in the formula is too large. Enter a smaller one.');
  const text = String(value);
  return { run: () => value, c: /[.e]/.test(text) ? text : `${text}.0` };
}

function refused(word: string): RangeError {
  return new RangeError(
    `“${word}” is not allowed in a formula. Use x (or x1, x2, …), numbers, ${OPERATORS}, pi, e and ${Object.keys(FUNCTIONS).join(', ')}.`,
  );
}
