import { Problem } from '../expression/problem.js';
import { type Algebra, evaluate } from '../rational/evaluate.js';
import {
  addSymbolic,
  type Expressions,
  type Field,
  fieldsFor,
  multiplySymbolic,
  type SymbolicFraction,
  toCommonDenominator,
} from '../symbolic/fraction.js';
import {
  exactQuotient,
  isNothing,
  product,
  scaled,
  sum,
  type SymbolicPolynomial,
  whole,
  wholeValue,
} from '../symbolic/polynomial.js';
import { type Diagram, within } from './equations.js';

/** A diagram as linear equations M·signals = B·inputs over polynomials; det M is the characteristic polynomial. */
export interface SignalFlow {
  readonly diagram: Diagram;
  readonly field: Field;
  /** One row for each equation: what multiplies each signal (left) and each input (right). */
  readonly rows: readonly ReadonlyMap<string, SymbolicPolynomial>[];
}

/** The diagram's expressions, for a field shared with others. */
export function expressionsOf({ equations, definitions, signals, inputs }: Diagram): Expressions {
  const trees = [...equations.flatMap(({ left, right }) => [left, right]), ...definitions.values()];
  return { trees, definitions, signals: new Set([...signals, ...inputs]) };
}

/**
 * Works out the equations. Every row is multiplied by the least common denominator of its blocks, so that no mode is
 * lost and none invented.
 * @throws Problem for equations that are not linear in the signals, and as expressions do.
 */
export function signalFlow(diagram: Diagram, field: Field = fieldsFor([expressionsOf(diagram)])[0]!): SignalFlow {
  const algebra = sumsOfSignals(field, new Set([...diagram.signals, ...diagram.inputs]));
  const rows = diagram.equations.map(({ signal, left, right }, k) =>
    within(`Equation ${k + 1}: `, () => {
      const [sum, given] = [evaluate(left, algebra), evaluate(right, algebra)];
      if (sum.signals.size !== 1 || !isNothing(sum.constant.numerator)) {
        throw new Problem('equation', `On the left stands one signal with its factor, here ${signal}.`, left.at);
      }
      if (!isNothing(given.constant.numerator)) {
        throw new Problem(
          'equation',
          'Every term on the right needs a signal; a constant is an input of its own.',
          right.at,
        );
      }
      return commonRow(sum.signals, given.signals, new Set(diagram.inputs), field);
    }),
  );
  return { diagram, field, rows };
}

/**
 * The transfer function from an input to a signal, exact, every common factor (hidden mode) of the diagram kept.
 * The denominator is the diagram's characteristic polynomial.
 * Method: elimination of signals through entries that are plain numbers, then Cramer's rule with minors kept.
 * @throws Problem `signal` for names that are no input or signal, `improper` when the diagram has no unique solution.
 */
export function transferBetween(flow: SignalFlow, from: string, to: string): SymbolicFraction {
  const { diagram, field } = flow;
  if (!diagram.inputs.includes(from)) {
    throw new Problem('signal', `“${from}” is no input here; inputs: ${diagram.inputs.join(', ') || 'none'}.`);
  }
  const unit = whole(field.ring, 1n);
  if (to === from) return { numerator: unit, denominator: unit };
  if (!diagram.signals.includes(to)) {
    throw new Problem('signal', `“${to}” is no signal here; signals: ${diagram.signals.join(', ')}.`);
  }
  const { rows, columns } = eliminated(flow, to);
  const denominator = determinant(rows, columns, field);
  if (isNothing(denominator)) {
    throw new Problem('improper', 'These equations have no unique solution: some signals can be anything.');
  }
  const numerator = determinant(
    rows,
    columns.map((column) => (column === to ? from : column)),
    field,
  );
  return { numerator, denominator };
}

interface SumOfSignals {
  readonly constant: SymbolicFraction;
  readonly signals: ReadonlyMap<string, SymbolicFraction>;
}

function sumsOfSignals({ ring, algebra }: Field, names: ReadonlySet<string>): Algebra<SumOfSignals> {
  const nothing = { numerator: whole(ring, 0n), denominator: whole(ring, 1n) };
  const none: ReadonlyMap<string, SymbolicFraction> = new Map();
  const plain = (constant: SymbolicFraction): SumOfSignals => ({ constant, signals: none });
  const times = ({ constant, signals }: SumOfSignals, factor: SymbolicFraction): SumOfSignals => ({
    constant: multiplySymbolic(constant, factor),
    signals: new Map([...signals].map(([name, c]) => [name, multiplySymbolic(c, factor)])),
  });
  return {
    constant: (value) => plain(algebra.constant(value)),
    name: (name, at) =>
      names.has(name)
        ? { constant: nothing, signals: new Map([[name, algebra.constant({ numerator: 1n, denominator: 1n })]]) }
        : plain(algebra.name(name, at)),
    exponential: (exponent, at) => plain(algebra.exponential(exponent, at)),
    add(left, right) {
      const signals = new Map(left.signals);
      for (const [name, c] of right.signals) {
        const before = signals.get(name);
        signals.set(name, before ? addSymbolic(before, c) : c);
      }
      return { constant: addSymbolic(left.constant, right.constant), signals };
    },
    negate: ({ constant, signals }) => ({
      constant: algebra.negate(constant),
      signals: new Map([...signals].map(([name, c]) => [name, algebra.negate(c)])),
    }),
    multiply(left, right, at) {
      if (left.signals.size > 0 && right.signals.size > 0) {
        throw new Problem('equation', 'Two signals are multiplied; only linear equations are read.', at);
      }
      return right.signals.size > 0 ? times(right, left.constant) : times(left, right.constant);
    },
    divide(left, right, at) {
      if (right.signals.size > 0) throw new Problem('equation', 'Nothing can be divided by a signal.', at);
      const over = (fraction: SymbolicFraction): SymbolicFraction => algebra.divide(fraction, right.constant, at);
      return {
        constant: over(left.constant),
        signals: new Map([...left.signals].map(([name, c]) => [name, over(c)])),
      };
    },
    invert(sum, at) {
      if (sum.signals.size > 0) throw new Problem('equation', 'Nothing can be divided by a signal.', at);
      return plain(algebra.invert(sum.constant, at));
    },
    power(base, exponent, at) {
      if (base.signals.size > 0 && exponent !== 1) {
        throw new Problem('equation', 'A signal has no powers; only linear equations are read.', at);
      }
      return base.signals.size > 0 ? base : plain(algebra.power(base.constant, exponent, at));
    },
    number: (sum) => (sum.signals.size > 0 ? null : algebra.number(sum.constant)),
  };
}

/** left − right over a common denominator; inputs change sides. */
function commonRow(
  left: ReadonlyMap<string, SymbolicFraction>,
  right: ReadonlyMap<string, SymbolicFraction>,
  inputs: ReadonlySet<string>,
  { ring }: Field,
): Map<string, SymbolicPolynomial> {
  const entries = new Map(left);
  for (const [name, { numerator, denominator }] of right) {
    const moved = { numerator: inputs.has(name) ? numerator : scaled(numerator, -1n), denominator };
    const before = entries.get(name);
    entries.set(name, before ? addSymbolic(before, moved) : moved);
  }
  let common = whole(ring, 1n);
  for (const { denominator } of entries.values())
    common = product(common, toCommonDenominator(common, denominator).ofLeft);
  const row = new Map<string, SymbolicPolynomial>();
  for (const [name, { numerator, denominator }] of entries) {
    if (isNothing(numerator)) continue;
    row.set(name, product(numerator, exactQuotient(common, denominator)!));
  }
  return row;
}

type Row = Map<string, SymbolicPolynomial>;

/** Takes out signals other than `kept` whose row has a plain number for them, where that fills in least. */
function eliminated(flow: SignalFlow, kept: string): { rows: Row[]; columns: string[] } {
  const rows: Row[] = flow.rows.map((row) => new Map(row));
  const columns = [...flow.diagram.signals];
  for (;;) {
    let best: { row: number; column: string; cost: number } | undefined;
    for (const column of columns) {
      if (column === kept) continue;
      const users = rows.filter((row) => row.has(column)).length - 1;
      rows.forEach((row, k) => {
        const entry = row.get(column);
        if (!entry || wholeValue(entry) === null) return;
        const cost = users * (row.size - 1);
        if (!best || cost < best.cost) best = { row: k, column, cost };
      });
    }
    if (!best) return { rows, columns };
    const { column } = best;
    const [pivot] = rows.splice(best.row, 1);
    columns.splice(columns.indexOf(column), 1);
    const value = wholeValue(pivot!.get(column)!)!;
    for (const row of rows) {
      const factor = row.get(column);
      if (!factor) continue;
      row.delete(column);
      if (value !== 1n && value !== -1n) for (const [name, entry] of row) row.set(name, scaled(entry, value));
      const sign = value === -1n ? 1n : -1n;
      for (const [name, entry] of pivot!) {
        if (name === column) continue;
        const change = product(factor, entry);
        const before = row.get(name);
        const after = before ? sum(before, change, sign) : scaled(change, sign);
        if (isNothing(after)) row.delete(name);
        else row.set(name, after);
      }
    }
  }
}

/** Determinant of the rows over the columns. Method: expansion by rows, each minor worked out once. */
function determinant(rows: readonly Row[], columns: readonly string[], { ring }: Field): SymbolicPolynomial {
  if (columns.length > 30) {
    throw new Problem(
      'numberSize',
      'More than 30 blocks are coupled here; that is too large to be worked out exactly.',
    );
  }
  const order = [...rows].sort((a, b) => a.size - b.size);
  const sign = permutationSign(order.map((row) => rows.indexOf(row)));
  const minors = new Map<number, SymbolicPolynomial>();
  const minor = (from: number, left: number): SymbolicPolynomial => {
    if (from === order.length) return whole(ring, 1n);
    const before = minors.get(left);
    if (before) return before;
    let value = whole(ring, 0n);
    let position = 0;
    for (let k = 0; k < columns.length; k++) {
      if (!(left & (1 << k))) continue;
      const entry = order[from]!.get(columns[k]!);
      if (entry) {
        const below = minor(from + 1, left & ~(1 << k));
        if (!isNothing(below)) value = sum(value, product(entry, below), position % 2 === 0 ? 1n : -1n);
      }
      position += 1;
    }
    minors.set(left, value);
    return value;
  };
  return scaled(minor(0, 2 ** columns.length - 1), sign);
}

function permutationSign(order: readonly number[]): bigint {
  let swaps = 0;
  order.forEach((a, k) => {
    for (const b of order.slice(k + 1)) if (b < a) swaps += 1;
  });
  return swaps % 2 === 0 ? 1n : -1n;
}
