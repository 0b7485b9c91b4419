import { type CompensatorName, compensatorNames } from '../exercise/names.js';
import { Problem } from '../expression/problem.js';
import type { Compensator } from '../kinds/gains/part.js';
import type { Fraction } from '../rational/fraction.js';
import {
  addRational,
  divideRational,
  multiplyRational,
  negateRational,
  type Rational,
  rational,
  rationalToNumber,
} from '../rational/number.js';
import { add, constant, degree, multiply, type Polynomial, s } from '../rational/polynomial.js';

/** Places of a compensator's zeros and poles, and its gain, by name; what is left out is missing. */
export type CompensatorSet = Readonly<Partial<Record<CompensatorName, Rational | null>>>;

const one = rational(1n);
const real = { zeros: ['z1', 'z2', 'z3'], poles: ['p1', 'p2', 'p3'] } as const;
const pairs = { zeros: ['zr', 'zi'], poles: ['pr', 'pi'] } as const;

/**
 * The compensator with its numbers as a fraction: K·∏(s − z)/∏(s − p), or with every factor divided by its value at
 * s = 0, so that K is the level at low frequency.
 * @throws Problem `notPossible` outside the limits that the exercise states, naming the number and the limit.
 */
export function compensatorFrom(compensator: Compensator, set: CompensatorSet): Fraction {
  const numerator = product(compensator, set, 'zeros');
  const denominator = product(compensator, set, 'poles');
  refuseOutside(compensator, set, degree(numerator) - degree(denominator));
  return { numerator: multiply(constant(set.K ?? one), numerator), denominator };
}

function product({ form }: Compensator, set: CompensatorSet, side: 'zeros' | 'poles'): Polynomial {
  let all = constant(one);
  for (const name of real[side]) {
    const place = set[name];
    if (place) all = multiply(all, scaled(form, add(s, constant(negateRational(place))), negateRational(place), name));
  }
  const [re, im] = [set[pairs[side][0]], set[pairs[side][1]]];
  if (re && im) {
    const square = addRational(multiplyRational(re, re), multiplyRational(im, im));
    const middle = multiply(constant(negateRational(addRational(re, re))), s);
    all = multiply(all, scaled(form, add(multiply(s, s), add(middle, constant(square))), square, pairs[side][0]));
  }
  return all;
}

/** A factor, divided by its value at s = 0 where the form says so. */
function scaled(form: Compensator['form'], factor: Polynomial, level: Rational, name: string): Polynomial {
  if (form === 'factors') return factor;
  if (level.numerator === 0n) {
    throw new Problem('notPossible', `${name} = 0 has no corner frequency; take another place for it.`);
  }
  return multiply(factor, constant(divideRational(one, level)));
}

function refuseOutside({ gains, largestRatio, proper }: Compensator, set: CompensatorSet, excess: number): void {
  const number = (name: CompensatorName): number | undefined => {
    const value = set[name];
    return value ? rationalToNumber(value) : undefined;
  };
  for (const gain of gains) {
    const value = number(gain.name);
    if (value === undefined || !('start' in gain)) continue;
    const { low = -Infinity, high = Infinity } = gain;
    if (value < low || value > high) {
      throw new Problem('notPossible', `${gain.name} must lie between ${shown(low)} and ${shown(high)}.`);
    }
  }
  if (largestRatio !== undefined) {
    for (const [k, name] of real.zeros.entries()) {
      const [zero, pole] = [number(name), number(real.poles[k]!)];
      if (zero === undefined || pole === undefined) continue;
      const ratio = Math.max(Math.abs(pole / zero), Math.abs(zero / pole));
      if (ratio > largestRatio * (1 + 1e-12)) {
        throw new Problem(
          'notPossible',
          `${name} and ${real.poles[k]!} are ${shown(ratio)} times apart; at most ${shown(largestRatio)} is allowed.`,
        );
      }
    }
  }
  if (proper && excess > 0) {
    throw new Problem('notPossible', 'The compensator needs at least as many poles as zeros.');
  }
}

const shown = (value: number): string =>
  Number.isFinite(value) ? String(Number(value.toPrecision(4))).replace('-', '−') : value < 0 ? '−∞' : '∞';

/**
 * What is wrong with the list of a compensator's gains: one missing or twice, a pair with one half.
 * Undefined when it can be used.
 */
export function compensatorTrouble({ gains }: Compensator): string | undefined {
  const names = gains.map(({ name }) => name);
  const twice = names.find((name, k) => names.indexOf(name) < k);
  if (twice) return `${twice} is there twice.`;
  if (!names.includes('K')) return 'A compensator has a gain K.';
  for (const [re, im] of [pairs.zeros, pairs.poles]) {
    const halves = gains.filter(({ name }) => name === re || name === im);
    if (halves.length === 1) return `${re} and ${im} go together: real and imaginary part of a pair.`;
    if (new Set(halves.map((gain) => 'start' in gain && gain.optional === true)).size > 1) {
      return `${re} and ${im} are both optional, or neither.`;
    }
  }
  return undefined;
}

/** The settings that come and go together with this one: both halves of a pair. */
export function partnersOf(name: string): CompensatorName[] {
  const pair = [pairs.zeros, pairs.poles].find((names) => (names as readonly string[]).includes(name));
  return pair ? [...pair] : compensatorNames.filter((known) => known === name);
}
