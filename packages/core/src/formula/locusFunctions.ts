import { Problem } from '../expression/problem.js';
import { countEncirclements } from '../frequency/stability.js';
import { onDampingRay } from '../locus/dampingRay.js';
import { type SpecialPoints, specialPoints } from '../locus/specialPoints.js';
import { type Range, stableGains } from '../locus/stableRanges.js';
import { lowestTerms } from '../rational/fraction.js';
import { rationalToNumber } from '../rational/number.js';
import { degree } from '../rational/polynomial.js';
import { systemOf } from '../system/system.js';
import { type Transfer, withDeadTime } from '../system/transfer.js';
import type { FormulaFunction } from './function.js';

/** The loop without dead time. @throws Problem `deadTime`, naming what was asked for. */
const loopOf = (transfer: Transfer, what: string) => {
  const plain = withDeadTime(transfer);
  if (plain?.deadTime.numerator !== 0n) {
    throw new Problem('deadTime', `${what}: a loop with dead time has infinitely many branches.`);
  }
  return plain.fraction;
};

/** A function of the locus of 1 + K·L, K from 0 to ∞; entries are counted from 1. */
const onLocus = (
  name: string,
  gives: string,
  unitOf: string,
  values: (special: SpecialPoints) => readonly number[],
): FormulaFunction => ({
  usage: `${name}(L, n)`,
  gives,
  fewest: 1,
  most: 2,
  systems: 1,
  unit: unitOf,
  value([of], [n = 1]) {
    const value = values(specialPoints(loopOf(of!, name)))[n - 1];
    if (value === undefined) throw new Problem('exercise', `${name}: this locus has no number ${n} of these.`);
    return value;
  },
});

/** Functions of the loop L = N/D: its locus, its range of stable gains, its encirclements. */
export const locusFunctions: Record<string, FormulaFunction> = {
  centroid: onLocus('centroid', 'Where the asymptotes meet on the real axis.', 'rad/s', ({ asymptotes }) =>
    asymptotes ? [asymptotes.centroid] : [],
  ),
  asymptoteAngle: onLocus(
    'asymptoteAngle',
    'Angle of an asymptote in degrees, the smallest above 0 first.',
    '°',
    ({ asymptotes }) =>
      [...(asymptotes?.anglesDegrees ?? [])].sort((a, b) => (a < 0 ? a + 360 : a) - (b < 0 ? b + 360 : b)),
  ),
  breakPoint: onLocus('breakPoint', 'Real point where branches meet, from the right.', 'rad/s', ({ breakPoints }) =>
    onAxis(breakPoints).map(({ re }) => re),
  ),
  breakGain: onLocus('breakGain', 'Gain K at a real break point, from the right.', '', ({ breakPoints }) =>
    onAxis(breakPoints).map(({ gain }) => gain),
  ),
  crossingFrequency: onLocus(
    'crossingFrequency',
    'Where branches cross the imaginary axis, by rising frequency.',
    'rad/s',
    ({ axisCrossings }) => axisCrossings.map(({ omega }) => omega),
  ),
  crossingGain: onLocus(
    'crossingGain',
    'Gain K at a crossing of the imaginary axis, by rising frequency.',
    '',
    ({ axisCrossings }) => axisCrossings.map(({ gain }) => gain),
  ),
  departureAngle: onLocus(
    'departureAngle',
    'Angle in degrees in which a branch leaves a complex pole with positive imaginary part.',
    '°',
    ({ departures }) => departures.filter(({ im }) => im > 0).map(({ degrees }) => degrees),
  ),
  arrivalAngle: onLocus(
    'arrivalAngle',
    'Angle in degrees from which a branch reaches a complex zero with positive imaginary part, seen from the zero.',
    '°',
    ({ arrivals }) => arrivals.filter(({ im }) => im > 0).map(({ degrees }) => degrees),
  ),
  lowestStableGain: {
    ...onLocus('lowestStableGain', 'From which K on the loop is stable.', '', () => []),
    usage: 'lowestStableGain(L)',
    most: 1,
    value: ([of]) => stableRange(of!)[0],
  },
  highestStableGain: {
    ...onLocus('highestStableGain', 'Up to which K the loop is stable.', '', () => []),
    usage: 'highestStableGain(L)',
    most: 1,
    value: ([of]) => stableRange(of!)[1],
  },
  gainForDamping: {
    usage: 'gainForDamping(L, zeta)',
    gives: 'Smallest K with which a pole has this damping ratio.',
    fewest: 2,
    most: 2,
    systems: 1,
    value([of], [zeta]) {
      const gains = onDampingRay(loopOf(of!, 'gainForDamping'), zeta!).map(({ gain }) => gain);
      if (gains.length === 0) {
        throw new Problem('exercise', 'gainForDamping: no pole of this locus has that damping ratio.');
      }
      return Math.min(...gains);
    },
  },
  branches: {
    usage: 'branches(L)',
    gives: 'Number of branches of the locus.',
    fewest: 1,
    most: 1,
    systems: 1,
    value([of]) {
      const { numerator, denominator } = lowestTerms(loopOf(of!, 'branches'));
      return Math.max(degree(numerator), degree(denominator));
    },
  },
  unstablePoles: {
    usage: 'unstablePoles(T)',
    gives: 'Number of poles in the right half-plane, in lowest terms.',
    fewest: 1,
    most: 1,
    systems: 1,
    value: ([of]) =>
      systemOf(lowestTerms(loopOf(of!, 'unstablePoles'))).poles.reduce(
        (sum, { re, multiplicity }) => sum + (re > 0 ? multiplicity : 0),
        0,
      ),
  },
  encirclements: {
    usage: 'encirclements(L)',
    gives: 'How often L(jω) goes round −1 clockwise, ω from −∞ to ∞; negative when it goes the other way.',
    fewest: 1,
    most: 1,
    systems: 1,
    value([of]) {
      const plain = withDeadTime(of!);
      const { encirclements } = plain
        ? countEncirclements(lowestTerms(plain.fraction), rationalToNumber(plain.deadTime))
        : { encirclements: null };
      if (encirclements === null) throw new Problem('exercise', 'encirclements: L goes through −1, or has no count.');
      return encirclements;
    },
  },
};

const onAxis = (points: SpecialPoints['breakPoints']): SpecialPoints['breakPoints'] =>
  points.filter(({ im }) => im === 0).sort((a, b) => b.re - a.re);

function stableRange(transfer: Transfer): Range {
  const [range, second] = stableGains(loopOf(transfer, 'The range of gains'));
  if (!range) throw new Problem('exercise', 'The loop is stable for no positive gain.');
  if (second) throw new Problem('exercise', 'The loop is stable in more than one range of gains.');
  return range;
}
