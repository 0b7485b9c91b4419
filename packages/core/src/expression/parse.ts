import { limits } from './limits.js';
import { must } from './must.js';
import { Problem } from './problem.js';
import { type Token, tokensOf } from './tokens.js';
import { holdsS, type Tree } from './tree.js';

const rootAlone: ReadonlyMap<string, string> = new Map([['sqrt', 'sqrt']]);

/** Reads what a student types where a root can be worked out: a fraction, an entry of a matrix. @throws Problem as `parse`. */
export const parseTyped = (text: string): Tree => parse(text, { roots: true });

/**
 * Reads an expression as people type it: `+ - * / ^ ( )`, implied multiplication (`2s`, `3(s+1)`, `K(s+2)`),
 * decimals and exponents (`1.5e-3`), names with digits, `exp(…)`, `G(s)` for the block G. Implied and written multiplication bind alike and, with
 * division, from left to right. Method: precedence climbing.
 * With `derivatives`, a prime behind a name stands for a factor s, as in `x''`. With `functions`, those names in front of
 * a bracket are functions, their values separated by commas; each stands for the name that the tree holds. With `roots`,
 * √ alone is one, and a comma stays a decimal comma. With `imaginary`, `j2` is j·2.
 * @throws Problem with the position of the mistake.
 */
export function parse(
  text: string,
  {
    derivatives = false,
    roots = false,
    imaginary = false,
    functions = roots ? rootAlone : undefined,
  }: {
    derivatives?: boolean;
    roots?: boolean;
    imaginary?: boolean;
    functions?: ReadonlyMap<string, string> | undefined;
  } = {},
): Tree {
  const tokens = tokensOf(text, { commas: functions !== undefined && !roots, imaginary });
  let next = 0;
  let depth = 0;
  const opened: number[] = [];
  const peek = (): Token => must(tokens[next]);
  const take = (): Token => must(tokens[next++]);

  const deeper = (at: number): void => {
    depth += 1;
    if (depth > limits.nesting) {
      throw new Problem('tooDeep', `Brackets, signs and powers may be nested ${limits.nesting} deep.`, at);
    }
  };

  function sum(): Tree {
    let left = product();
    for (;;) {
      const sign = peek();
      if (sign.kind !== '+' && sign.kind !== '-') return left;
      take();
      left = { kind: sign.kind === '+' ? 'sum' : 'difference', left, right: product(), at: sign.at };
    }
  }

  function product(): Tree {
    let left = signed();
    for (;;) {
      const sign = peek();
      if (sign.kind === '*' || sign.kind === '/') {
        take();
        left = { kind: sign.kind === '*' ? 'product' : 'quotient', left, right: signed(), at: sign.at };
      } else if (sign.kind === 'name' || sign.kind === '(') {
        left = { kind: 'product', left, right: power(), at: sign.at };
      } else if (sign.kind === 'number') {
        if (left.kind === 'number') {
          throw new Problem('missingOperator', 'Two numbers stand side by side; write * between them.', sign.at);
        }
        left = { kind: 'product', left, right: power(), at: sign.at };
      } else {
        return left;
      }
    }
  }

  function signed(): Tree {
    const sign = peek();
    if (sign.kind !== '-' && sign.kind !== '+') return power();
    take();
    deeper(sign.at);
    const tree = signed();
    depth -= 1;
    return sign.kind === '-' ? { kind: 'negative', of: tree, at: sign.at } : tree;
  }

  function power(): Tree {
    const base = primed(atom());
    const sign = peek();
    if (sign.kind !== '^') return base;
    take();
    deeper(sign.at);
    const exponent = peek().kind === '-' || peek().kind === '+' ? signed() : power();
    depth -= 1;
    // e to a power with s in it is no letter e.
    if (base.kind === 'name' && base.name === 'e' && holdsS(exponent))
      return { kind: 'exponential', exponent, at: base.at };
    return { kind: 'power', base, exponent, at: sign.at };
  }

  function primed(tree: Tree): Tree {
    let result = tree;
    while (peek().kind === "'") {
      const { at } = take();
      if (!derivatives || tree.kind !== 'name') {
        throw new Problem('unexpectedCharacter', 'A prime is read behind a signal’s name in an equation only.', at);
      }
      result = { kind: 'product', left: { kind: 'name', name: 's', at }, right: result, at };
    }
    return result;
  }

  function atom(): Tree {
    const token = take();
    switch (token.kind) {
      case 'number':
        return { kind: 'number', text: token.text, at: token.at };
      case 'name': {
        const called = peek().kind === '(' ? functions?.get(token.text) : undefined;
        if (called !== undefined) return { kind: 'call', name: called, of: values(), at: token.at };
        if (token.text === 'sqrt') return root(token.at);
        if (token.text !== 'exp') {
          const ofS = isFunctionOfS(token.text);
          if (ofS) next += 3;
          return { kind: 'name', name: token.text, at: token.at, ...(ofS ? { ofS } : {}) };
        }
        if (peek().kind !== '(') {
          throw new Problem('deadTime', 'exp needs a bracket: dead time is typed as exp(-0.5 s).', token.at);
        }
        return { kind: 'exponential', exponent: atom(), at: token.at };
      }
      case '(':
        return bracketed(token.at, sum);
      case 'end':
        if (opened.length > 0) {
          throw new Problem('unclosedBracket', 'A bracket opened here is never closed.', opened[opened.length - 1]);
        }
        throw new Problem('missingOperand', 'The expression stops where a value should follow.', token.at);
      default:
        throw stray(token);
    }
  }

  /** √2 stands for √(2) where there are functions; elsewhere roots cannot be worked out exactly. */
  function root(at: number): Tree {
    const name = functions?.get('sqrt');
    if (name === undefined) {
      throw new Problem('unexpectedCharacter', 'A root is not read here: write its value, such as 1.4142 for √2.', at);
    }
    return { kind: 'call', name, of: [power()], at };
  }

  /** `G(s)` is the block G, as it stands in every book; only s itself is multiplied. */
  function isFunctionOfS(name: string): true | undefined {
    const [open, inner, close] = tokens.slice(next, next + 3);
    const is =
      name !== 's' && open?.kind === '(' && inner?.kind === 'name' && inner.text === 's' && close?.kind === ')';
    return is || undefined;
  }

  function bracketed<Inner>(at: number, read: () => Inner): Inner {
    if (peek().kind === ')') throw new Problem('emptyBracket', 'There is nothing between these brackets.', at);
    deeper(at);
    opened.push(at);
    const inner = read();
    const close = take();
    if (close.kind === 'end') throw new Problem('unclosedBracket', 'A bracket opened here is never closed.', at);
    if (close.kind !== ')') throw stray(close);
    opened.pop();
    depth -= 1;
    return inner;
  }

  function values(): Tree[] {
    return bracketed(take().at, () => {
      const trees = [sum()];
      while (peek().kind === ',') {
        take();
        trees.push(sum());
      }
      return trees;
    });
  }

  function stray(token: Token): Problem {
    // Outside of a function’s values, between two digits, it is a decimal comma.
    if (token.kind === ',' && /\d$/.test(text.slice(0, token.at)) && /^\d/.test(text.slice(token.at + 1))) {
      return new Problem('decimalComma', 'Decimals take a point: 1.5, not 1,5.', token.at);
    }
    if (token.kind === ')') {
      return opened.length > 0
        ? new Problem('missingOperand', 'A value is missing before this bracket.', token.at)
        : new Problem('unopenedBracket', 'This bracket closes one that was never opened.', token.at);
    }
    return new Problem('missingOperand', `A value is missing before “${token.kind}”.`, token.at);
  }

  const tree = sum();
  const rest = peek();
  if (rest.kind !== 'end') throw stray(rest);
  return tree;
}
