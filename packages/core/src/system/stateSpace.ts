import { Problem } from '../expression/problem.js';
import { type Fraction, isProper, lowestTerms } from '../rational/fraction.js';
import {
  addMatrices,
  characteristicOf,
  checkedMatrix,
  identity,
  type Matrix,
  matrixFromNumbers,
  multiplyMatrices,
  rank,
  scaleMatrix,
  solveLinear,
  transpose,
} from '../rational/matrix.js';
import {
  addRational,
  multiplyRational,
  negateRational,
  type Rational,
  rational,
  rationalFromNumber,
  rationalToNumber,
  subtractRational,
} from '../rational/number.js';
import { coefficient, degree, type Polynomial, polynomialOf } from '../rational/polynomial.js';
import { partialFractions } from './partialFractions.js';
import { systemOf } from './system.js';

/** x′ = a·x + b·u, y = c·x + d·u, exact; a is n × n, b n × inputs, c outputs × n, d outputs × inputs. */
export interface StateSpace {
  readonly a: Matrix;
  readonly b: Matrix;
  readonly c: Matrix;
  readonly d: Matrix;
}

/** The same in doubles. */
export type StateMatrices = Readonly<Record<'a' | 'b' | 'c' | 'd', readonly (readonly number[])[]>>;

const nought = rational(0n);

/** @throws Problem `matrix` when the sizes do not fit together. */
export const stateSpaceOf = ({ a, b, c, d }: StateMatrices): StateSpace =>
  fittingStates({
    a: matrixFromNumbers(a, 'A'),
    b: matrixFromNumbers(b, 'B'),
    c: matrixFromNumbers(c, 'C'),
    d: matrixFromNumbers(d, 'D'),
  });

/** Exact matrices whose sizes fit together. @throws Problem `matrix` when they do not. */
export function fittingStates(matrices: StateSpace): StateSpace {
  const a = checkedMatrix(matrices.a, 'A');
  const b = checkedMatrix(matrices.b, 'B');
  const c = checkedMatrix(matrices.c, 'C');
  const d = checkedMatrix(matrices.d, 'D');
  const [states, inputs, outputs] = [a.length, d[0]?.length ?? 0, d.length];
  const fits = (m: Matrix, rows: number, columns: number): boolean =>
    m.length === rows && (rows === 0 || m[0]!.length === columns);
  if (inputs === 0 || !fits(a, states, states) || !fits(b, states, inputs) || !fits(c, outputs, states)) {
    throw new Problem(
      'matrix',
      `The sizes do not fit: with ${states} states, ${inputs} inputs and ${outputs} outputs, A is ${states} × ${states}, B ${states} × ${inputs}, C ${outputs} × ${states}, D ${outputs} × ${inputs}.`,
    );
  }
  return { a, b, c, d };
}

/** The matrices as doubles. */
export function matricesOf({ a, b, c, d }: StateSpace): StateMatrices {
  const numbers = (m: Matrix): number[][] => m.map((row) => row.map(rationalToNumber));
  return { a: numbers(a), b: numbers(b), c: numbers(c), d: numbers(d) };
}

/**
 * The transfer function from one input to one output, c·adj(sI − a)·b/det(sI − a) + d, every mode kept.
 * @throws Problem `signal` when there is no such input or output.
 */
export function fractionOfStates(states: StateSpace, input = 0, output = 0): Fraction {
  const { a, b, c, d } = states;
  if (!(input in (d[0] ?? [])) || !(output in d)) {
    throw new Problem('signal', `There are ${d[0]?.length ?? 0} inputs and ${d.length} outputs, counted from 0.`);
  }
  const { coefficients, adjugate } = characteristicOf(a);
  const column = b.map((row) => [row[input]!]);
  const direct = d[output]![input]!;
  const above = coefficients.map((value, k) => {
    const through =
      k === 0 ? nought : multiplyMatrices(multiplyMatrices([c[output]!], adjugate[k - 1]!), column)[0]![0]!;
    return addRational(through, multiplyRational(direct, value));
  });
  return { numerator: polynomialOf(above), denominator: polynomialOf(coefficients) };
}

/**
 * The transfer function of matrices with one input and one output. @throws Problem `matrix` for others: which one is
 * meant is nobody's guess.
 */
export function onlyFractionOf(states: StateSpace): Fraction {
  const [inputs, outputs] = [states.d[0]?.length ?? 0, states.d.length];
  if (inputs !== 1 || outputs !== 1) {
    const of = (count: number, what: string): string => `${count} ${what}${count === 1 ? '' : 's'}`;
    throw new Problem(
      'matrix',
      `One input and one output are read here; these matrices have ${of(inputs, 'input')} and ${of(outputs, 'output')}.`,
    );
  }
  return fractionOfStates(states);
}

/** y(t) without input from the initial state x0: c·(sI − a)⁻¹·x0. @throws Problem `matrix` for a state of another length. */
export function freeMotionOfStates(states: StateSpace, x0: readonly number[], output = 0): Fraction {
  if (x0.length !== states.a.length) {
    throw new Problem('matrix', `The initial state needs ${states.a.length} numbers.`);
  }
  const b = x0.map((value) => [rationalFromNumber(value)]);
  return fractionOfStates({ ...states, b, d: states.d.map(() => [nought]) }, 0, output);
}

export type CanonicalForm = 'controllable' | 'observable' | 'modal';

/**
 * States for a transfer function in lowest terms. Controllable form: last row of A holds the negative coefficients,
 * lowest power first, B is the last unit vector. Observable form: its transpose. Modal form (doubles): one block for
 * each real pole or pair, Jordan blocks for repeated ones.
 * @throws Problem `improper` when there are more zeros than poles.
 */
export function statesOf(fraction: Fraction, form: CanonicalForm): StateMatrices {
  if (!isProper(fraction)) throw new Problem('improper', 'More zeros than poles: there is no state-space form.');
  if (form === 'modal') return modalForm(fraction);
  const states = controllableForm(lowestTerms(fraction));
  if (form === 'controllable') return matricesOf(states);
  return matricesOf({ a: transpose(states.a), b: transpose(states.c), c: transpose(states.b), d: states.d });
}

/** The controllable form, exact, of a fraction in lowest terms with a monic denominator. */
export function controllableForm({ numerator, denominator }: Fraction): StateSpace {
  const n = degree(denominator);
  const direct = coefficient(numerator, n);
  const a = Array.from({ length: n }, (_, i) =>
    Array.from({ length: n }, (_, j) =>
      i === n - 1 ? negateRational(coefficient(denominator, j)) : rational(i + 1 === j ? 1n : 0n),
    ),
  );
  const b = Array.from({ length: n }, (_, i) => [rational(i === n - 1 ? 1n : 0n)]);
  const c = Array.from({ length: n }, (_, j) =>
    subtractRational(coefficient(numerator, j), multiplyRational(direct, coefficient(denominator, j))),
  );
  return { a, b, c: [c], d: [[direct]] };
}

function modalForm(fraction: Fraction): StateMatrices {
  const system = systemOf(fraction);
  const { terms, direct } = partialFractions(system);
  const n = system.poles.reduce((sum, { multiplicity }) => sum + multiplicity, 0);
  const a = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  const b = Array.from({ length: n }, () => [0]);
  const c = new Array<number>(n).fill(0);
  let at = 0;
  for (const pole of system.poles) {
    if (pole.im < 0) continue;
    const size = pole.im === 0 ? 1 : 2;
    const ofPole = terms.filter((term) => term.pole === pole);
    for (let k = 0; k < pole.multiplicity; k++) {
      const here = at + k * size;
      // Jordan chain: the block above is driven by the one below, the last by the input.
      const term = ofPole.find(({ power }) => power === pole.multiplicity - k)!;
      for (let i = 0; i < size; i++) {
        a[here + i]![here + i] = pole.re;
        if (k + 1 < pole.multiplicity) a[here + i]![here + size + i] = 1;
      }
      if (size === 2) {
        a[here]![here + 1] = pole.im;
        a[here + 1]![here] = -pole.im;
      }
      if (k + 1 === pole.multiplicity) b[here]![0] = 1;
      c[here] = (size === 2 ? 2 : 1) * term.residue.re;
      if (size === 2) c[here + 1] = 2 * term.residue.im;
    }
    at += size * pole.multiplicity;
  }
  return { a, b, c: [c], d: [[direct]] };
}

/** [b, a·b, …, aⁿ⁻¹·b]. */
export function controllabilityMatrix({ a, b }: StateSpace): Matrix {
  const blocks: Matrix[] = [];
  let block = b;
  while (blocks.length < a.length) {
    blocks.push(block);
    block = multiplyMatrices(a, block);
  }
  return a.map((_, i) => blocks.flatMap((m) => m[i]!));
}

/** [c; c·a; …; c·aⁿ⁻¹]. */
export function observabilityMatrix({ a, c }: StateSpace): Matrix {
  return transpose(controllabilityMatrix({ a: transpose(a), b: transpose(c), c: [], d: [] }));
}

/** Ranks of both matrices, exact; a system is controllable or observable when the rank is its order. */
export function structureOf(states: StateSpace): {
  order: number;
  controllable: boolean;
  observable: boolean;
  controllabilityRank: number;
  observabilityRank: number;
} {
  const order = states.a.length;
  const controllabilityRank = order === 0 ? 0 : rank(controllabilityMatrix(states));
  const observabilityRank = order === 0 ? 0 : rank(observabilityMatrix(states));
  return {
    order,
    controllable: controllabilityRank === order,
    observable: observabilityRank === order,
    controllabilityRank,
    observabilityRank,
  };
}

/**
 * The row k for which a − b·k has the wanted characteristic polynomial (monic, of the system's order), exact.
 * Method: Ackermann's formula, the last row of the inverse controllability matrix by elimination.
 * @throws Problem `notPossible` when the system is not controllable, `matrix` for several inputs or a wrong degree.
 */
export function placePoles(states: StateSpace, wanted: Polynomial): Rational[] {
  const { a, b } = states;
  const n = a.length;
  if ((b[0]?.length ?? 0) !== 1) throw new Problem('matrix', 'Poles are placed by one input.');
  if (degree(wanted) !== n) throw new Problem('matrix', `${n} poles are to be placed, not ${degree(wanted)}.`);
  const last = identity(n)[n - 1]!;
  const solved = solveLinear(transpose(controllabilityMatrix(states)), last);
  if (!solved?.unique) {
    throw new Problem('notPossible', 'The input does not reach every state, so the poles cannot all be placed.');
  }
  const lead = coefficient(wanted, n);
  let value: Matrix = identity(n).map((row) => row.map(() => nought));
  for (let k = n; k >= 0; k--) {
    const c = coefficient(wanted, k);
    const ratio = rational(c.numerator * lead.denominator, c.denominator * lead.numerator);
    value = addMatrices(multiplyMatrices(value, a), scaleMatrix(identity(n), ratio));
  }
  return [...multiplyMatrices([solved.x], value)[0]!];
}
