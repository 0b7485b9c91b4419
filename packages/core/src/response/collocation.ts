import { inverse, Matrix, solve } from 'ml-matrix';

/** Stages of one step; the step is exact for polynomials up to twice that degree at its end. */
export const stages = 7;

interface Rule {
  /** Points in (0, 1], rising, the last is 1. */
  readonly nodes: Float64Array;
  /** ∫ from 0 to node i of the Lagrange polynomial of node j. */
  readonly weights: Matrix;
  /** Values at 0 and the nodes → coefficients by rising power. */
  readonly toPowers: readonly (readonly number[])[];
  /** Values at 0 and the nodes → the two highest coefficients in Legendre polynomials. */
  readonly toTail: readonly (readonly number[])[];
}

let rule: Rule | undefined;

/** Radau's right-hand rule. Source: Hairer and Wanner, Solving Ordinary Differential Equations II, IV.5. */
export function radau(): Rule {
  rule ??= makeRule();
  return rule;
}

function legendre(degree: number, x: number): number {
  let [before, value] = [0, 1];
  for (let k = 0; k < degree; k++) [before, value] = [value, ((2 * k + 1) * x * value - k * before) / (k + 1)];
  return value;
}

function makeRule(): Rule {
  const nodes = radauNodes();
  const points = [0, ...nodes];
  const powers = new Matrix(points.map((x) => points.map((_, k) => x ** k)));
  const vandermonde = new Matrix(nodes.map((x) => nodes.map((_, k) => x ** k)));
  const integrals = new Matrix(nodes.map((x) => nodes.map((_, k) => x ** (k + 1) / (k + 1))));
  const shifted = new Matrix(points.map((x) => points.map((_, k) => legendre(k, 2 * x - 1))));
  return {
    nodes: Float64Array.from(nodes),
    weights: solve(vandermonde.transpose(), integrals.transpose()).transpose(),
    toPowers: inverse(powers).to2DArray(),
    toTail: inverse(shifted)
      .subMatrix(stages - 1, stages, 0, stages)
      .to2DArray(),
  };
}

/** Zeros of P_m − P_{m−1}, shifted to (0, 1]. */
function radauNodes(): number[] {
  const value = (x: number): number => legendre(stages, 2 * x - 1) - legendre(stages - 1, 2 * x - 1);
  const nodes: number[] = [];
  const samples = 400;
  for (let k = 0; k < samples; k++) {
    let [low, high] = [k / samples, (k + 1) / samples];
    if (k === samples - 1) high = 1 - 1e-9;
    if (value(low) * value(high) >= 0) continue;
    for (let round = 0; round < 60; round++) {
      const middle = (low + high) / 2;
      if (value(low) * value(middle) <= 0) high = middle;
      else low = middle;
    }
    nodes.push((low + high) / 2);
  }
  return [...nodes, 1];
}

/**
 * One step of x′ = a·x + f: states at the nodes = `start`·x(0) + `force`·f(nodes), node by node.
 * Shapes: a n × n; start (stages·n) × n; force (stages·n) × (stages·n).
 */
export interface Step {
  readonly start: Float64Array;
  readonly force: Float64Array;
}

/** The matrices of a step of the given length, in the time unit of a. Shapes as in `Step`. */
export function stepMatrices(a: readonly (readonly number[])[], length: number): Step {
  const n = a.length;
  const size = stages * n;
  if (size === 0) return { start: new Float64Array(0), force: new Float64Array(0) };
  const { weights } = radau();
  const implicit = Matrix.eye(size, size);
  const spread = Matrix.zeros(size, size);
  for (let i = 0; i < stages; i++) {
    for (let j = 0; j < stages; j++) {
      const w = length * weights.get(i, j);
      for (let p = 0; p < n; p++) {
        spread.set(i * n + p, j * n + p, w);
        for (let q = 0; q < n; q++) {
          implicit.set(i * n + p, j * n + q, implicit.get(i * n + p, j * n + q) - w * a[p]![q]!);
        }
      }
    }
  }
  const solved = inverse(implicit);
  const copies = Matrix.zeros(size, n);
  for (let i = 0; i < size; i++) copies.set(i, i % n, 1);
  return {
    start: Float64Array.from(solved.mmul(copies).to1DArray()),
    force: Float64Array.from(solved.mmul(spread).to1DArray()),
  };
}
