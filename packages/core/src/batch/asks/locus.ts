import { signalFlow, transferBetween } from '../../diagram/reduce.js';
import { expressionsOf } from '../../diagram/reduce.js';
import { Problem } from '../../expression/problem.js';
import { branchesOf, nearestOnLocus, parameterBranches, type Window } from '../../locus/branches.js';
import { onDampingRay } from '../../locus/dampingRay.js';
import { asLoop, atParameter, parametric, type ParametricPolynomial, stableParameters } from '../../locus/parameter.js';
import { routhArray } from '../../locus/routh.js';
import { specialPoints } from '../../locus/specialPoints.js';
import { stableGainsWithDeadTime } from '../../locus/stableRanges.js';
import { evaluate } from '../../rational/evaluate.js';
import type { Fraction } from '../../rational/fraction.js';
import { rationalFromNumber, rationalToNumber } from '../../rational/number.js';
import { add, constant, isZero, multiply, type Polynomial } from '../../rational/polynomial.js';
import { fieldsFor } from '../../symbolic/fraction.js';
import { polynomialFromNumbers } from '../../system/forms.js';
import { type Root, roots } from '../../system/roots.js';
import { fractionToText } from '../../system/text.js';
import { withDeadTime, withoutDeadTime } from '../../system/transfer.js';
import type { Ask } from '../ask.js';
import type { Query } from '../query.js';
import { readSystem, transferIn } from '../systems.js';

const loopIn = (query: Query): Fraction => withoutDeadTime(transferIn(query), 'A root locus');

/** Each root as often as its multiplicity says. */
const pairs = (roots: readonly Root[]): [number, number][] =>
  roots.flatMap(({ re, im, multiplicity }) => Array.from({ length: multiplicity }, (): [number, number] => [re, im]));

/** The window asked for, or one around the poles at both ends of the range. */
function parameterWindow(query: Query, given: ParametricPolynomial, range: readonly number[]): Window {
  if (query.has('window')) return readWindow(query);
  const ends = range.flatMap((value) => roots(atParameter(given, rationalFromNumber(value))));
  return squareWindow(ends);
}

function readWindow(query: Query): Window {
  const fields = query.object('window');
  const window = {
    left: fields.number('left'),
    right: fields.number('right'),
    bottom: fields.number('bottom'),
    top: fields.number('top'),
  };
  fields.finish();
  if (!(window.left < window.right && window.bottom < window.top)) {
    throw new Problem('query', 'The window’s left lies below its right, its bottom below its top.');
  }
  return window;
}

function squareWindow(around: readonly Root[]): Window {
  const reach = 1.5 * (Math.max(0, ...around.map(({ re, im }) => Math.hypot(re, im))) || 1);
  return { left: -reach, right: reach, bottom: -reach, top: reach };
}

const windowIn = (query: Query, loop: Fraction): Window =>
  query.has('window') ? readWindow(query) : squareWindow([...roots(loop.denominator), ...roots(loop.numerator)]);

/** Asks about root loci and stable ranges; documented in docs/compute.md. */
export const locusAsks: readonly Ask[] = [
  {
    name: 'locus',
    answer(query) {
      const loop = loopIn(query);
      const gains = query.has('gains') ? query.numbers('gains', 5000) : [];
      const closedLoopPoles = gains.map((gain) => {
        const characteristic = add(loop.denominator, multiply(constant(rationalFromNumber(gain)), loop.numerator));
        return isZero(characteristic) ? [] : pairs(roots(characteristic));
      });
      return { ...specialPoints(loop), closedLoopPoles };
    },
  },
  {
    name: 'branches',
    answer(query) {
      const loop = loopIn(query);
      return { branches: branchesOf(loop, specialPoints(loop), windowIn(query, loop)) };
    },
  },
  {
    name: 'nearestGain',
    answer(query) {
      const loop = loopIn(query);
      const branches = branchesOf(loop, specialPoints(loop), windowIn(query, loop));
      return nearestOnLocus(loop, branches, query.point('point'));
    },
  },
  {
    name: 'dampingRay',
    answer(query) {
      const ratio = query.number('dampingRatio');
      if (!(ratio > -1 && ratio < 1)) throw new Problem('query', '“dampingRatio” lies between −1 and 1.');
      return { points: onDampingRay(loopIn(query), ratio) };
    },
  },
  {
    name: 'stableGains',
    answer(query) {
      const plain = withDeadTime(transferIn(query));
      if (!plain) throw new Problem('deadTime', 'Stable gains need dead time as a factor of L, not inside a loop.');
      return { intervals: stableGainsWithDeadTime(plain.fraction, plain.deadTime) };
    },
  },
  {
    name: 'stableParameter',
    answer(query) {
      const given = parametricIn(query);
      return { intervals: stableParameters(given) };
    },
  },
  {
    name: 'parameterLocus',
    answer(query) {
      const given = parametricIn(query);
      const loop = asLoop(given);
      const values = query.has('values') ? query.numbers('values', 5000) : [];
      const range = query.has('range') ? query.numbers('range', 2) : null;
      if (range && !(range.length === 2 && range[0]! < range[1]!)) {
        throw new Problem('query', '“range” holds two values of the parameter, the lower first.');
      }
      return {
        ...(loop ? { loop: fractionToText(loop), ...specialPoints(loop) } : { loop: null }),
        poles: values.map((value) => {
          const p: Polynomial = atParameter(given, rationalFromNumber(value));
          return isZero(p) ? [] : pairs(roots(p));
        }),
        ...(range
          ? { branches: parameterBranches(given, range[0]!, range[1]!, parameterWindow(query, given, range)) }
          : {}),
      };
    },
  },
  {
    name: 'routh',
    answer(query) {
      const p = polynomialFromNumbers(query.numbers('polynomial', 60), '“polynomial”');
      if (isZero(p)) throw new Problem('query', 'The zero polynomial has no Routh array.');
      const { rows, signs, signChanges } = routhArray(p);
      return {
        rows: rows.map(({ power, entries, special, auxiliary }) => ({
          power,
          entries: entries.map((entry) => fractionToText(entry, 'ε')),
          ...(special ? { special } : {}),
          ...(auxiliary ? { auxiliary: auxiliary.map(rationalToNumber) } : {}),
        })),
        signs,
        signChanges,
      };
    },
  },
];

/** The characteristic polynomial of a diagram, or the denominator of an expression, with one free parameter. */
function parametricIn(query: Query) {
  const system = readSystem(query);
  const parameter = query.text('parameter');
  if (system.kind === 'numbers') {
    throw new Problem('query', 'A parameter needs a system typed as an expression or as equations.');
  }
  if (system.kind === 'equations') {
    const [field] = fieldsFor([expressionsOf(system.diagram)]);
    const { denominator } = transferBetween(signalFlow(system.diagram, field), system.from, system.to);
    return parametric(denominator, parameter);
  }
  const [field] = fieldsFor([{ trees: [system.tree], definitions: new Map() }]);
  return parametric(evaluate(system.tree, field!.algebra).denominator, parameter);
}
