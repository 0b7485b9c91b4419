import { Problem } from '../expression/problem.js';
import { isProper, lowestTerms } from '../rational/fraction.js';
import {
  addMatrices,
  characteristicOf,
  identity,
  type Matrix,
  multiplyMatrices,
  rank,
  scaleMatrix,
  solveLinear,
  transpose,
} from '../rational/matrix.js';
import { type Rational, rationalToNumber } from '../rational/number.js';
import { coefficient, degree, type Polynomial, polynomialOf } from '../rational/polynomial.js';
import type { Complex } from '../system/complex.js';
import { polynomialFromRoots } from '../system/forms.js';
import { polynomialToLatex } from '../system/latex.js';
import {
  type CanonicalForm,
  controllabilityMatrix,
  controllableForm,
  fractionOfStates,
  matricesOf,
  observabilityMatrix,
  placePoles,
  type StateMatrices,
  statesOf,
  type StateSpace,
  structureOf,
} from '../system/stateSpace.js';
import type { System } from '../system/system.js';
import { matrixLatex, rowLatex, type WorkingStep } from './step.js';

const numbers = (m: Matrix): number[][] => m.map((row) => row.map(rationalToNumber));

/** What is read off the matrices: both tests with their matrices and ranks. */
export interface StateFacts extends ReturnType<typeof structureOf> {
  readonly controllability: readonly (readonly number[])[];
  readonly observability: readonly (readonly number[])[];
}

export const stateFacts = (states: StateSpace): StateFacts => ({
  ...structureOf(states),
  controllability: numbers(controllabilityMatrix(states)),
  observability: numbers(observabilityMatrix(states)),
});

/**
 * The same response from rest in another form, with as many states: modes that cancel are kept, but in the modal form,
 * which shows those of the response. @throws Problem `improper`, `matrix` for several inputs or outputs.
 */
export function stateForm(states: StateSpace, form: CanonicalForm): StateMatrices {
  const [inputs, outputs] = [states.d[0]?.length ?? 0, states.d.length];
  if (inputs !== 1 || outputs !== 1) throw new Problem('matrix', 'These forms are for one input and one output.');
  const fraction = fractionOfStates(states);
  if (!isProper(fraction)) throw new Problem('improper', 'More zeros than poles: there is no state-space form.');
  if (form === 'modal') return statesOf(fraction, form);
  // Its denominator is monic: a characteristic polynomial.
  const whole = controllableForm(fraction);
  if (form === 'controllable') return matricesOf(whole);
  return matricesOf({ a: transpose(whole.a), b: transpose(whole.c), c: transpose(whole.b), d: whole.d });
}

/** With the states x = t·z: t⁻¹·a·t, t⁻¹·b, c·t. @throws Problem `matrix` for a matrix that has no inverse or another size. */
export function similarStates(states: StateSpace, t: Matrix): StateMatrices {
  const n = states.a.length;
  if (t.length !== n || t.some((row) => row.length !== n)) {
    throw new Problem('matrix', `The change of states is a matrix of ${n} × ${n}.`);
  }
  if (rank(t) < n) throw new Problem('matrix', 'This change of states has no inverse.');
  const divided = (m: Matrix): Matrix => transpose(transpose(m).map((column) => solveLinear(t, column)?.x ?? []));
  return matricesOf({
    a: divided(multiplyMatrices(states.a, t)),
    b: divided(states.b),
    c: multiplyMatrices(states.c, t),
    d: states.d,
  });
}

/** A, B, C and D side by side. */
export const statesLatex = ({ a, b, c, d }: StateMatrices): string =>
  `A=${matrixLatex(a)},\\ B=${matrixLatex(b)},\\ C=${matrixLatex(c)},\\ D=${matrixLatex(d)}`;

/** As it is typed in a line of a sheet. */
export function statesText({ a, b, c, d }: StateMatrices): string {
  const matrix = (rows: readonly (readonly number[])[]) =>
    `[${rows.map((row) => row.map((x) => String(Number(x.toPrecision(12)))).join(' ')).join('; ')}]`;
  return `states(${[a, b, c, d].map(matrix).join(', ')})`;
}

/**
 * The row K for which a − b·K has the wanted poles, with the working (Ackermann's formula).
 * @throws Problem as `placePoles`, and `query` for complex poles that do not come in pairs.
 */
export function placement(states: StateSpace, poles: readonly Complex[]): { gains: number[]; steps: WorkingStep[] } {
  const wanted = polynomialFromRoots(poles, 'The wanted poles');
  const gains = placePoles(states, wanted);
  const last = states.a.map((_, k) => (k === states.a.length - 1 ? '1' : '0')).join(' & ');
  return {
    gains: gains.map(rationalToNumber),
    steps: [
      { words: 'The wanted poles are the roots of', latex: `\\varphi(s)=${polynomialToLatex(wanted)}` },
      { words: 'Without feedback it is', latex: `\\det(sI-A)=${polynomialToLatex(characteristic(states.a))}` },
      {
        words: 'The controllability matrix',
        latex: `\\mathcal C=${matrixLatex(numbers(controllabilityMatrix(states)))}`,
      },
      {
        words: 'The wanted polynomial of A',
        latex: `\\varphi(A)=${matrixLatex(numbers(polynomialOfMatrix(wanted, states.a)))}`,
      },
      {
        words: 'Ackermann’s formula gives the feedback u = −K x.',
        latex: `K=\\begin{bmatrix}${last}\\end{bmatrix}\\mathcal C^{-1}\\varphi(A)=\\begin{bmatrix}${rowLatex(gains.map(rationalToNumber))}\\end{bmatrix}`,
      },
      { words: 'Check:', latex: `\\det(sI-A+BK)=${polynomialToLatex(characteristic(closedLoop(states, gains)))}` },
    ],
  };
}

const characteristic = (a: Matrix): Polynomial => polynomialOf(characteristicOf(a).coefficients);

/** a − b·K. */
function closedLoop({ a, b }: StateSpace, gains: readonly Rational[]): Matrix {
  return addMatrices(a, scaleMatrix(multiplyMatrices(b, [gains]), { numerator: -1n, denominator: 1n }));
}

function polynomialOfMatrix(p: Polynomial, a: Matrix): Matrix {
  const eye = identity(a.length);
  let sum = scaleMatrix(eye, coefficient(p, degree(p)));
  for (let k = degree(p) - 1; k >= 0; k--)
    sum = addMatrices(multiplyMatrices(sum, a), scaleMatrix(eye, coefficient(p, k)));
  return sum;
}

/** The states with feedback from all of them, u = r − K·x. */
export const withFeedback = (states: StateSpace, gains: readonly Rational[]): StateSpace => ({
  ...states,
  a: closedLoop(states, gains),
  c: addMatrices(states.c, scaleMatrix(multiplyMatrices(states.d, [gains]), { numerator: -1n, denominator: 1n })),
});

/** The states of a system in lowest terms, in controllable form. @throws Problem `improper` for more zeros than poles. */
export function systemStates({ fraction }: Pick<System, 'fraction'>): StateSpace {
  if (!isProper(fraction)) throw new Problem('improper', 'More zeros than poles: there is no state-space form.');
  return controllableForm(lowestTerms(fraction));
}
